import http from 'node:http'
import net, { type AddressInfo } from 'node:net'
import type { Dice } from './world'

const wrapped = (...lines: (string | string[])[]) =>
  ['BEGIN:VCALENDAR', 'VERSION:2.0', 'PRODID:-//tests//EN', lines.flat(2), 'END:VCALENDAR']
    .flat()
    .join('\r\n')
const event = (rule: string, more: string[] = [], start = 'DTSTART:20300101T080000Z') => [
  'BEGIN:VEVENT',
  'UID:one',
  'SUMMARY:Watch',
  start,
  'DURATION:PT1H',
  ...(rule ? [`RRULE:${rule}`] : []),
  ...more,
  'END:VEVENT',
]
const zone = (rule: string) => [
  'BEGIN:VTIMEZONE',
  'TZID:Quay time',
  'BEGIN:STANDARD',
  'DTSTART:20200101T000000',
  `RRULE:${rule}`,
  'TZOFFSETFROM:+0100',
  'TZOFFSETTO:+0200',
  'END:STANDARD',
  'END:VTIMEZONE',
]

/** Calendars that never come to an end, or take very long to. */
export const endless: Record<string, string> = {
  'the 30th of February': wrapped(...event('FREQ=DAILY;BYMONTH=2;BYMONTHDAY=30')),
  'the 31st of short months': wrapped(...event('FREQ=MONTHLY;BYMONTH=4,6;BYMONTHDAY=31')),
  'a day of the year that no year has': wrapped(...event('FREQ=YEARLY;BYYEARDAY=366;INTERVAL=999')),
  'a fifth Monday of a week': wrapped(...event('FREQ=WEEKLY;BYDAY=MO;BYSETPOS=5')),
  'a tenth Monday of a month': wrapped(...event('FREQ=MONTHLY;BYDAY=10MO')),
  'no position there is': wrapped(...event('FREQ=MONTHLY;BYDAY=MO;BYSETPOS=300')),
  'a week that no January has': wrapped(...event('FREQ=YEARLY;BYWEEKNO=40;BYMONTH=1')),
  'an interval without end': wrapped(...event('FREQ=DAILY;INTERVAL=999999999999')),
  'an interval of nothing': wrapped(...event('FREQ=DAILY;INTERVAL=0')),
  'by the second': wrapped(...event('FREQ=SECONDLY')),
  'by the hour for ever, since long ago': wrapped(...event('FREQ=HOURLY', [], 'DTSTART:19000101T080000Z')),
  'a zone that changes by the second': wrapped(
    ...zone('FREQ=SECONDLY'),
    ...event('', [], 'DTSTART;TZID=Quay time:20300102T080000'),
  ),
  'a zone that changes on a day that never comes': wrapped(
    ...zone('FREQ=YEARLY;BYMONTH=2;BYMONTHDAY=31'),
    ...event('', [], 'DTSTART;TZID=Quay time:20300102T080000'),
  ),
  'twenty at every hour': wrapped(Array.from({ length: 20 }, () => event('FREQ=HOURLY')).flat()),
  'fifty thousand events': wrapped(Array.from({ length: 50_000 }, () => event('')).flat()),
  'an event a million days long': wrapped(
    ...['BEGIN:VEVENT', 'UID:1', 'DTSTART:20300101T000000Z', 'DURATION:P999999999D', 'END:VEVENT'],
  ),
  'a year without a number': wrapped(...event('FREQ=YEARLY', [], 'DTSTART:99990101T000000Z')),
}

const parts = {
  FREQ: ['DAILY', 'WEEKLY', 'MONTHLY', 'YEARLY', 'HOURLY', 'MINUTELY', 'SECONDLY', 'NEVER'],
  INTERVAL: ['1', '2', '0', '-3', '99999', '53'],
  COUNT: ['1', '0', '100000', '-1'],
  UNTIL: ['20300301', '19000101', '20300101T000000Z', 'x'],
  BYMONTH: ['1', '2', '13', '4,6', '0'],
  BYMONTHDAY: ['1', '31', '30', '-31', '0', '32', '29'],
  BYDAY: ['MO', '5MO', '-1SU', '53FR', 'XX', 'MO,TU,WE'],
  BYYEARDAY: ['1', '366', '-366', '367'],
  BYWEEKNO: ['1', '53', '-53', '54'],
  BYSETPOS: ['1', '-1', '366', '5'],
  BYHOUR: ['0', '23', '24'],
  WKST: ['MO', 'SU', 'ZZ'],
}
/** A calendar with rules put together at random. */
export function randomCalendar(dice: Dice): string {
  const rule = () =>
    Object.entries(parts)
      .filter(([name]) => name === 'FREQ' || dice.chance(0.3))
      .map(([name, values]) => `${name}=${dice.of(values)}`)
      .join(';')
  const start = dice.of([
    'DTSTART:20300101T080000Z',
    'DTSTART;VALUE=DATE:20300101',
    'DTSTART;TZID=Quay time:20290229T990000',
    'DTSTART;TZID=Nowhere:20300101T000000',
    'DTSTART:19700101T000000',
  ])
  const more = dice.of([[], ['EXDATE:20300103T080000Z'], ['RDATE:20300203T080000Z'], ['RECURRENCE-ID:x']])
  return wrapped(
    ...(dice.chance(0.3) ? zone(rule()) : []),
    ...Array.from({ length: 1 + dice.below(3) }, () => event(rule(), more, start)).flat(),
  )
}

/** A server of calendars that is as bad as it can be; `serve` says what comes at an address. */
export async function calendarServer() {
  const texts = new Map<string, string>()
  const server = http.createServer((request, response) => {
    const { pathname, searchParams } = new URL(request.url ?? '/', 'http://x')
    const location = searchParams.get('location')
    if (location !== null) {
      response.writeHead(302, { location })
      response.end()
    } else if (pathname === '/cut') {
      response.writeHead(200, { 'content-length': '1000' })
      response.write('BEGIN:VCALENDAR')
      setTimeout(() => response.destroy(), 20)
    } else if (pathname === '/large') {
      response.writeHead(200)
      const more = () => {
        while (response.writable && response.write('x'.repeat(100_000)));
        if (response.writable) response.once('drain', more)
      }
      more()
    } else if (pathname === '/status') {
      response.writeHead(Number(searchParams.get('is')))
      response.end('no')
    } else response.end(texts.get(pathname) ?? '')
  })
  // Not even HTTP.
  const raw = net.createServer((socket) => {
    socket.on('error', () => undefined)
    socket.end('SSH-2.0-none\r\n\r\n')
  })
  await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve))
  await new Promise<void>((resolve) => raw.listen(0, '127.0.0.1', resolve))
  const at = `http://127.0.0.1:${(server.address() as AddressInfo).port}`
  let count = 0
  return {
    at,
    raw: `http://127.0.0.1:${(raw.address() as AddressInfo).port}/`,
    /** An address at which this text stands. */
    serve(text: string): string {
      const path = `/${++count}.ics`
      texts.clear()
      texts.set(path, text)
      return at + path
    },
    close() {
      server.closeAllConnections()
      server.close()
      raw.close()
    },
  }
}
