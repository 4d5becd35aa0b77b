import type { Busy } from '@climber/contract'
import ICAL from 'ical.js'
import { dateOf, dayNumber, timeOf } from '../../time/day'
import { Clocks, dayMs, minuteMs } from './clocks'
import { rulesProblem } from './recurring'

/** Something wrong in a calendar file: the line its event begins on, and which event. */
export interface CalendarProblem {
  line: number
  event: string
  message: string
}
export interface ReadCommitments {
  /** When one is busy between the two days, in `zone`; merged, in order. */
  busy: Busy[]
  /** Events read, each recurring one counted once. */
  events: number
  problems: CalendarProblem[]
}

/** Days ahead for which commitments are kept. */
export const commitmentDays = 800
/** Seconds after which whoever has a calendar read breaks that off. */
export const readingSeconds = 8
/** What is known of a calendar whose reading was broken off at a line. */
export const brokenOff = (line: number): ReadCommitments => ({
  busy: [],
  events: 0,
  problems: [
    {
      line,
      event: 'the calendar',
      message: `what stands here cannot be followed to its end in ${readingSeconds} seconds`,
    },
  ],
})

/** An event that recurs more often than this before the last day asked for is refused. */
const mostOccurrences = 20_000
/** All events together are followed so far and no further. */
const mostOfAll = 100_000
const mostEvents = 20_000
const dayMinutes = 1440

interface Block {
  line: number
  lines: string[]
}

/** The blocks of one kind of component in a file, nested ones left inside. */
function blocksOf(text: string, kind: 'VEVENT' | 'VTIMEZONE'): { blocks: Block[]; open?: Block } {
  const blocks: Block[] = []
  let open: Block | undefined
  text.split(/\r?\n/).forEach((line, index) => {
    const word = line.trimEnd().toUpperCase()
    if (word === `BEGIN:${kind}` && !open) open = { line: index + 1, lines: [] }
    open?.lines.push(line)
    if (word === `END:${kind}` && open) {
      blocks.push(open)
      open = undefined
    }
  })
  return { blocks, open }
}

const nameOf = ({ lines }: Block): string => {
  const summary = lines.find((line) => /^SUMMARY[:;]/i.test(line))
  const uid = lines.find((line) => /^UID[:;]/i.test(line))
  return (summary ?? uid ?? 'an event without a name').replace(/^[^:]*:/, '').slice(0, 120)
}

/** An event as it stands in a file: its own, or a changed occurrence of another. */
interface Read {
  block: Block
  event: ICAL.Event
  uid: string
  /** The start of the occurrence that it changes. */
  changes?: ICAL.Time
  tzid?: string
  /** Milliseconds. */
  length: number
  /** False for what is cancelled or transparent. */
  counts: boolean
}

const named = (property: ICAL.Property | null): string | undefined => {
  const tzid = property?.getParameter('tzid')
  return typeof tzid === 'string' ? tzid.replace(/^\//, '') : undefined
}

/** Milliseconds that an event lasts: to its end, for its duration, or for the day where it names neither. */
function lengthOf(
  component: ICAL.Component,
  start: ICAL.Time,
  tzid: string | undefined,
  clocks: Clocks,
): number {
  const end = component.getFirstPropertyValue('dtend')
  const duration = component.getFirstPropertyValue('duration')
  if (end instanceof ICAL.Time)
    return clocks.wallOf(end, named(component.getFirstProperty('dtend')) ?? tzid) - clocks.wallOf(start, tzid)
  if (duration instanceof ICAL.Duration) return duration.toSeconds() * 1000
  return start.isDate ? dayMs : 0
}

/** @throws Error saying what is wrong with the event, for its author. */
function readEvent(block: Block, clocks: Clocks): Read {
  const component = new ICAL.Component(ICAL.parse(block.lines.join('\r\n')) as never)
  const start = component.getFirstProperty('dtstart')
  const time = start?.getFirstValue()
  if (!start || !(time instanceof ICAL.Time)) throw new Error('it has no start (DTSTART)')
  const tzid = named(start)
  if (tzid && !clocks.knows(tzid)) throw new Error(`the time zone ${tzid} is not known`)
  if (!Number.isFinite(time.toUnixTime())) throw new Error('its start is no date')
  const problem = rulesProblem(component)
  if (problem) throw new Error(problem)
  const length = lengthOf(component, time, tzid, clocks)
  if (length < 0) throw new Error('it ends before it starts')
  const word = (name: string) => String(component.getFirstPropertyValue(name) ?? '').toUpperCase()
  const original = component.getFirstPropertyValue('recurrence-id')
  return {
    block,
    event: new ICAL.Event(component),
    uid: String(component.getFirstPropertyValue('uid') ?? `line-${block.line}`),
    changes: original instanceof ICAL.Time ? original : undefined,
    tzid,
    length,
    counts: word('status') !== 'CANCELLED' && word('transp') !== 'TRANSPARENT',
  }
}

/**
 * Where to begin reading a series so as to see all that ends after `firstMs`: its start, or a later occurrence from which
 * daily and weekly rules go on alike, so that years gone by are not walked through. Undefined where it ended before.
 */
function beginning({ event, length }: Read, firstMs: number): ICAL.Time | undefined {
  const start = event.startDate
  const rules = event.component.getAllProperties('rrule')
  const rule = rules[0]?.getFirstValue()
  const unit = rule instanceof ICAL.Recur ? { DAILY: 1, WEEKLY: 7 }[rule.freq] : undefined
  if (!(rule instanceof ICAL.Recur) || rules.length > 1 || !unit || event.component.hasProperty('rdate'))
    return start
  const stride = unit * rule.interval
  const wall = Date.UTC(start.year, start.month - 1, start.day)
  const ahead = Math.floor((firstMs - length - wall) / dayMs) - 2
  if (ahead <= stride) return start
  if (rule.count) return (rule.count + 1) * stride < ahead ? undefined : start
  const later = start.clone()
  later.adjust(Math.floor(ahead / stride) * stride, 0, 0, 0)
  return later
}

/**
 * Starts of an event in order from about `firstMs` on, those that are changed left out. Endless where the series is: the
 * reader stops.
 * @throws Error where it recurs too often to be read, or all events of the file together do.
 */
function* startsOf(
  read: Read,
  changed: ReadonlyMap<string, Read> | undefined,
  firstMs: number,
  budget: { left: number },
): Generator<ICAL.Time> {
  if (!read.event.isRecurring()) {
    yield read.event.startDate
    return
  }
  const from = beginning(read, firstMs)
  if (!from) return
  const iterator = read.event.iterator(from)
  let count = 0
  for (let next: ICAL.Time | null = iterator.next(); next; next = iterator.next()) {
    if (++count > mostOccurrences) throw new Error(`it recurs more than ${mostOccurrences} times`)
    if (--budget.left < 0) throw new Error(`all events together recur more than ${mostOfAll} times`)
    if (!changed?.has(keyOf(next))) yield next
  }
}

/** Events of a file, each that cannot be read as a problem. A later change of the same occurrence stands for the earlier. */
function readEvents(blocks: Block[], clocks: Clocks, problems: CalendarProblem[]) {
  const masters: Read[] = []
  const changes = new Map<string, Map<string, Read>>()
  const uids = new Set<string>()
  for (const block of blocks)
    try {
      const read = readEvent(block, clocks)
      uids.add(read.uid)
      if (read.changes) {
        const own = changes.get(read.uid) ?? new Map<string, Read>()
        changes.set(read.uid, own.set(keyOf(read.changes), read))
      } else masters.push(read)
    } catch (error) {
      problems.push({ line: block.line, event: nameOf(block), message: reasonOf(error) })
    }
  return { masters, changes, events: uids.size }
}

/**
 * Commitments from an iCalendar file (RFC 5545): recurrences with their exceptions, moved and cancelled occurrences,
 * time zones, all-day events. What is transparent or cancelled does not count. Every event that cannot be read is
 * reported with its line; the others are still there, and it is for the caller not to use them then. `reached` hears the line of
 * each event before it is followed: a file from a stranger may hold one that never ends, and is read where it can be stopped.
 */
export function readCommitments(
  text: string,
  zone: string,
  firstDate: string,
  lastDate: string,
  reached: (line: number) => void = () => undefined,
): ReadCommitments {
  const problems: CalendarProblem[] = []
  if (!/BEGIN:VCALENDAR/i.test(text))
    return {
      busy: [],
      events: 0,
      problems: [{ line: 1, event: 'the file', message: 'this is not an iCalendar file' }],
    }
  const { blocks, open } = blocksOf(text, 'VEVENT')
  if (blocks.length > mostEvents)
    return {
      busy: [],
      events: 0,
      problems: [{ line: 1, event: 'the file', message: `more than ${mostEvents} events` }],
    }
  if (!blocks.length && !open)
    problems.push({ line: 1, event: 'the file', message: 'there is no event in this calendar' })
  if (open)
    problems.push({
      line: open.line,
      event: nameOf(open),
      message: 'the event has no end; the file seems to be cut off',
    })
  const firstDay = dayNumber(firstDate)
  const lastDay = dayNumber(lastDate)
  const firstMs = firstDay * dayMs
  const lastMs = (lastDay + 1) * dayMs
  const clocks = new Clocks(zone, firstMs, lastMs)
  for (const block of blocksOf(text, 'VTIMEZONE').blocks)
    try {
      reached(block.line)
      clocks.add(block.lines.join('\r\n'))
    } catch {
      problems.push({ line: block.line, event: 'a time zone', message: 'the time zone cannot be read' })
    }
  const { masters, changes, events } = readEvents(blocks, clocks, problems)

  const spans: [number, number][] = []
  /** Takes an occurrence; false where it begins after the last day. */
  const put = (read: Read, start: ICAL.Time): boolean => {
    const from = clocks.wallOf(start, read.tzid)
    if (from >= lastMs) return false
    if (read.counts && read.length > 0 && from + read.length > firstMs) spans.push([from, from + read.length])
    return true
  }
  const budget = { left: mostOfAll }
  for (const read of masters) {
    reached(read.block.line)
    const changed = changes.get(String(read.event.uid ?? ''))
    try {
      for (const start of startsOf(read, changed, firstMs, budget)) if (!put(read, start)) break
    } catch (error) {
      problems.push({ line: read.block.line, event: nameOf(read.block), message: reasonOf(error) })
    }
  }
  for (const own of changes.values()) for (const read of own.values()) put(read, read.event.startDate)

  return { busy: merged(spans, firstDay, lastDay), events, problems }
}

const keyOf = (time: ICAL.Time): string =>
  `${time.year}-${time.month}-${time.day}${time.isDate ? '' : `T${time.hour}:${time.minute}`}`

const reasonOf = (error: unknown): string => {
  const message = error instanceof Error ? error.message : String(error)
  return message.length > 160 ? `${message.slice(0, 157)}...` : message
}

/** Overlapping spans as one, cut at midnight, whole minutes outward. */
function merged(spans: [number, number][], firstDay: number, lastDay: number): Busy[] {
  const busy: Busy[] = []
  let open: [number, number] | undefined
  const close = () => {
    if (!open) return
    const from = Math.floor(open[0] / minuteMs)
    const to = Math.ceil(open[1] / minuteMs)
    for (
      let day = Math.max(firstDay, Math.floor(from / dayMinutes));
      day <= lastDay && day * dayMinutes < to;
      day++
    )
      busy.push({
        date: dateOf(day),
        from: timeOf(Math.max(0, from - day * dayMinutes)),
        to: timeOf(Math.min(dayMinutes, to - day * dayMinutes)),
      })
  }
  for (const [from, to] of spans.sort((a, b) => a[0] - b[0] || a[1] - b[1])) {
    if (open && from <= open[1]) open[1] = Math.max(open[1], to)
    else {
      close()
      open = [from, to]
    }
  }
  close()
  return busy
}
