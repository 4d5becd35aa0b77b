import type { PlanSession, RetestSession, ReviewSession, TestSession } from '@climber/contract'
import {
  byTime,
  isActive,
  isTest,
  isWhole,
  ofKind,
  otherPartsOf,
  reviewsOf,
  startOf,
} from '../sessions/session'
import { dayNumber } from '../time/day'
import { withReasons } from './fill/reasons'
import type { PlanInput } from './input'

/** About how many days lie between a whole test and its neighbours; undefined where it has none. */
function everyDays(test: TestSession, days: number[]): number | undefined {
  const at = days.indexOf(dayNumber(test.date))
  const gaps = [at - 1, at + 1].flatMap((other) => {
    const day = days[other]
    return day === undefined || at < 0 ? [] : [Math.abs(day - days[at]!)]
  })
  return gaps.length ? Math.round(gaps.reduce((sum, gap) => sum + gap, 0) / gaps.length) : undefined
}

function inRhythm(test: TestSession, days: number[]): TestSession {
  if (test.purpose !== 'rhythm') return test
  const { everyDays: _, ...rest } = test
  const every = everyDays(test, days)
  return every === undefined ? rest : { ...rest, everyDays: every }
}

/** A review as the part that it is of all that its test has; the rest of one is told by that. */
function inPieces(review: ReviewSession, sessions: PlanSession[]): ReviewSession {
  const test = sessions.filter(isTest).find(({ id }) => id === review.of)
  if (!test || review.rest) return review
  const own = reviewsOf(test.id, sessions).filter(({ status, rest }) => isActive({ status }) && !rest)
  const tested = [test, ...otherPartsOf(test, sessions)].reduce((sum, { minutes }) => sum + minutes, 0)
  const whole = own.reduce((sum, { minutes }) => sum + minutes, 0)
  return {
    ...review,
    piece: { number: own.sort(byTime).findIndex(({ id }) => id === review.id) + 1, of: own.length },
    wholeMinutes: whole,
    ratio: Math.round((100 * whole) / tested) / 100,
  }
}

function afterReview(retest: RetestSession, sessions: PlanSession[]): RetestSession {
  const reviews = reviewsOf(retest.of ?? '', sessions).filter(
    (review) => isActive(review) && startOf(review) < startOf(retest),
  )
  if (!reviews.length) return retest
  const last = Math.max(...reviews.map(({ date }) => dayNumber(date)))
  return { ...retest, daysSince: dayNumber(retest.date) - last }
}

/**
 * The sessions of a plan with what they tell of themselves as the plan stands now: why study stands where it does, the rhythm of tests, the
 * parts of reviews, the days that a retest has waited. Done whenever something was made, mended or moved by hand.
 */
export function asItStands(input: PlanInput, sessions: PlanSession[]): PlanSession[] {
  const active = sessions.filter(isActive)
  const days = [
    ...new Set(
      ofKind(active, 'test')
        .filter((test) => isWhole(test) && (test.split?.number ?? 1) === 1)
        .map(({ date }) => dayNumber(date)),
    ),
  ].sort((a, b) => a - b)
  return withReasons(input, sessions).map((session): PlanSession => {
    if (session.status !== 'planned' || session.date < input.today) return session
    switch (session.kind) {
      case 'test':
        return inRhythm(session, days)
      case 'review':
        return inPieces(session, active)
      case 'retest':
        return afterReview(session, active)
      default:
        return session
    }
  })
}
