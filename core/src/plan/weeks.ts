import type { PlanNotice, PlanSession, PlanWeek } from '@climber/contract'
import { isActive } from '../sessions/session'
import { dateOf, dayNumber, type DayNumber, mondayOf } from '../time/day'
import type { Calendar } from './calendar/calendar'
import type { PlanInput } from './input'

/** Above this a day is too long, and a week has too few days off. */
const longDayMinutes = 360
const mostDaysPerWeek = 6

/** Totals of each week from the first day to the exam. */
export function weeksOf(
  calendar: Calendar,
  sessions: PlanSession[],
  first: DayNumber,
  exam: DayNumber,
): PlanWeek[] {
  const weeks: PlanWeek[] = []
  for (let monday = mondayOf(first); monday <= exam; monday += 7) {
    const own = sessions.filter((session) => {
      const day = dayNumber(session.date)
      return day >= Math.max(monday, first) && day < monday + 7 && isActive(session)
    })
    const minutes = (kind?: string) =>
      own.reduce((sum, s) => (!kind || s.kind === kind ? sum + s.minutes : sum), 0)
    weeks.push({
      from: dateOf(monday),
      freeMinutes: calendar.weekFree.get(monday) ?? 0,
      plannedMinutes: minutes(),
      testMinutes: minutes('test'),
      reviewMinutes: minutes('review'),
    })
  }
  return weeks
}

/** What may hurt: days too long, no day off, no time at all. */
export function cautions(input: PlanInput, sessions: PlanSession[], hours: number): PlanNotice[] {
  const notices: PlanNotice[] = []
  const byDay = new Map<string, number>()
  for (const { date, minutes, status } of sessions)
    if (status === 'planned') byDay.set(date, (byDay.get(date) ?? 0) + minutes)
  const long = [...byDay].filter(([, minutes]) => minutes > longDayMinutes)
  if (long.length)
    notices.push({
      code: 'long-days',
      message: `${long.length === 1 ? `${long[0]![0]} has` : `${long.length} days have`} more than 6 hours. Long days cost sleep and tell little; a lower cap a day spreads the work.`,
    })
  if (input.availability.daysPerWeek > mostDaysPerWeek)
    notices.push({
      code: 'no-day-off',
      message: 'Seven days a week leave no day off. One free day a week keeps people going.',
    })
  if (hours === 0)
    notices.push({
      code: 'no-time',
      message:
        'There is no free hour left for any topic before the exam. Paint more free time, or choose a later sitting.',
    })
  return notices
}
