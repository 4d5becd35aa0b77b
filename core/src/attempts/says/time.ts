import { type ReadItem } from './item'

/** Items whose time went wrong. */
export interface TimeSpent {
  /** Over twice their budget and not right. */
  sinks: ReadItem[]
  /** Under two fifths of their budget and wrong. */
  rushes: ReadItem[]
  /** Seconds of the sinks beyond their budgets. */
  lostSeconds: number
  /** Items at the pace of what was not reached that these seconds would have been worth, at most those that there were. */
  itemsLost: number
  /** Marks to expect of these. */
  marksLost: number
  notReached: ReadItem[]
  /** Items with times. */
  timed: number
}

/** Times the budget from which a miss was a sink; share of the budget below which one was rushed. */
export const sinkFrom = 2
export const rushBelow = 0.4

/** What the minutes of one section went into. Items without times are neither sinks nor rushes. */
export function timeSpent(items: readonly ReadItem[]): TimeSpent {
  const withTimes = items.filter(({ seconds, reached }) => reached && seconds !== undefined)
  const over = ({ seconds = 0, budget }: ReadItem) => Math.max(0, seconds - budget)
  const sinks = withTimes.filter(
    ({ outcome, seconds = 0, budget }) => outcome !== 'right' && seconds > sinkFrom * budget,
  )
  const rushes = withTimes.filter(
    ({ outcome, seconds = 0, budget }) => outcome === 'wrong' && seconds < rushBelow * budget,
  )
  const lostSeconds = sinks.reduce((sum, item) => sum + over(item), 0)
  const notReached = items.filter(({ reached }) => !reached)
  let left = lostSeconds
  let itemsLost = 0
  let marksLost = 0
  for (const { budget, expected, marks, perWrong } of notReached) {
    const share = budget > 0 ? Math.min(1, left / budget) : 0
    if (share <= 0) break
    left -= share * budget
    itemsLost += share
    marksLost += share * Math.max(0, expected * marks - (1 - expected) * perWrong)
  }
  return { sinks, rushes, lostSeconds, itemsLost, marksLost, notReached, timed: withTimes.length }
}

/** The same of several sections or tests: minutes of one are worth nothing in another. */
export function timeInAll(parts: readonly TimeSpent[]): TimeSpent {
  const all = (of: (part: TimeSpent) => ReadItem[]) => parts.flatMap(of)
  const sum = (of: (part: TimeSpent) => number) => parts.reduce((total, part) => total + of(part), 0)
  return {
    sinks: all(({ sinks }) => sinks),
    rushes: all(({ rushes }) => rushes),
    lostSeconds: sum(({ lostSeconds }) => lostSeconds),
    itemsLost: sum(({ itemsLost }) => itemsLost),
    marksLost: sum(({ marksLost }) => marksLost),
    notReached: all(({ notReached }) => notReached),
    timed: sum(({ timed }) => timed),
  }
}
