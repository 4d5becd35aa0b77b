import type { Busy } from '@climber/contract'
import ICAL from 'ical.js'
import { Temporal } from 'temporal-polyfill'
import { dateOf, dayNumber, timeOf } from '../../time/day'

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

/** An event that recurs more often than this before the last day asked for is refused. */
const mostOccurrences = 20_000
const minuteMs = 60_000
const dayMinutes = 1440

/** Offsets of a zone in minutes, as a list of the moments at which they change. */
class Offsets {
  private readonly from: number[] = []
  private readonly minutes: number[] = []

  constructor(zone: string, first: number, last: number) {
    let at: Temporal.ZonedDateTime | null =
      Temporal.Instant.fromEpochMilliseconds(first).toZonedDateTimeISO(zone)
    while (at && at.epochMilliseconds <= last) {
      this.from.push(at.epochMilliseconds)
      this.minutes.push(at.offsetNanoseconds / 60e9)
      at = at.getTimeZoneTransition('next')
    }
  }
  at(instant: number): number {
    let low = 0
    let high = this.from.length - 1
    while (low < high) {
      const middle = (low + high + 1) >> 1
      if (this.from[middle]! <= instant) low = middle
      else high = middle - 1
    }
    return this.minutes[low] ?? 0
  }
  /** The instant at which a clock in the zone shows `wall`; a skipped time is taken after the change, a double one first. */
  instant(wall: number): number {
    const before = this.at(wall - dayMinutes * minuteMs)
    const early = wall - before * minuteMs
    const after = this.at(early)
    if (after === before) return early
    const late = wall - after * minuteMs
    return this.at(late) === after ? late : early
  }
}

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

const zones = new Map<string, boolean>()
const isZone = (zone: string): boolean => {
  const known = zones.get(zone)
  if (known !== undefined) return known
  const found = isZoneAtAll(zone)
  zones.set(zone, found)
  return found
}
const isZoneAtAll = (zone: string): boolean => {
  try {
    new Intl.DateTimeFormat('en', { timeZone: zone })
    return true
  } catch {
    return false
  }
}

/**
 * Commitments from an iCalendar file (RFC 5545): recurrences with their exceptions, moved and cancelled occurrences,
 * time zones, all-day events. What is transparent or cancelled does not count. Every event that cannot be read is
 * reported with its line; the others are still there, and it is for the caller not to use them then.
 */
export function readCommitments(
  text: string,
  zone: string,
  firstDate: string,
  lastDate: string,
): ReadCommitments {
  const problems: CalendarProblem[] = []
  if (!/BEGIN:VCALENDAR/i.test(text))
    return {
      busy: [],
      events: 0,
      problems: [{ line: 1, event: 'the file', message: 'this is not an iCalendar file' }],
    }
  const { blocks, open } = blocksOf(text, 'VEVENT')
  if (open)
    problems.push({
      line: open.line,
      event: nameOf(open),
      message: 'the event has no end; the file seems to be cut off',
    })
  const firstDay = dayNumber(firstDate)
  const lastDay = dayNumber(lastDate)
  const firstMs = firstDay * dayMinutes * minuteMs
  const lastMs = (lastDay + 1) * dayMinutes * minuteMs
  const offsets = new Map<string, Offsets>()
  const year = 366 * dayMinutes * minuteMs
  const offsetsOf = (name: string): Offsets => {
    let own = offsets.get(name)
    if (!own) offsets.set(name, (own = new Offsets(name, firstMs - 60 * year, lastMs + year)))
    return own
  }
  const home = offsetsOf(zone)
  const custom = new Map<string, ICAL.Timezone>()
  for (const block of blocksOf(text, 'VTIMEZONE').blocks)
    try {
      const made = new ICAL.Timezone(new ICAL.Component(ICAL.parse(block.lines.join('\r\n')) as never))
      if (made.tzid && !isZone(made.tzid)) custom.set(made.tzid, made)
    } catch {
      problems.push({ line: block.line, event: 'a time zone', message: 'the time zone cannot be read' })
    }

  /** What the clock at home shows, in milliseconds as if it were UTC. */
  const wallOf = (time: ICAL.Time, tzid: string | undefined): number => {
    const wall = Date.UTC(time.year, time.month - 1, time.day, time.hour, time.minute, time.second)
    let instant: number
    if (time.zone === ICAL.Timezone.utcTimezone) instant = wall
    else if (!tzid || tzid === zone) return wall
    else if (custom.has(tzid)) instant = wall - custom.get(tzid)!.utcOffset(time) * 1000
    else instant = offsetsOf(tzid).instant(wall)
    return instant + home.at(instant) * minuteMs
  }

  /**
   * Where to begin reading a series: its start, or a later occurrence from which daily and weekly rules go on alike, so
   * that years gone by are not walked through. Undefined where the series ended before the first day.
   */
  const beginning = ({ event, length }: Read): ICAL.Time | undefined => {
    const start = event.startDate
    const rules = event.component.getAllProperties('rrule')
    const rule = rules[0]?.getFirstValue()
    const unit = rule instanceof ICAL.Recur ? { DAILY: 1, WEEKLY: 7 }[rule.freq] : undefined
    if (!(rule instanceof ICAL.Recur) || rules.length > 1 || !unit || event.component.hasProperty('rdate'))
      return start
    const stride = unit * rule.interval
    const wall = Date.UTC(start.year, start.month - 1, start.day)
    const ahead = Math.floor((firstMs - length - wall) / (dayMinutes * minuteMs)) - 2
    if (ahead <= stride) return start
    if (rule.count) return (rule.count + 1) * stride < ahead ? undefined : start
    const later = start.clone()
    later.adjust(Math.floor(ahead / stride) * stride, 0, 0, 0)
    return later
  }

  interface Read {
    block: Block
    event: ICAL.Event
    tzid?: string
    /** Milliseconds, or whole days. */
    length: number
    allDay: boolean
    counts: boolean
  }
  const masters: Read[] = []
  /** Changed occurrences by uid and original start. */
  const changed = new Map<string, Map<string, Read>>()
  const uids = new Set<string>()
  for (const block of blocks)
    try {
      const component = new ICAL.Component(ICAL.parse(block.lines.join('\r\n')) as never)
      const start = component.getFirstProperty('dtstart')
      const time = start?.getFirstValue()
      if (!start || !(time instanceof ICAL.Time)) throw new Error('it has no start (DTSTART)')
      const named = start.getParameter('tzid')
      const tzid = typeof named === 'string' ? named.replace(/^\//, '') : undefined
      if (tzid && !custom.has(tzid) && !isZone(tzid)) throw new Error(`the time zone ${tzid} is not known`)
      if (!Number.isFinite(time.toUnixTime())) throw new Error('its start is no date')
      const event = new ICAL.Event(component)
      const end = component.getFirstPropertyValue('dtend')
      const duration = component.getFirstPropertyValue('duration')
      let length = time.isDate ? dayMinutes * minuteMs : 0
      if (end instanceof ICAL.Time) {
        const endNamed = component.getFirstProperty('dtend')!.getParameter('tzid')
        length = wallOf(end, typeof endNamed === 'string' ? endNamed : tzid) - wallOf(time, tzid)
      } else if (duration instanceof ICAL.Duration) length = duration.toSeconds() * 1000
      if (length < 0) throw new Error('it ends before it starts')
      const status = String(component.getFirstPropertyValue('status') ?? '').toUpperCase()
      const transparent =
        String(component.getFirstPropertyValue('transp') ?? '').toUpperCase() === 'TRANSPARENT'
      const read: Read = {
        block,
        event,
        tzid,
        length,
        allDay: time.isDate,
        counts: status !== 'CANCELLED' && !transparent,
      }
      const uid = String(component.getFirstPropertyValue('uid') ?? `line-${block.line}`)
      uids.add(uid)
      const original = component.getFirstPropertyValue('recurrence-id')
      if (original instanceof ICAL.Time) {
        const own = changed.get(uid) ?? new Map<string, Read>()
        own.set(keyOf(original), read)
        changed.set(uid, own)
      } else masters.push(read)
    } catch (error) {
      problems.push({ line: block.line, event: nameOf(block), message: reasonOf(error) })
    }

  const spans: [number, number][] = []
  const put = (read: Read, start: ICAL.Time): boolean => {
    const from = wallOf(start, read.tzid)
    if (from >= lastMs) return false
    if (read.counts && read.length > 0 && from + read.length > firstMs) spans.push([from, from + read.length])
    return true
  }
  for (const read of masters) {
    const uid = String(read.event.uid ?? '')
    const own = changed.get(uid)
    try {
      if (!read.event.isRecurring()) {
        put(read, read.event.startDate)
        continue
      }
      const from = beginning(read)
      if (!from) continue
      const iterator = read.event.iterator(from)
      let count = 0
      for (let next: ICAL.Time | null = iterator.next(); next; next = iterator.next()) {
        if (++count > mostOccurrences) throw new Error(`it recurs more than ${mostOccurrences} times`)
        if (own?.has(keyOf(next))) continue
        if (!put(read, next)) break
      }
    } catch (error) {
      problems.push({ line: read.block.line, event: nameOf(read.block), message: reasonOf(error) })
    }
  }
  for (const own of changed.values()) for (const read of own.values()) put(read, read.event.startDate)

  return { busy: merged(spans, firstDay, lastDay), events: uids.size, problems }
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
