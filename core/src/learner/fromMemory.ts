import type { Recalled, RecalledDay } from '@climber/contract'
import type { DayNumber } from '../time/day'
import { type Answers, type Known, ofTopic, scaled, weights } from './cells'

/** Seconds of answers from memory on one day that count as having been at a topic: a choice. */
const atLeast = 120
/** Whether a day says anything: many a one has only answers that came out as those before, in less time than counts. */
export const tells = ({ seconds, cards, numbers, items }: RecalledDay): boolean =>
  seconds >= atLeast || Boolean(cards ?? numbers ?? items)
/** Whether a day of it counts as having been at the topic. */
export const touches = ({ seconds }: RecalledDay): boolean => seconds >= atLeast

/** What was brought back from memory, as it stands by `today`: of each topic on the day when it was last told. */
export function ofMemory(known: Known, { days }: Recalled, today: DayNumber): Answers[] {
  const found = new Map<
    string,
    { at: number; day: DayNumber; kind: 'cards' | 'numbers' | 'items'; right: number; of: number }
  >()
  for (const one of days) {
    const at = known.topicAt.get(one.topic)
    if (at === undefined || one.day > today) continue
    for (const kind of ['cards', 'numbers', 'items'] as const) {
      const [right, of] = one[kind] ?? [0, 0]
      if (!right && !of) continue
      const key = `${kind} ${at}`
      const before = found.get(key) ?? { at, day: one.day, kind, right: 0, of: 0 }
      found.set(key, { ...before, day: one.day, right: before.right + right, of: before.of + of })
    }
  }
  return [...found.values()].map(({ at, day, kind, right, of }): Answers => {
    const own = ofTopic(known, at)
    const cell = {
      ...own,
      ...(kind !== 'items' && { guess: 0 }),
      right,
      wrong: Math.max(0, of - right),
      blank: 0,
      easier: 0,
    }
    return {
      day,
      variance: 0,
      of: 'memory',
      cells: [scaled(cell, kind === 'cards' ? weights.fact : weights.met)],
      reached: [],
    }
  })
}
