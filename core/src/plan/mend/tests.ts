import type { ReviewSession, TestSession } from '@climber/contract'
import { formsWithin, metTooNear } from '../../attempts/sat'
import {
  endOf,
  followsOf,
  isTest,
  isWhole,
  ofKind,
  otherPartsOf,
  partOf,
  reviewsOf,
  startOf,
} from '../../sessions/session'
import { dayNumber, type DayNumber, minuteOf } from '../../time/day'
import { type Mending, movedTo } from './mending'
import { placeReview } from './pieces'

/** How far, in days, a test may move. */
const testReach = 6
/** Days between neighbouring parts of a test that is split. */
const splitDays = 4

/** A start for the whole of a test on a day: the exam's own, or the nearest there is. */
function startOn(mending: Mending, test: TestSession, day: DayNumber): number | undefined {
  const exact = minuteOf(mending.input.sitting.start)
  const spans = mending.gaps(day, test.minutes)
  const span =
    spans.find(({ from, to }) => from <= exact && exact + test.minutes <= to) ??
    spans.sort((a, b) => Math.abs(a.from - exact) - Math.abs(b.from - exact))[0]
  return span && Math.min(Math.max(span.from, exact), span.to - test.minutes)
}

/** A publisher's form that was kept for the rehearsals would be spent before them, or after. */
const leavesRehearsals = (mending: Mending, test: TestSession, day: DayNumber): boolean =>
  mending.isKeptForm(test) && !mending.rehearses(day)

/** It is another maker's, and comes after one that is kept for the end and was given to the tests just before the rehearsals. */
export const followsKept = (
  mending: Mending,
  test: TestSession,
  others: TestSession[],
  start: number,
): boolean =>
  isWhole(test) &&
  !test.seen &&
  !mending.keptForms.has(test.form ?? '') &&
  others.some(
    (other) =>
      isWhole(other) &&
      other.status === 'planned' &&
      !other.seen &&
      mending.keptForms.has(other.form ?? '') &&
      startOf(other) < start &&
      !mending.rehearses(dayNumber(other.date)),
  )

/** Another test, or its review, runs on into that start; the same form stands too near; another part stands wrongly. */
function standsAgainst(
  mending: Mending,
  test: TestSession,
  others: TestSession[],
  day: DayNumber,
  start: number,
): boolean {
  const { input } = mending
  const wanted = { form: test.form, sections: partOf(test) }
  if (metTooNear([...input.sat, ...formsWithin(others)], wanted, day)) return true
  const active = mending.active()
  const earlier = others.filter((other) => startOf(other) < start)
  const runsOn = (other: TestSession) =>
    endOf(other) > start || reviewsOf(other.id, active).some((review) => endOf(review) > start)
  if (earlier.some(runsOn)) return true
  const number = test.split?.number ?? 1
  return otherPartsOf(test, active).some((part) => {
    const its = part.split?.number ?? 1
    const apart = Math.abs(its - number) === 1 && Math.abs(dayNumber(part.date) - day) > splitDays
    return apart || (its < number ? start < endOf(part) : start + test.minutes > startOf(part))
  })
}

/** Why a test that was moved stands where it stands now. */
function hourAt({ hour, split }: TestSession, from: number, exact: number): TestSession['hour'] {
  if (split) return 'split'
  return from === exact ? undefined : (hour ?? 'moved')
}

/** A test at a start, with its reviews between it and the next test; false, and nothing changed, where they find no room. */
function settle(
  mending: Mending,
  moved: TestSession,
  reviews: ReviewSession[],
  others: TestSession[],
): boolean {
  const { placed, ground, settled } = mending
  const stood = reviews.filter(({ id }) => placed.has(id))
  const next = Math.min(...others.map(startOf).filter((start) => start > startOf(moved)), ground.taper * 1440)
  mending.take(moved)
  stood.forEach((review) => mending.lift(review))
  const inPlace = stood.filter((review) => startOf(review) >= endOf(moved) && endOf(review) <= next)
  inPlace.forEach((review) => mending.take(review))
  const rest = reviews.filter(({ id }) => !inPlace.some((review) => review.id === id))
  // From the day after on, as in a new plan; else on its own day.
  const nextDay = (dayNumber(moved.date) + 1) * 1440
  if (placeReview(mending, rest, nextDay, next) || placeReview(mending, rest, endOf(moved), next)) {
    for (const { id } of rest) settled.add(id)
    return true
  }
  inPlace.forEach((review) => mending.lift(review))
  stood.forEach((review) => mending.take(review))
  mending.lift(moved)
  return false
}

/** A part of a test is none: the others go too, with what follows from them. */
export function dropTest(mending: Mending, test: TestSession, why: string): void {
  mending.drop(test, why)
  const everyone = mending.everyone()
  const parts = otherPartsOf(test, everyone)
  const after = (id: string) =>
    everyone
      .filter(({ kind }) => kind === 'review' || kind === 'retest')
      .filter((one) => followsOf(one) === id)
  for (const follower of [...after(test.id), ...parts.flatMap((part) => [part, ...after(part.id)])]) {
    const stands = mending.placed.has(follower.id)
    if (mending.settled.has(follower.id) && !stands) continue
    if (stands) mending.lift(follower)
    mending.settled.add(follower.id)
    mending.drop(follower, 'Its test found no place.')
  }
}

/** A test to the nearest day that has room for it and its review, with study that stands there out of its way if need be; it is dropped where none has. */
export function placeTest(mending: Mending, test: TestSession): void {
  const reviews = ofKind(mending.everyone(), 'review').filter(({ of }) => of === test.id)
  const exact = minuteOf(mending.input.sitting.start)
  const own = new Set([test, ...otherPartsOf(test, mending.active())].map(({ id }) => id))
  const others = mending.tests().filter(({ id }) => !own.has(id))
  const nearest = () =>
    mending.near(mending.wishedFor(test), testReach).some((day) => {
      const from = startOn(mending, test, day)
      if (from === undefined) return false
      if (leavesRehearsals(mending, test, day)) return false
      if (followsKept(mending, test, others, day * 1440 + from)) return false
      if (standsAgainst(mending, test, others, day, day * 1440 + from)) return false
      const { hour: _, ...rest } = movedTo(test, day, from)
      const hour = hourAt(test, from, exact)
      return settle(mending, { ...rest, ...(hour && { hour }) }, reviews, others)
    })
  if (!nearest() && !mending.clearing(nearest))
    dropTest(
      mending,
      test,
      `No free block of ${test.minutes} minutes within ${testReach} days has room for the review after it too.`,
    )
}

export function placeTests(mending: Mending): void {
  const waiting = [...mending.displaced, ...mending.slipped].filter(isTest)
  for (const test of waiting.sort((a, b) => startOf(a) - startOf(b) || a.id.localeCompare(b.id)))
    if (!mending.settled.has(test.id)) placeTest(mending, test)
}
