import ICAL from 'ical.js'
import { Temporal } from 'temporal-polyfill'
import { rulesProblem } from './recurring'

export const minuteMs = 60_000
export const dayMs = 1440 * minuteMs
const yearMs = 366 * dayMs

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
    const before = this.at(wall - dayMs)
    const early = wall - before * minuteMs
    const after = this.at(early)
    if (after === before) return early
    const late = wall - after * minuteMs
    return this.at(late) === after ? late : early
  }
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

/** The clocks of a calendar file: named zones, and those that the file brings along itself. Milliseconds throughout. */
export class Clocks {
  private readonly offsets = new Map<string, Offsets>()
  private readonly custom = new Map<string, ICAL.Timezone>()
  private readonly home: Offsets

  /** `zone` is the one that answers are told in; offsets are known from 60 years before `first` until a year after `last`. */
  constructor(
    private readonly zone: string,
    private readonly first: number,
    private readonly last: number,
  ) {
    this.home = this.offsetsOf(zone)
  }

  private offsetsOf(name: string): Offsets {
    const known = this.offsets.get(name)
    if (known) return known
    const made = new Offsets(name, this.first - 60 * yearMs, this.last + yearMs)
    this.offsets.set(name, made)
    return made
  }

  /** Takes a VTIMEZONE that the file brings along, unless its name is that of a known zone. @throws Error where it cannot. */
  add(text: string): void {
    const component = new ICAL.Component(ICAL.parse(text) as never)
    for (const part of component.getAllSubcomponents())
      if (rulesProblem(part)) throw new Error('its changes of clock cannot be followed')
    const made = new ICAL.Timezone(component)
    if (made.tzid && !isZone(made.tzid)) this.custom.set(made.tzid, made)
  }

  knows(name: string): boolean {
    return this.custom.has(name) || isZone(name)
  }

  /** What the clock at home shows at `time`, in milliseconds as if it were UTC. */
  wallOf(time: ICAL.Time, tzid: string | undefined): number {
    const wall = Date.UTC(time.year, time.month - 1, time.day, time.hour, time.minute, time.second)
    const custom = tzid ? this.custom.get(tzid) : undefined
    let instant: number
    if (time.zone === ICAL.Timezone.utcTimezone) instant = wall
    else if (!tzid || tzid === this.zone) return wall
    else if (custom) instant = wall - custom.utcOffset(time) * 1000
    else instant = this.offsetsOf(tzid).instant(wall)
    return instant + this.home.at(instant) * minuteMs
  }
}
