import type { ReviewItem } from './item'

/** Minutes that one item takes, learned from the log. */
export interface ReviewPace {
  /** Minutes of an item that was missed, and of one that was right. */
  missed: number
  other: number
  /** Items that were timed. */
  timed: number
}

/** Items at which the log counts as much as what is usual. */
const trust = 10
/** What was right needs so much of the time of a miss. */
const otherShare = 0.5
/** Fewer items than that say nothing. */
const fewest = 5

/**
 * Minutes an item takes in review, by kind, drawn to `usual` minutes of a miss while the log is thin; undefined while it says
 * nothing. Source: docs/models.md, 10.
 */
export function reviewPace(items: readonly ReviewItem[], usual: number): ReviewPace | undefined {
  const timed = items.filter(({ note }) => note?.reviewedOn && note.seconds)
  if (timed.length < fewest) return undefined
  const pace = (own: readonly ReviewItem[], prior: number) =>
    (own.reduce((sum, { note }) => sum + (note?.seconds ?? 0) / 60, 0) + trust * prior) / (own.length + trust)
  return {
    missed: pace(
      timed.filter(({ lost }) => lost > 0),
      usual,
    ),
    other: pace(
      timed.filter(({ lost }) => lost === 0),
      usual * otherShare,
    ),
    timed: timed.length,
  }
}

/** Minutes for items of both kinds at a pace. */
export const minutesAt = ({ missed, other }: ReviewPace, misses: number, others: number): number =>
  missed * misses + other * others
