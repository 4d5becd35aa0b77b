import fc from 'fast-check'
import ICAL from 'ical.js'
import { Temporal } from 'temporal-polyfill'
import { Clocks } from './clocks'

const first = Date.UTC(2030, 0, 1)
const last = Date.UTC(2030, 11, 31)
const zones = ['Europe/Lisbon', 'America/St_Johns', 'Asia/Kathmandu', 'Australia/Lord_Howe', 'Etc/UTC']
const zone = fc.constantFrom(...zones)
const time = fc
  .record({
    day: fc.integer({ min: 0, max: 364 }),
    minute: fc.integer({ min: 0, max: 1439 }),
  })
  .map(({ day, minute }) => Temporal.PlainDateTime.from('2030-01-01').add({ days: day, minutes: minute }))
const icalOf = ({ year, month, day, hour, minute }: Temporal.PlainDateTime) =>
  new ICAL.Time({ year, month, day, hour, minute, second: 0, isDate: false }, ICAL.Timezone.localTimezone)
const wallMs = (at: Temporal.PlainDateTime) => at.toZonedDateTime('UTC').epochMilliseconds

const byHome = new Map(zones.map((home) => [home, new Clocks(home, first, last)]))

describe('clocks of a calendar file', () => {
  it('tell the time of any zone as Temporal does', () => {
    fc.assert(
      fc.property(zone, zone, time, (home, away, at) => {
        const there = at.toZonedDateTime(away)
        // Times that the clock skips or shows twice are ours to decide; the next law is about them.
        fc.pre(there.toPlainDateTime().equals(at))
        fc.pre(at.toZonedDateTime(away, { disambiguation: 'later' }).equals(there))
        const wall = byHome.get(home)!.wallOf(icalOf(at), away)
        expect(wall).toBe(wallMs(there.withTimeZone(home).toPlainDateTime()))
      }),
    )
  })

  it('take the first of two where a clock goes back, and go on after what it skips', () => {
    const clocks = new Clocks('Etc/UTC', first, last)
    // Lisbon: forward at 01:00 on 31 March, back at 02:00 on 27 October.
    const at = (text: string) =>
      new Date(clocks.wallOf(icalOf(Temporal.PlainDateTime.from(text)), 'Europe/Lisbon'))
    expect(at('2030-03-31T01:30').toISOString()).toBe('2030-03-31T01:30:00.000Z')
    expect(at('2030-03-31T02:30').toISOString()).toBe('2030-03-31T01:30:00.000Z')
    expect(at('2030-10-27T01:30').toISOString()).toBe('2030-10-27T00:30:00.000Z')
    expect(at('2030-10-27T02:30').toISOString()).toBe('2030-10-27T02:30:00.000Z')
  })

  it('leave times without a zone, and those of home, as they stand', () => {
    fc.assert(
      fc.property(zone, time, (home, at) => {
        const clocks = byHome.get(home)!
        expect(clocks.wallOf(icalOf(at), undefined)).toBe(wallMs(at))
        expect(clocks.wallOf(icalOf(at), home)).toBe(wallMs(at))
      }),
    )
  })

  it('know a zone that the file brings along, and no others', () => {
    const clocks = new Clocks('Etc/UTC', first, last)
    const quay = [
      'BEGIN:VTIMEZONE',
      'TZID:Quay time',
      'BEGIN:STANDARD',
      'DTSTART:20200101T000000',
      'TZOFFSETFROM:+0130',
      'TZOFFSETTO:+0130',
      'END:STANDARD',
      'END:VTIMEZONE',
    ].join('\r\n')
    expect(clocks.knows('Quay time')).toBe(false)
    clocks.add(quay)
    expect(clocks.knows('Quay time')).toBe(true)
    expect(clocks.knows('Europe/Lisbon')).toBe(true)
    expect(clocks.knows('Nowhere/At all')).toBe(false)
    const noon = Temporal.PlainDateTime.from('2030-06-01T12:00')
    expect(clocks.wallOf(icalOf(noon), 'Quay time')).toBe(wallMs(noon) - 90 * 60_000)
  })

  it('are not taken in by a file that calls a known zone its own', () => {
    const clocks = new Clocks('Etc/UTC', first, last)
    clocks.add(
      'BEGIN:VTIMEZONE\r\nTZID:Europe/Lisbon\r\nBEGIN:STANDARD\r\nDTSTART:20200101T000000\r\nTZOFFSETFROM:+0900\r\nTZOFFSETTO:+0900\r\nEND:STANDARD\r\nEND:VTIMEZONE',
    )
    const noon = Temporal.PlainDateTime.from('2030-01-10T12:00')
    expect(clocks.wallOf(icalOf(noon), 'Europe/Lisbon')).toBe(wallMs(noon))
  })
})
