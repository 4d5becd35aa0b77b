import { exp, logistic } from '../exact/functions'
import { normalFrom } from '../exact/normal'
import { type Kind, knownAtFirst } from './person'

/** Facts of one topic, each known or not, and for how long. */
interface Fact {
  /** Day of the last success, and days for which it then holds; never, where it was not met. */
  last: number
  holds: number
}
const facts = 24

/**
 * Knows a topic fact by fact: each is at hand or is not. An hour meets so many of them, those that were lost as readily as new ones; a
 * fact met when it was about to be lost holds nearly three times as long afterwards, one met too soon hardly longer. A test goes through
 * a few facts of every topic and tells of those missed, which its review takes up. Marks time well from the first test on.
 */
export const factByFact: Kind = (setting) => {
  const { exam, taus, random, today } = setting
  const normal = () => normalFrom(random())
  const general = -0.4 + 0.8 * normal()
  const firmness = 6 * exp(0.4 * normal())
  const start = knownAtFirst(
    exam.topics.map(() => logistic(general + 0.9 * normal())),
    setting,
  )
  const bag = start.map((known) => {
    return Array.from({ length: facts }, (): Fact | undefined =>
      random() < known ? { last: today, holds: 60 + 300 * random() } : undefined,
    )
  })
  const speed = exp(0.35 * normal())
  const slow = 0.04 + 0.1 * random()
  let tests = 0
  const at = (fact: Fact | undefined, day: number) => fact !== undefined && day - fact.last <= fact.holds
  const meet = (topic: number, which: number, day: number) => {
    const fact = bag[topic]![which]
    if (!fact) {
      bag[topic]![which] = { last: day, holds: firmness * (0.5 + random()) }
      return
    }
    const spent = (day - fact.last) / fact.holds
    const grows = spent > 1 ? 1.3 : 1 + 1.8 * spent
    bag[topic]![which] = { last: day, holds: Math.max(fact.holds, firmness * 0.5) * grows }
  }
  const work = (topic: number, hours: number, day: number) => {
    let meets = (facts * speed * hours * 1.15) / taus[topic]!
    while (meets > 0) {
      if (meets < 1 && random() > meets) break
      meets--
      // Looks for what is not at hand, and finds it two times in three.
      const lost = bag[topic]!.flatMap((fact, which) => (at(fact, day) ? [] : [which]))
      const any = Math.floor(random() * facts)
      meet(topic, lost.length && random() < 0.67 ? lost[Math.floor(random() * lost.length)]! : any, day)
    }
  }
  return {
    keeps: () => random() > 0.1,
    blanks: 0.4 * random(),
    day: () => 0.1 * normal(),
    ofSection: () => 0.1 * normal(),
    maker: 0.3 * normal(),
    knows: (topic, day) => bag[topic]!.filter((fact) => at(fact, day)).length / facts,
    reaches: () => Math.min(1, 1 - slow * exp(-tests) + 0.02 * normal()),
    times: (minutes) => {
      tests += minutes / 150
    },
    works(day, kind, minutes, topics) {
      if (kind === 'test') tests += minutes / 150
      if (topics.length) for (const one of topics) work(one, minutes / 60 / topics.length, day)
      else
        exam.topics.forEach(({ share }, topic) =>
          work(topic, ((kind === 'test' ? 0.2 : 1) * share * minutes) / 60 / exam.sections.length, day),
        )
    },
  }
}
