import type { Availability } from '@climber/contract'
import type { TableProblem } from './cells'
import { minuteOf, timeOf } from '../time/day'

/** A time of a week as it was typed, and the words beside it. */
export interface TypedTime {
  /** 1 Monday to 7 Sunday. */
  weekday: number
  /** `HH:MM`, up to `24:00`; `from` is before `to`. */
  from: string
  to: string
  /** What stands beside the times, such as "swimming"; empty where nothing does. */
  words: string
}

/** A time of day: `17:30`, `17.30`, `1730`, `9`, `5:30 pm`, `24:00`. Undefined for what is none. */
export function readTime(text: string): string | undefined {
  const found = /^(\d{1,2})(?:\s*[:.h]?\s*(\d{2}))?\s*(am|pm)?$/i.exec(text.trim())
  if (!found) return undefined
  const half = found[3]?.toLowerCase()
  const written = Number(found[1])
  const hour = half ? (written % 12) + (half === 'pm' ? 12 : 0) : written
  const minute = Number(found[2] ?? 0)
  if (hour > 24 || minute > 59 || (half && (written < 1 || written > 12)) || hour * 60 + minute > 1440)
    return undefined
  return timeOf(hour * 60 + minute)
}

const names = ['monday', 'tuesday', 'wednesday', 'thursday', 'friday', 'saturday', 'sunday']
const short = ['Mon', 'Tue', 'Wed', 'Thu', 'Fri', 'Sat', 'Sun']
/** Words for several days at once. */
const several: Record<string, number[]> = {
  daily: [1, 2, 3, 4, 5, 6, 7],
  'every day': [1, 2, 3, 4, 5, 6, 7],
  weekdays: [1, 2, 3, 4, 5],
  'working days': [1, 2, 3, 4, 5],
  weekends: [6, 7],
  weekend: [6, 7],
}

/** A day by two letters of its name or more, in the plural too. */
function dayOf(text: string): number | undefined {
  const typed = text.toLowerCase().replace(/\.$/, '')
  if (typed.length < 2) return undefined
  const at = names.findIndex((name) => name.startsWith(typed) || typed === `${name}s`)
  return at < 0 ? undefined : at + 1
}

/** From one day to another, over the end of the week where it must be. */
function through(first: number, last: number): number[] {
  const days = [first]
  while (days[days.length - 1] !== last) days.push((days[days.length - 1]! % 7) + 1)
  return days
}

/** The days that some text names, or what in it is no day. */
function readDays(text: string): number[] | { wrong: string } {
  const typed = text.trim().replace(/[\s:,]+$/, '')
  const days = several[typed.toLowerCase()]
  if (days) return days
  const found: number[] = []
  for (const part of typed
    .split(/\s*(?:,|\/|\+|&|\band\b)\s*/)
    .flatMap((one) => (/\s(?:-|–|to|until)\s|[-–]/.test(one) ? [one] : one.split(/\s+/)))) {
    const ends = part.split(/\s*(?:-|–|\bto\b|\buntil\b)\s*/)
    const [first, last = first] = ends.map(dayOf)
    const all = several[part.toLowerCase()]
    if (all) found.push(...all)
    else if (first === undefined || last === undefined || ends.length > 2) return { wrong: part || typed }
    else found.push(...through(first, last))
  }
  return [...new Set(found)].sort((a, b) => a - b)
}

const one = String.raw`\d{1,2}(?:\s*[:.h]\s*\d{2}|\d{2})?\s*(?:am|pm)?`
const spans = new RegExp(String.raw`(${one})\s*(?:-|–|—|\bto\b|\buntil\b|\btill\b)\s*(${one})`, 'gi')

/** Both ends of a span; "7-9 pm" is in the evening at both. */
function readSpan(first: string, last: string): { from: string; to: string } | undefined {
  const to = readTime(last)
  const half = /(am|pm)\s*$/i.exec(last)?.[1]
  const alike = half && !/[ap]m\s*$/i.test(first) ? readTime(`${first.trim()} ${half}`) : undefined
  const from = alike !== undefined && to !== undefined && alike < to ? alike : readTime(first)
  return from !== undefined && to !== undefined ? { from, to } : undefined
}

const example = 'such as "Mon-Thu 19:00-21:00" or "Sat 9-12"'

/** One line: days, then times, then words. */
function readLine(line: string): TypedTime[] | string {
  const at = line.search(/\d/)
  if (at < 0) return `"${line}" names no time; write days and times, ${example}`
  const head = line.slice(0, at).replace(/\bfrom\s*$/i, '')
  if (!head.trim()) return `"${line}" names no day; write days and times, ${example}`
  const days = readDays(head)
  if ('wrong' in days) return `"${days.wrong}" is no day of the week; write days and times, ${example}`
  const times = line.slice(at)
  const found = [...times.matchAll(spans)]
  if (!found.length) return `"${times}" is not from one time to another; write ${example}`
  const words = times
    .replace(spans, ' ')
    .replace(/^[\s,;&]+|(?:^|\s+)and(?=\s|$)|[\s,;]+$/gi, ' ')
    .replace(/\s*,\s*(?=,|$)/g, ' ')
    .trim()
  if (/^\d/.test(words)) return `"${words}" is not from one time to another; write ${example}`
  const read: TypedTime[] = []
  for (const [text, first = '', last = ''] of found) {
    const span = readSpan(first, last)
    if (!span) return `"${text.trim()}" is not from one time of day to another, in 24 hours or with am and pm`
    if (span.from >= span.to)
      return `"${text.trim()}" ends before it starts; what goes past midnight is two times, until 24:00 and from 00:00`
    for (const weekday of days) read.push({ weekday, ...span, words })
  }
  return read
}

/**
 * A week as people type it: days and times, a line each or between semicolons, such as "Mon-Thu 19:00-21:00; Sat 9-12" or
 * "Wed 17:30-19:00 swimming". Lines that cannot be read are problems, by their number.
 */
export function readWeek(text: string): { times: TypedTime[]; problems: TableProblem[] } {
  const times: TypedTime[] = []
  const problems: TableProblem[] = []
  text.split(/\r?\n/).forEach((line, at) => {
    for (const part of line.split(';').map((typed) => typed.trim())) {
      if (!part) continue
      const read = readLine(part)
      if (typeof read === 'string') problems.push({ row: at + 1, message: read })
      else times.push(...read)
    }
  })
  return { times, problems }
}

type FreeWindows = Availability['windows']

/** Windows of one kind on one day, run together where they touch or overlap. */
function joined(windows: FreeWindows): FreeWindows {
  const done: FreeWindows = []
  for (const window of [...windows].sort(
    (a, b) => a.weekday - b.weekday || a.from.localeCompare(b.from) || a.to.localeCompare(b.to),
  )) {
    const last = done[done.length - 1]
    if (last?.weekday === window.weekday && window.from <= last.to) {
      if (window.to > last.to) last.to = window.to
    } else done.push({ ...window })
  }
  return done
}

/** What of some windows is left beside others. */
function besides(windows: FreeWindows, others: FreeWindows): FreeWindows {
  let left = windows
  for (const other of others)
    left = left.flatMap((window) => {
      if (window.weekday !== other.weekday || other.to <= window.from || other.from >= window.to)
        return [window]
      return [
        ...(window.from < other.from ? [{ ...window, to: other.from }] : []),
        ...(other.to < window.to ? [{ ...window, from: other.to }] : []),
      ]
    })
  return left
}

/** Free time as it is typed; times with the word "light" are for light work, and give way to the others where both are typed. */
export function readFreeTime(text: string): { windows: FreeWindows; problems: TableProblem[] } {
  const { times, problems } = readWeek(text)
  const unknown = times.find(({ words }) => words !== '' && !/^\(?light( work)?( only)?\)?$/i.test(words))
  if (unknown)
    problems.push({
      row: text.split(/\r?\n/).findIndex((line) => line.includes(unknown.words)) + 1,
      message: `"${unknown.words}" beside free time says nothing; only "light" does, for a commute or the like`,
    })
  const windows = (light: boolean): FreeWindows =>
    joined(
      times
        .filter(({ words }) => (words !== '') === light)
        .map(({ weekday, from, to }) => ({ weekday, from, to, ...(light && { light }) })),
    )
  const full = windows(false)
  const all = [...full, ...besides(windows(true), full)]
  return {
    windows: all.sort((a, b) => a.weekday - b.weekday || a.from.localeCompare(b.from)),
    problems,
  }
}

/** Days as they are said: "Mon-Thu, Sat". */
function daysText(days: number[]): string {
  const runs: number[][] = []
  for (const day of days) {
    const run = runs[runs.length - 1]
    if (run && run[run.length - 1] === day - 1) run.push(day)
    else runs.push([day])
  }
  return runs
    .map((run) => {
      const [first, last] = [short[run[0]! - 1]!, short[run[run.length - 1]! - 1]!]
      return run.length === 1 ? first : run.length === 2 ? `${first}, ${last}` : `${first}-${last}`
    })
    .join(', ')
}

/** Free time as it would be typed, a line for the days that are alike; reading it gives the same windows. */
export function writeFreeTime(windows: FreeWindows): string {
  const ofDay = (weekday: number, light: boolean) =>
    windows
      .filter((window) => window.weekday === weekday && Boolean(window.light) === light)
      .sort((a, b) => minuteOf(a.from) - minuteOf(b.from))
      .map(({ from, to }) => `${from}-${to}`)
      .join(', ')
  const lines = new Map<string, number[]>()
  for (const light of [false, true])
    for (let weekday = 1; weekday <= 7; weekday++) {
      const times = ofDay(weekday, light)
      if (!times) continue
      const key = light ? `${times} light` : times
      lines.set(key, [...(lines.get(key) ?? []), weekday])
    }
  return [...lines].map(([times, days]) => `${daysText(days)} ${times}`).join('\n')
}
