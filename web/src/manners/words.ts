import type { Sitting, User } from '@climber/contract'
import { dayNumber, minuteOf, timeOf, weekdayOf } from '@climber/core'
import { ref } from 'vue'

export { clockWords, onTheClock } from '@climber/core'

const weekdays = ['Mon', 'Tue', 'Wed', 'Thu', 'Fri', 'Sat', 'Sun']
const months = ['Jan', 'Feb', 'Mar', 'Apr', 'May', 'Jun', 'Jul', 'Aug', 'Sep', 'Oct', 'Nov', 'Dec']

export const weekdayName = (weekday: number): string => weekdays[weekday - 1]!

/** How whoever is signed in writes days. */
export const locale = ref<User['locale']>('en-GB')
export const monthFirst = (): boolean => locale.value === 'en-US'

export const monthName = (date: string): string => months[Number(date.slice(5, 7)) - 1]!
/** `9 Mar`, or `Mar 9` where the account writes it so. */
export function dayWords(date: string): string {
  const day = Number(date.slice(8))
  return monthFirst() ? `${monthName(date)} ${day}` : `${day} ${monthName(date)}`
}

/** `Tue 9 Mar`, with the year where it is not `today`'s. */
export function dateWords(date: string, today?: string): string {
  const year = date.slice(0, 4)
  const words = `${weekdays[weekdayOf(dayNumber(date)) - 1]} ${dayWords(date)}`
  return today && !today.startsWith(year) ? `${words} ${year}` : words
}

/** `today`, `tomorrow`, `in 12 days`, `3 days ago`. */
export function distanceWords(date: string, today: string): string {
  const days = dayNumber(date) - dayNumber(today)
  if (days === 0) return 'today'
  if (days === 1) return 'tomorrow'
  if (days === -1) return 'yesterday'
  return days > 0 ? `in ${days} days` : `${-days} days ago`
}

/** `1 h 30`, `45 min`. */
export function durationWords(minutes: number): string {
  const whole = Math.round(minutes)
  const hours = Math.floor(whole / 60)
  const rest = whole % 60
  return hours === 0
    ? `${rest} min`
    : rest === 0
      ? `${hours} h`
      : `${hours} h ${String(rest).padStart(2, '0')}`
}

/** A span on the clock: `52 s`, `55 min`, `6 min 14 s`; from an hour and a half on `2 h 05`. */
export function spanWords(seconds: number): string {
  const whole = Math.round(seconds)
  if (whole >= 5400) return durationWords(whole / 60)
  const minutes = Math.floor(whole / 60)
  const rest = whole % 60
  return minutes === 0 ? `${rest} s` : rest === 0 ? `${minutes} min` : `${minutes} min ${rest} s`
}

export const percentWords = (share: number): string =>
  share > 0 && share < 0.01
    ? 'under 1%'
    : share > 0.99 && share < 1
      ? 'over 99%'
      : `${Math.round(share * 100)}%`

export const endOf = (start: string, minutes: number): string =>
  timeOf(Math.min(1440, minuteOf(start) + minutes))

/** A score that may lie between two steps of its scale, such as a cut that moves. */
export const scoreWords = (score: number): string => String(Number(score.toFixed(1)))

export const rawWords = (raw: number): string => (Number.isInteger(raw) ? String(raw) : raw.toFixed(1))

/** Deadline and fee of a sitting, as far as the exam format says them. */
export function termsOf({ registerBy, fee }: Sitting, today: string): string {
  const by =
    registerBy &&
    (registerBy < today
      ? `registration closed on ${dateWords(registerBy, today)}`
      : `register by ${dateWords(registerBy, today)}`)
  return [by, fee && `${fee.amount} ${fee.currency}`].filter(Boolean).join(', ')
}

/** A range of scores: `302 to 338`. */
export const rangeWords = ({ low, high }: { low: number; high: number }): string =>
  `${Math.round(low)} to ${Math.round(high)}`
