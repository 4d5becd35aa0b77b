import * as chrono from 'chrono-node/en'
import { dateOf, dayNumber } from '@climber/core'

const pad = (part: number, length = 2): string => String(part).padStart(length, '0')
const iso = (year: number, month: number, day: number): string => `${pad(year, 4)}-${pad(month)}-${pad(day)}`

/** A day that exists, or undefined for one such as 31 Feb. */
function existing(year: number, month: number, day: number): string | undefined {
  if (month < 1 || month > 12 || day < 1 || day > 31) return undefined
  const date = iso(year, month, day)
  return dateOf(dayNumber(date)) === date ? date : undefined
}

const daysOf = { d: 1, w: 7 } as const

/** The next day of this day and month from `today` on; of the year before where that is nearer than half a year. */
function nearest(month: number, day: number, today: string): string | undefined {
  const year = Number(today.slice(0, 4))
  const found = [year - 1, year, year + 1]
    .map((one) => existing(one, month, day))
    .filter((date) => date !== undefined)
  const far = (date: string) => Math.abs(dayNumber(date) - dayNumber(today))
  return found.sort((a, b) => far(a) - far(b))[0]
}

/**
 * A day as people write it: `9.3.`, `9/3/2027`, `2027-03-09`, `9 Mar`, `tomorrow`, `+2w`, `next Tuesday`; the day before the
 * month, or after it in figures with a slash where `monthFirst`. Undefined for what is none. Dates are `YYYY-MM-DD`.
 */
export function readDate(text: string, today: string, monthFirst = false): string | undefined {
  const typed = text.trim()
  const ahead = /^\+\s*(\d{1,3})\s*([dw])$/i.exec(typed)
  if (ahead) {
    const step = ahead[2]?.toLowerCase() === 'w' ? daysOf.w : daysOf.d
    return dateOf(dayNumber(today) + Number(ahead[1]) * step)
  }
  const full = /^(\d{4})-(\d{1,2})-(\d{1,2})$/.exec(typed)
  if (full) return existing(Number(full[1]), Number(full[2]), Number(full[3]))
  const figures = /^(\d{1,2})\s*([./])\s*(\d{1,2})\s*(?:[./]\s*(\d{2}|\d{4})?)?$/.exec(typed)
  if (figures) {
    const [first, second] = [Number(figures[1]), Number(figures[3])]
    const [day, month] = monthFirst && figures[2] === '/' ? [second, first] : [first, second]
    const year = figures[4]
    if (!year) return nearest(month, day, today)
    return existing(year.length === 2 ? 2000 + Number(year) : Number(year), month, day)
  }
  const noon = new Date(`${today}T12:00:00`)
  const [found] = chrono.GB.parse(typed, noon, { forwardDate: true })
  // All of it was a date, and not a word in something else.
  if (!found || found.text.length < typed.length) return undefined
  const { start } = found
  const [year, month, day] = [start.get('year'), start.get('month'), start.get('day')]
  if (year === null || month === null || day === null) return undefined
  if (start.isCertain('year') || !start.isCertain('month')) return existing(year, month, day)
  return nearest(month, day, today)
}

/** A number as people write it, with a point or a comma, or as a fraction such as 1/4. Undefined for what is none. */
export function readNumber(text: string): number | undefined {
  const typed = text.trim().replace(',', '.')
  const fraction = /^(-?\d+)\s*\/\s*([1-9]\d*)$/.exec(typed)
  if (fraction) return Number(fraction[1]) / Number(fraction[2])
  return /^-?(\d+\.?\d*|\.\d+)$/.test(typed) ? Number(typed) : undefined
}

/** A number as it is shown: one with no end to its digits as the fraction that it is, if it is a plain one. */
export function numberText(value: number): string {
  const text = String(value)
  if (text.length <= 8) return text
  const under = [3, 6, 7, 9, 11, 12].find((one) => Math.abs(value * one - Math.round(value * one)) < 1e-9)
  return under ? `${Math.round(value * under)}/${under}` : text
}

/** Minutes: `90`, `1 h 30`, `1:30`, `1.5 h`, `45 min`. Undefined for what is none. */
export function readMinutes(text: string): number | undefined {
  const typed = text.trim().toLowerCase()
  const plain = /^(\d+)\s*(?:min|minutes?|m)?$/.exec(typed)
  if (plain) return Number(plain[1])
  const both = /^(\d+)\s*(?:h|hours?|:)\s*(\d{1,2})\s*(?:min|m)?$/.exec(typed)
  if (both) return Number(both[2]) < 60 ? Number(both[1]) * 60 + Number(both[2]) : undefined
  const hours = /^(.+?)\s*(?:h|hours?)$/.exec(typed)
  const count = hours?.[1] === undefined ? undefined : readNumber(hours[1])
  return count === undefined || count < 0 ? undefined : Math.round(count * 60)
}
