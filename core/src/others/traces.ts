import { exp, logistic } from '../exact/functions'
import { normalFrom } from '../exact/normal'
import { type Kind, type Person, power, knownAtFirst } from './person'

/**
 * Every session leaves a trace of its own; what is known is what any of the traces gives back. Traces fade by a power of their age, later
 * ones more slowly. Tired after an hour and a half in a day, and skips a sixth of what was planned, more when tired the day before.
 */
export const traces: Kind = (setting): Person => {
  const { exam, taus, random, today } = setting
  const normal = () => normalFrom(random())
  const ability = -0.3 + 0.7 * normal()
  const start = knownAtFirst(
    exam.topics.map(() => logistic(ability + 0.8 * normal())),
    setting,
  )
  const strength = 0.75 * exp(0.3 * normal())
  const decay = 0.15 + 0.1 * random()
  const left: { day: number; gives: number }[][] = start.map(() => [])
  let [today_, minutesToday, tired] = [today, 0, false]
  let tests = 0
  const slow = 0.08 + 0.08 * random()
  const knows = (at: number, day: number): number => {
    let missing = 1 - start[at]! * (1 - 0.0006 * Math.max(0, day - today))
    left[at]!.forEach(({ day: then, gives }, number) => {
      missing *= 1 - gives * power(1 + Math.max(0, day - then), -decay / (1 + 0.35 * number))
    })
    return 1 - missing
  }
  return {
    keeps: () => random() > (tired ? 0.25 : 0.12),
    blanks: 0.5 * random() * random(),
    day: () => 0.15 * normal(),
    ofSection: () => 0.12 * normal(),
    maker: 0.25 * normal(),
    knows,
    reaches: () => Math.min(1, 1 - slow * exp(-tests / 3) + 0.02 * normal()),
    times: (minutes) => {
      tests += minutes / 160
    },
    works(day, kind, minutes, topics) {
      if (day !== today_) [tired, today_, minutesToday] = [minutesToday > 120, day, 0]
      const fresh = Math.max(0, Math.min(minutes, 90 - minutesToday))
      const spent = fresh + 0.55 * (minutes - fresh)
      minutesToday += minutes
      if (kind === 'test') {
        tests += minutes / 160
        return
      }
      const all = topics.length
        ? topics.map((at) => ({ at, part: 1 / topics.length }))
        : exam.topics.map(({ share }, at) => ({
            at,
            part: (share / exam.sections.length) * 1.3 * (1 - knows(at, day)),
          }))
      for (const { at, part } of all) {
        const hours = (spent * part) / 60
        if (hours > 0.03) left[at]!.push({ day, gives: 1 - exp((-strength * 1.5 * hours) / taus[at]!) })
      }
    },
  }
}
