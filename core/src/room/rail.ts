import type { PartState, RoomState } from './state'

/** What the pace gives the items of a part, by their place on its paper, and when each is to be left. Seconds. */
export interface PartPace {
  /** The second stage of an adaptive section that it is for. */
  stage?: string
  budgets: number[]
  /** Seconds after which an item is better left; null where there is time enough. */
  leave: (number | null)[]
  checkpoints: { item: number; seconds: number }[]
}

/** Where one is against the pace. Seconds. */
export interface Rail {
  /** Ahead of the pace; behind where negative. */
  ahead: number
  /** Of the part's time, stops left out. */
  spent: number
  /** On the item taken up: so far, and after how many it is better left. */
  on?: { spent: number; budget: number; leave: number | null }
  /** The next checkpoint. */
  next?: { item: number; seconds: number }
}

/** Seconds for which the clock of a part was stopped by `now`, a stop under way included. */
const stopped = ({ stops, stopped: since }: RoomState, began: number, now: number): number =>
  stops.reduce((sum, { at, seconds }) => (at >= began ? sum + seconds : sum), 0) +
  (since !== undefined && since >= began ? Math.max(0, now - since) : 0)

/** The pace of the way that a part took. */
export const paceOf = (part: PartState, paces: readonly PartPace[]): PartPace | undefined =>
  paces.find(({ stage }) => stage === part.stage?.id) ?? paces[0]

/**
 * Where the part under way is against its pace. Items that are answered, done with, or were left have had their budget; the one
 * taken up has had as much as it took, at most its budget. Where only checkpoints are pressed, nothing is known between two of
 * them: one is where the last one was, until the time of the next is over.
 */
export function railOf(state: RoomState, pace: PartPace, now: number): Rail | undefined {
  const part = state.parts[state.at]
  if (state.phase !== 'working' || !part) return undefined
  const first = part.items[0]?.item ?? 1
  const spent = Math.max(0, now - part.began - stopped(state, part.began, now))
  const last = part.checkpoints[part.checkpoints.length - 1]
  const next = pace.checkpoints.find(({ item }) => item > (last ? last.item - first + 1 : 0))
  const stands = { spent, ...(next && { next: { item: next.item + first - 1, seconds: next.seconds } }) }
  if (last) {
    const due = pace.budgets.slice(0, last.item - first + 1).reduce((sum, own) => sum + own, 0)
    const late = next ? Math.max(0, spent - next.seconds) : 0
    return { ahead: late > 0 ? -late : due - last.seconds, ...stands }
  }
  const { current } = state
  let due = 0
  let on: Rail['on']
  part.items.forEach((item, place) => {
    const budget = pace.budgets[place] ?? 0
    if (item.item === current?.item) {
      const took = Math.max(0, (state.stopped ?? now) - current.since)
      on = { spent: took, budget, leave: pace.leave[place] ?? null }
      const before = item.visits.reduce((sum, own) => sum + own, 0)
      due += item.answer || item.done || item.left ? budget : Math.min(budget, before + took)
    } else if (item.answer || item.done || item.visits.length > 0) due += budget
  })
  return { ahead: due - spent, ...stands, ...(on && { on }) }
}
