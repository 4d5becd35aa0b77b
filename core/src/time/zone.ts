import { Temporal } from 'temporal-polyfill'
import { minuteOf } from './day'

/**
 * The instant at which a clock in `zone` shows `time` on `date`, as ISO 8601 in UTC. A time that a clock change skips
 * is taken as the same distance after the change; one that comes twice, the first (RFC 5545, 3.3.5).
 */
export function instantOf(date: string, time: string, zone: string): string {
  const midnight = Temporal.PlainDate.from(date)
  const minute = minuteOf(time)
  const wall = midnight
    .add({ days: minute === 1440 ? 1 : 0 })
    .toPlainDateTime({ hour: Math.floor(minute / 60) % 24, minute: minute % 60 })
  return wall.toZonedDateTime(zone, { disambiguation: 'compatible' }).toInstant().toString()
}

/** What calendar and clock in `zone` show at an instant. */
export function wallClock(instant: string, zone: string): { date: string; minute: number } {
  const wall = Temporal.Instant.from(instant).toZonedDateTimeISO(zone)
  return { date: wall.toPlainDate().toString(), minute: wall.hour * 60 + wall.minute }
}
