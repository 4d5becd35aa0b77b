import type { PlanSession } from '@climber/contract'
import { isEasy, isOpen } from '../../sessions/session'
import { dayNumber, minuteOf } from '../../time/day'
import { groundOf } from '../ground'
import type { PlanInput } from '../input'

/** Sessions ahead, but those fixed by hand, that stand where there is no free time any more: called off, taken by something else, or over. */
export function noLongerFree(input: PlanInput, sessions: PlanSession[]): PlanSession[] {
  const ahead = sessions.filter((session) => isOpen(session, input.today) && !session.pinned)
  if (!ahead.length) return []
  const prefer = new Set(ahead.map(({ date }) => dayNumber(date)))
  const { calendar, exam } = groundOf(input, [], { prefer, madeOn: dayNumber(input.today) })
  return ahead.filter(
    (session) =>
      session.date > input.today &&
      (dayNumber(session.date) >= exam ||
        !calendar.holds(dayNumber(session.date), minuteOf(session.start), session.minutes, isEasy(session))),
  )
}
