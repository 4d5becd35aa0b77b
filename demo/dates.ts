import { dateOf, dayNumber } from '@climber/core'

const date = /^\d{4}-\d{2}-\d{2}$/

/** A copy of a file with every date in it moved by `days`. */
export function movedBy<T>(value: T, days: number): T {
  if (typeof value === 'string') return (date.test(value) ? dateOf(dayNumber(value) + days) : value) as T
  if (Array.isArray(value)) return value.map((item) => movedBy(item as unknown, days)) as T
  if (value && typeof value === 'object')
    return Object.fromEntries(
      Object.entries(value).map(([key, item]) => [key, movedBy(item as unknown, days)]),
    ) as T
  return value
}

/** Moves a file's dates by whole weeks, weekdays kept, so that `first` is `atLeast` days or more after today. */
export function aheadByWholeWeeks<T>(file: T, first: string, today: string, atLeast: number): T {
  const weeks = Math.ceil((dayNumber(today) + atLeast - dayNumber(first)) / 7)
  return movedBy(file, weeks * 7)
}
