import type { DayNumber } from '../../time/day'
import type { Calendar, Span } from '../calendar/calendar'

/**
 * The first place of `minutes` on one of `days`; shorter, down to `least`, where a day has no more. In free time, in
 * windows for light work, or in either, those for light work first.
 */
export function place(
  calendar: Calendar,
  days: DayNumber[],
  minutes: number,
  least = minutes,
  where: 'free' | 'light' | 'either' = 'free',
): { day: DayNumber; from: number; minutes: number } | undefined {
  for (const day of days) {
    const room = calendar.dayRoom(day)
    const spans: Span[] = [
      ...(where === 'free' ? [] : calendar.free(day, true)),
      ...(where === 'light' ? [] : calendar.free(day)),
    ]
    const span = spans.find(({ from, to }) => Math.min(room, to - from) >= least)
    if (!span) continue
    const long = Math.floor(Math.min(minutes, room, span.to - span.from))
    calendar.take(day, span.from, long)
    return { day, from: span.from, minutes: long }
  }
  return undefined
}
