import type { StudySession } from '@climber/contract'
import { restKey, restsOpen, restSession } from '../../sessions/rest'
import { isStudy, longestWait } from '../../sessions/session'
import { dateOf, dayNumber, type DayNumber, timeOf } from '../../time/day'
import type { Calendar } from '../calendar/calendar'
import { shortestSession } from '../calendar/cut'
import type { PlanInput } from '../input'
import { place } from './place'

/** The rest of study that was done in part, each in the first free time of the coming weeks. */
export function restsOfStudy(
  { lived, kept, today }: PlanInput,
  calendar: Calendar,
  taper: DayNumber,
  name: (key: string) => string,
): StudySession[] {
  const first = dayNumber(today)
  const days = calendar.days().filter((day) => day >= first && day <= first + longestWait && day < taper)
  return restsOpen([...lived, ...kept], today).flatMap((session): StudySession[] => {
    const rest = restSession(session, name(restKey(session)))
    if (!isStudy(rest)) return []
    const found = place(calendar, days, rest.minutes, Math.min(shortestSession, rest.minutes))
    return found
      ? [{ ...rest, date: dateOf(found.day), start: timeOf(found.from), minutes: found.minutes }]
      : []
  })
}
