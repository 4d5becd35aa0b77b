import { exp } from '../exact/functions'
import { normalFrom } from '../exact/normal'
import { type Kind, type Person, power, knownAtFirst } from './person'

/**
 * Learns by a power law at a pace of each topic's own, slower where what a topic builds on is not known, and forgets by a power law that
 * every day of work on a topic flattens. A test teaches nothing but to get to the end; its review teaches what was missed.
 */
export const powerLaw: Kind = (setting): Person => {
  const { exam, taus, random, today } = setting
  const normal = () => normalFrom(random())
  const inside = (value: number) => Math.min(0.98, Math.max(0.02, value))
  const middle = 0.25 + 0.4 * random()
  const start = knownAtFirst(
    exam.topics.map(() => inside(middle + 0.17 * normal())),
    setting,
  )
  const place = new Map(exam.topics.map(({ id }, at) => [id, at]))
  const paces = taus.map((tau) => tau * exp(0.35 * normal()))
  const bend = 1.2 + 0.8 * random()
  const fade = 0.12 + 0.12 * random()
  const slips = 0.05 + 0.15 * random()
  const hours = start.map(() => 0)
  const touches = start.map(() => 0)
  const last = start.map(() => today)
  let tests = 0
  const knows = (at: number, day: number): number => {
    const gained = (1 - start[at]!) * (1 - power(1 + hours[at]! / (bend * paces[at]!), -bend))
    return (
      start[at]! + gained * power(1 + Math.max(0, day - last[at]!) / (3 * (1 + 0.8 * touches[at]!)), -fade)
    )
  }
  const learn = (at: number, minutes: number, day: number) => {
    const slow = exam.topics[at]!.prerequisites.some((id) => knows(place.get(id)!, day) < 0.4)
    hours[at]! += ((slow ? 0.6 : 1) * minutes) / 60
    if (day > last[at]! || !touches[at]) touches[at]! += 1
    last[at] = day
  }
  const maker = 0.2 * normal()
  return {
    keeps: () => random() >= slips,
    blanks: 0.3 * random(),
    day: () => 0.16 * normal(),
    ofSection: () => 0.1 * normal(),
    maker,
    knows,
    reaches: () => 1 - 0.12 * exp(-tests / 2),
    times: (minutes) => {
      tests += minutes / 150
    },
    works(day, kind, minutes, topics) {
      const spent = minutes * exp(0.15 * normal())
      if (kind === 'test') tests += minutes / 150
      else if (topics.length) for (const at of topics) learn(at, spent / topics.length, day)
      else {
        const missed = exam.topics.map(({ share }, at) => ({ at, part: share * (1 - knows(at, day)) }))
        const all = missed.reduce((sum, { part }) => sum + part, 0)
        for (const { at, part } of missed.sort((a, b) => b.part - a.part).slice(0, 6))
          learn(at, (spent * part) / all, day)
      }
    },
  }
}
