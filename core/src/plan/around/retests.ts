import type { PlanNotice, PlanSession, RetestSession, ReviewSession } from '@climber/contract'
import { retestDaysOf } from '../../sessions/ways'
import { ofKind } from '../../sessions/session'
import { dateOf, dayNumber, type DayNumber, timeOf } from '../../time/day'
import type { Calendar } from '../calendar/calendar'
import { shortestSession } from '../calendar/cut'
import type { PlanInput } from '../input'
import { place } from './place'

/** Days after its wished one on which a retest may still stand. */
const window = 6
const retestMinutes = 30
const shortestRetest = shortestSession

/** What was missed, tried again some days after each review. */
export function retests(
  input: PlanInput,
  calendar: Calendar,
  tests: PlanSession[],
  taper: DayNumber,
  name: (key: string) => string,
): { sessions: PlanSession[]; notices: PlanNotice[] } {
  const wait = retestDaysOf(input.settings)
  if (wait === null) return { sessions: [], notices: [] }
  const lastReview = new Map<string, ReviewSession>()
  for (const session of ofKind(tests, 'review'))
    if (session.of && (lastReview.get(session.of)?.date ?? '') <= session.date)
      lastReview.set(session.of, session)
  let none = 0
  const sessions = [...lastReview.values()].flatMap((review): RetestSession[] => {
    const reviewed = dayNumber(review.date)
    const wished = reviewed + wait
    if (wished >= taper) return []
    const days = calendar.days().filter((day) => day >= wished && day <= wished + window && day < taper)
    const found = place(calendar, days, retestMinutes, shortestRetest)
    if (!found) {
      none++
      return []
    }
    return [
      {
        id: name(`retest.${review.form ?? 'own'}`),
        date: dateOf(found.day),
        start: timeOf(found.from),
        minutes: found.minutes,
        kind: 'retest',
        form: review.form,
        of: review.of,
        daysSince: found.day - reviewed,
        pinned: false,
        status: 'planned',
      },
    ]
  })
  const notice: PlanNotice = {
    code: 'retest-no-room',
    message: `${none === 1 ? 'One retest' : `${none} retests`} of missed items found no half-hour within ${window} days of the wished one. More free time, or a longer wait until a retest, would make room.`,
  }
  return { sessions, notices: none ? [notice] : [] }
}
