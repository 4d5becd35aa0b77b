import type { PlanSession, ReviewSession, TestSession } from '@climber/contract'
import {
  byTime,
  endOf,
  followsOf,
  isActive,
  isTest,
  ofKind,
  otherPartsOf,
  reviewsOf,
  startOf,
} from '../../sessions/session'
import { dayNumber } from '../../time/day'
import { lastRehearsalWithin } from '../tests/place'
import type { Mending } from './mending'
import { placeReview } from './pieces'
import { placeTest } from './tests'

/** A review of what was sat stands at most so many days after it, where it was planned for a later sitting. */
const freshFor = 5

/** The test that a review or a retest follows, wherever it stands. */
const testOf = ({ input }: Mending, follower: PlanSession, all: PlanSession[]) =>
  [...all, ...input.lived]
    .filter(isTest)
    .find(({ id, status }) => id === followsOf(follower) && isActive({ status }))

/**
 * What follows a test stands or falls with it: without one that is sat or to be sat it goes; of one that was sat on another day than
 * planned it looks for a place after that.
 */
export function followTests(mending: Mending): void {
  const { placed, displaced, today } = mending
  const all = mending.active()
  for (const one of [...placed.values()]) {
    if (one.kind !== 'review' && one.kind !== 'retest') continue
    if (one.of === undefined || one.pinned) continue
    const test = testOf(mending, one, all)
    if (!test) {
      mending.lift(one)
      mending.settled.add(one.id)
      mending.drop(one, 'Its test is not sat.')
      continue
    }
    if (one.kind !== 'review' || test.status !== 'done') continue
    const from = Math.max(endOf(test), today * 1440)
    const late = startOf(one) - from > freshFor * 1440 && startOf(one) - endOf(test) > 2 * freshFor * 1440
    if (startOf(one) < endOf(test) || late) {
      mending.lift(one)
      displaced.push(one)
    }
  }
}

/** A test with less of its review than this is short of it; where one was said to be short, that one is. */
const enoughReview = { usual: 0.6, said: 0.97 }

/** A planned test that is short of review has the rest of it, or looks for another day with it; the last rehearsal may stay short. */
export function fillReviews(mending: Mending): void {
  const { input, ground, placed, displaced, name, previous } = mending
  const enough = enoughReview[previous.notices.some(({ code }) => code === 'short-review') ? 'said' : 'usual']
  for (const test of mending.tests()) {
    if (!placed.has(test.id) || test.pinned || (test.split && test.split.number < test.split.of)) continue
    if (dayNumber(test.date) >= ground.exam - lastRehearsalWithin) continue
    const tested = test.split?.wholeMinutes ?? test.minutes
    const whole = Math.round((tested * input.settings.reviewRatio) / 5) * 5
    const has = reviewsOf(test.id, mending.everyone()).reduce((sum, { minutes }) => sum + minutes, 0)
    if (has >= enough * whole) continue
    const rest: ReviewSession = {
      id: name(`review.${test.form ?? 'own'}`),
      date: test.date,
      start: test.start,
      minutes: whole - has,
      kind: 'review',
      ...(test.form !== undefined && { form: test.form }),
      of: test.id,
      pinned: false,
      status: 'planned',
    }
    displaced.push(rest)
  }
}

/** The test that a review of what was sat has to be finished before, and that may be moved out of its way. */
function nextMovable(mending: Mending, later: TestSession[]): TestSession | undefined {
  const [next] = [...later].sort(byTime)
  return next && isTest(next) && !next.pinned && !next.split && mending.placed.has(next.id) ? next : undefined
}

/** A review of what was sat goes before the next test: that one moves out of its way, with its own review. */
function beforeNext(mending: Mending, review: ReviewSession, after: number, later: TestSession[]): boolean {
  const next = nextMovable(mending, later)
  if (!next) return false
  const { placed, displaced, ground } = mending
  const own = ofKind([...placed.values()], 'review').filter(({ of }) => of === next.id)
  for (const one of [next, ...own]) mending.lift(one)
  const rest = later.filter(({ id }) => id !== next.id)
  const until = Math.min(...rest.map(startOf), ground.taper * 1440)
  const fits = () => placeReview(mending, [review], after, until)
  if (!fits() && !mending.clearing(fits)) {
    for (const one of [next, ...own]) mending.take(one)
    return false
  }
  displaced.push(...own)
  placeTest(mending, next)
  return true
}

/** Reviews that wait by themselves: between their test and the next; else the test looks for another day with them. */
export function placeReviews(mending: Mending, waiting: ReviewSession[]): void {
  const { input, today, ground, placed, settled } = mending
  for (const review of [...waiting].sort(byTime)) {
    // Dealt with along with its test, perhaps since an earlier part of the same review found no room.
    if (settled.has(review.id) || placed.has(review.id)) continue
    const test = testOf(mending, review, mending.active())
    if (!test && review.of !== undefined) {
      mending.drop(review, 'Its test is not sat.')
      continue
    }
    const parts = test ? otherPartsOf(test, mending.active()) : []
    const after = Math.max(test ? endOf(test) : -Infinity, today * 1440 + input.nowMinute)
    const later = mending
      .tests()
      .filter((other) => !test || (startOf(other) > startOf(test) && !parts.includes(other)))
    const next = Math.min(...later.map(startOf), ground.taper * 1440)
    const inTime = () => placeReview(mending, [review], after, next)
    if (inTime() || mending.clearing(inTime)) continue
    if (!test || !placed.has(test.id)) {
      if (!beforeNext(mending, review, after, later))
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
