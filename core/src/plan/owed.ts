import type { ReviewSession } from '@climber/contract'
import { restKey, restsOpen, restSession } from '../sessions/rest'
import { isEasy, isTest, ofKind, reviewsOf } from '../sessions/session'
import type { PlanSession } from '@climber/contract'
import { dateOf, dayNumber, type DayNumber, minuteOf, timeOf } from '../time/day'
import type { Calendar } from './calendar/calendar'
import { numbering } from './numbering'

/** Reviews that are still to be done of tests that were sat, and what was left of those done in part: no plan may lose them. */
export function owedReviews(sessions: PlanSession[], today: string, taken: string[]): ReviewSession[] {
  const name = numbering(sessions, taken)
  const rests = ofKind(
    restsOpen(sessions, today).map((session) => restSession(session, name(restKey(session)))),
    'review',
  )
  const sat = sessions.filter((session) => isTest(session) && session.status === 'done')
  const whole = sat.flatMap(({ id }) =>
    reviewsOf(id, sessions).filter(
      ({ status, pinned }) => status === 'slipped' || (status === 'planned' && !pinned),
    ),
  )
  return [...whole, ...rests]
}

/**
 * Owed reviews in the calendar: where they stand, if that is still free, else in the first place there is. What finds none is
 * left out.
 */
export function placeOwed(calendar: Calendar, owed: ReviewSession[], taper: DayNumber): ReviewSession[] {
  return owed.flatMap((review): ReviewSession[] => {
    const day = dayNumber(review.date)
    const from = minuteOf(review.start)
    const planned = { ...review, status: 'planned' as const }
    if (
      day < taper &&
      calendar.holds(day, from, review.minutes, isEasy(review)) &&
      calendar.dayRoom(day) >= review.minutes
    ) {
      calendar.take(day, from, review.minutes)
      return [planned]
    }
    for (const other of calendar.days()) {
      if (other >= taper) break
      const span = calendar.free(other).find(({ from, to }) => to - from >= review.minutes)
      if (!span || calendar.dayRoom(other) < review.minutes) continue
      calendar.take(other, span.from, review.minutes)
      return [{ ...planned, date: dateOf(other), start: timeOf(span.from) }]
    }
    return []
  })
}
