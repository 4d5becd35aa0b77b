/**
 * Days and times of day. The core counts days as whole numbers since 1970-01-01 (`DayNumber`) and times of day as
 * minutes since midnight in the candidate's zone, so that a plan never depends on the zone of the machine.
 */
export type DayNumber = number

const dayLength = 86_400_000

/** Days in UTC are the platform's own; a plan asks for the same few hundred thousands of times, so answers are kept. */
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

/** The number of a day `YYYY-MM-DD`; a RangeError for what is no date. */
export const dayNumber: (date: string) => DayNumber = remembering((date) => {
  const instant = Date.parse(`${date}T00:00:00Z`)
  if (Number.isNaN(instant)) throw new RangeError(`"${date}" is no date`)
  return instant / dayLength
})
export const dateOf: (day: DayNumber) => string = remembering((day) =>
  new Date(day * dayLength).toISOString().slice(0, 10),
)

/** 1 Monday to 7 Sunday; 1970-01-01 was a Thursday. */
export const weekdayOf = (day: DayNumber): number => ((((day + 3) % 7) + 7) % 7) + 1

/** The Monday of the day's week. */
export const mondayOf = (day: DayNumber): DayNumber => day - weekdayOf(day) + 1

/** `HH:MM` to minutes since midnight; `24:00` is 1440. */
export const minuteOf = (time: string): number => Number(time.slice(0, 2)) * 60 + Number(time.slice(3, 5))

export const timeOf = (minute: number): string =>
  `${String(Math.floor(minute / 60)).padStart(2, '0')}:${String(minute % 60).padStart(2, '0')}`
