import { Temporal } from 'temporal-polyfill'

/**
 * Days and times of day. The core counts days as whole numbers since 1970-01-01 (`DayNumber`) and times of day as
 * minutes since midnight in the candidate's zone, so that a plan never depends on the zone of the machine.
 */
export type DayNumber = number

const epoch = Temporal.PlainDate.from('1970-01-01')

/** Calendar arithmetic is Temporal's; a plan asks for the same few hundred days thousands of times, so answers are kept. */
function remembering<K, V>(work: (key: K) => V): (key: K) => V {
  const known = new Map<K, V>()
  return (key) => {
    let value = known.get(key)
    if (value === undefined) {
      value = work(key)
      if (known.size > 5000) known.clear()
      known.set(key, value)
    }
    return value
  }
}

export const dayNumber: (date: string) => DayNumber = remembering(
  (date) => epoch.until(Temporal.PlainDate.from(date)).days,
)
export const dateOf: (day: DayNumber) => string = remembering((day) => epoch.add({ days: day }).toString())

/** 1 Monday to 7 Sunday; 1970-01-01 was a Thursday. */
export const weekdayOf = (day: DayNumber): number => ((((day + 3) % 7) + 7) % 7) + 1

/** The Monday of the day's week. */
export const mondayOf = (day: DayNumber): DayNumber => day - weekdayOf(day) + 1

/** `HH:MM` to minutes since midnight; `24:00` is 1440. */
export const minuteOf = (time: string): number => Number(time.slice(0, 2)) * 60 + Number(time.slice(3, 5))

export const timeOf = (minute: number): string =>
  `${String(Math.floor(minute / 60)).padStart(2, '0')}:${String(minute % 60).padStart(2, '0')}`

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
