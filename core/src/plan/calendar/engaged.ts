import type { Availability, Busy, Commitments } from '@climber/contract'
import { dateOf, dayNumber, type DayNumber, weekdayOf } from '../../time/day'

/** Days on which nothing is planned: those called off, and the public holidays that were not agreed to be worked on. */
export const daysOffOf = ({ daysOff, holidays = [] }: Availability): string[] => [
  ...new Set([...daysOff, ...holidays.flatMap(({ date, work }) => (work ? [] : [date]))]),
]

/** When something else is on, from a day to before another: what calendars say, and what is on every week. */
export function busyOf({ calendars, weekly = [] }: Commitments, from: DayNumber, to: DayNumber): Busy[] {
  const busy = calendars.flatMap((calendar) => calendar.busy)
  for (const { weekday, from: start, to: end, first, last } of weekly) {
    const begin = Math.max(from, first === undefined ? from : dayNumber(first))
    const until = Math.min(to, last === undefined ? to : dayNumber(last) + 1)
    for (let day = begin + ((weekday - weekdayOf(begin) + 7) % 7); day < until; day += 7)
      busy.push({ date: dateOf(day), from: start, to: end })
  }
  return busy
}
