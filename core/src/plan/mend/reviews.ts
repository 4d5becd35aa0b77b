import type { ReviewSession } from '@climber/contract'
import { byTime, endOf, ofKind, otherPartsOf, startOf } from '../../sessions/session'
import type { Mending } from './mending'
import { placeReview } from './pieces'
import { placeTest } from './tests'

/** Reviews that wait by themselves: between their test and the next; else the test looks for another day with them. */
export function placeReviews(mending: Mending, waiting: ReviewSession[]): void {
  const { input, today, ground, placed, settled } = mending
  for (const review of [...waiting].sort(byTime)) {
    // Dealt with along with its test, perhaps since an earlier part of the same review found no room.
    if (settled.has(review.id)) continue
    const test = mending.active().find(({ id }) => id === review.of)
    const parts = test?.kind === 'test' ? otherPartsOf(test, mending.active()) : []
    const after = Math.max(test ? endOf(test) : -Infinity, today * 1440 + input.nowMinute)
    const later = mending
      .tests()
      .filter((other) => !test || (startOf(other) > startOf(test) && !parts.includes(other)))
    const next = Math.min(...later.map(startOf), ground.taper * 1440)
    if (placeReview(mending, [review], after, next)) continue
    if (test?.kind !== 'test' || !placed.has(test.id)) {
      mending.drop(review, 'No free time is left before the next test.')
      continue
    }
    // A planned test without its whole review is no use: it looks for another day with all of it.
    mending.lift(test)
    placeTest(mending, test)
  }
}

export const waitingReviews = (mending: Mending): ReviewSession[] =>
  ofKind([...mending.displaced, ...mending.slipped], 'review')
