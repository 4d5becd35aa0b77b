import { exp, logistic } from '../exact/functions'
import { normalFrom } from '../exact/normal'
import { type Kind, power, knownAtFirst } from './person'

/**
 * Grasps a topic or does not: the first hours on it bring little, then it comes at once, then little more is to be had; what is grasped
 * hardly fades, what is half grasped is gone in a few weeks. A section's topics help each other. Changing the topic costs some minutes;
 * what a test shows counts for little until its review.
 */
export const grasping: Kind = (setting) => {
  const { exam, taus, random, today } = setting
  const normal = () => normalFrom(random())
  const general = -0.1 + 0.8 * normal()
  const steep = 1.3 + random()
  const speed = exp(0.3 * normal())
  const changing = 2 + 4 * random()
  const helps = 0.1 + 0.2 * random()
  const start = knownAtFirst(
    exam.topics.map(() => logistic(general + 0.8 * normal())),
    setting,
  )
  const depth = start.map(() => 0)
  const last = start.map(() => today)
  const slow = 0.1 * random()
  let tests = 0
  let before = -1
  const grasped = (hours: number) => 1 - 1 / (1 + (hours > 0 ? power(1.6 * hours, steep) : 0))
  /** Effective hours over the topic's own, less what has faded while it was half grasped. */
  const depthOn = (at: number, day: number) => {
    const gap = Math.max(0, day - last[at]!)
    const firm = grasped(depth[at]!)
    return depth[at]! * (firm + (1 - firm) * exp(-gap / 18))
  }
  const deepen = (at: number, minutes: number, day: number) => {
    const mates = exam.topics.flatMap(({ section }, other) =>
      section === exam.topics[at]!.section && other !== at ? [other] : [],
    )
    const around = mates.reduce((sum, other) => sum + grasped(depth[other]!), 0) / Math.max(1, mates.length)
    depth[at] = depthOn(at, day) + (speed * (1 + helps * around) * minutes) / 60 / taus[at]!
    last[at] = day
  }
  const knows = (at: number, day: number) => {
    const old = start[at]! * exp(-Math.max(0, day - today) / 900)
    return old + (1 - old) * grasped(depthOn(at, day))
  }
  return {
    keeps: () => random() > 0.12,
    blanks: 0.3 * random(),
    day: () => 0.14 * normal(),
    ofSection: () => 0.1 * normal(),
    maker: 0.2 * normal(),
    knows,
    reaches: () => Math.min(1, 1 - slow * exp(-tests / 2) + 0.02 * normal()),
    times: (minutes) => {
      tests += minutes / 170
    },
    works(day, kind, minutes, topics) {
      if (kind === 'test') {
        tests += minutes / 170
        return
      }
      if (topics.length) {
        const [lead] = topics
        const left = Math.max(0, minutes - (lead === before && topics.length === 1 ? 0 : changing))
        for (const at of topics) deepen(at, left / topics.length, day)
        before = topics.length === 1 ? lead! : -1
        return
      }
      const missed = exam.topics.map(({ share }, at) => share * (1 - knows(at, day)))
      const all = missed.reduce((a, b) => a + b, 0)
      missed.forEach((part, at) => deepen(at, (0.9 * minutes * part) / all, day))
    },
  }
}
