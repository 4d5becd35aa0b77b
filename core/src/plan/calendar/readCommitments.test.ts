import { readCommitments } from './readCommitments'

const calendar = (...events: string[]) =>
  ['BEGIN:VCALENDAR', 'VERSION:2.0', 'PRODID:-//tests//EN', ...events, 'END:VCALENDAR'].join('\r\n')
const event = (...lines: string[]) =>
  ['BEGIN:VEVENT', 'SUMMARY:Dredging watch', ...lines, 'END:VEVENT'].join('\r\n')
const read = (text: string, zone = 'Europe/Riga') => readCommitments(text, zone, '2031-03-01', '2031-04-30')
const spans = (text: string, zone?: string) =>
  read(text, zone).busy.map(({ date, from, to }) => `${date} ${from}-${to}`)

describe('commitments from iCalendar', () => {
  it('one event, at home, in UTC and in another zone', () => {
    expect(spans(calendar(event('UID:1', 'DTSTART:20310310T180000', 'DTEND:20310310T193000')))).toEqual([
      '2031-03-10 18:00-19:30',
    ])
    expect(spans(calendar(event('UID:1', 'DTSTART:20310310T180000Z', 'DURATION:PT45M')))).toEqual([
      '2031-03-10 20:00-20:45',
    ])
    expect(
      spans(calendar(event('UID:1', 'DTSTART;TZID=Pacific/Chatham:20310310T120000', 'DURATION:PT1H'))),
    ).toEqual(['2031-03-10 00:15-01:15'])
  })
  it('keeps the wall time of its own zone over a clock change', () => {
    // Riga puts its clocks forward on 30 March 2031; Chatham puts them back on 6 April.
    const weekly = (zone: string, at: string) =>
      calendar(event('UID:1', `DTSTART;TZID=${zone}:${at}`, 'DURATION:PT1H', 'RRULE:FREQ=WEEKLY;COUNT=4'))
    expect(spans(weekly('Europe/Riga', '20310320T090000'))).toEqual(
      ['20', '27']
        .map((day) => `2031-03-${day} 09:00-10:00`)
        .concat(['2031-04-03 09:00-10:00', '2031-04-10 09:00-10:00']),
    )
    expect(spans(weekly('Pacific/Chatham', '20310320T200000'))).toEqual([
      '2031-03-20 08:15-09:15',
      '2031-03-27 08:15-09:15',
      '2031-04-03 09:15-10:15',
      '2031-04-10 10:15-11:15',
    ])
  })
  it('recurrences, with exceptions, moved and cancelled occurrences', () => {
    const text = calendar(
      event(
        'UID:watch',
        'DTSTART:20310303T080000',
        'DTEND:20310303T090000',
        'RRULE:FREQ=WEEKLY;BYDAY=MO,WE;UNTIL=20310320T000000',
        'EXDATE:20310305T080000',
      ),
      event('UID:watch', 'RECURRENCE-ID:20310310T080000', 'DTSTART:20310311T140000', 'DURATION:PT2H'),
      event(
        'UID:watch',
        'RECURRENCE-ID:20310312T080000',
        'DTSTART:20310312T080000',
        'DURATION:PT1H',
        'STATUS:CANCELLED',
      ),
    )
    expect(spans(text)).toEqual([
      '2031-03-03 08:00-09:00',
      '2031-03-11 14:00-16:00',
      '2031-03-17 08:00-09:00',
      '2031-03-19 08:00-09:00',
    ])
    expect(read(text).events).toBe(1)
  })
  it('all-day events, unless they are transparent; events over midnight; overlaps merged', () => {
    expect(
      spans(
        calendar(
          event('UID:1', 'DTSTART;VALUE=DATE:20310404', 'DTEND;VALUE=DATE:20310406'),
          event('UID:2', 'DTSTART;VALUE=DATE:20310410', 'TRANSP:TRANSPARENT'),
          event('UID:3', 'DTSTART:20310420T220000', 'DURATION:PT4H'),
          event('UID:4', 'DTSTART:20310420T213000', 'DURATION:PT1H'),
        ),
      ),
    ).toEqual([
      '2031-04-04 00:00-24:00',
      '2031-04-05 00:00-24:00',
      '2031-04-20 21:30-24:00',
      '2031-04-21 00:00-02:00',
    ])
  })
  it('a zone described in the file alone', () => {
    const zone = [
      'BEGIN:VTIMEZONE',
      'TZID:Harbour time',
      'BEGIN:STANDARD',
      'DTSTART:19700101T000000',
      'TZOFFSETFROM:+0300',
      'TZOFFSETTO:+0300',
      'END:STANDARD',
      'END:VTIMEZONE',
    ].join('\r\n')
    expect(
      spans(calendar(zone, event('UID:1', 'DTSTART;TZID=Harbour time:20310310T120000', 'DURATION:PT1H'))),
    ).toEqual(['2031-03-10 11:00-12:00'])
  })
  it('reports the event that is broken, with its line, and what is wrong', () => {
    const good = event('UID:1', 'DTSTART:20310310T180000', 'DURATION:PT1H')
    for (const [bad, reason] of [
      [event('UID:2', 'DTSTART:2031031T180000'), /date|invalid/],
      [event('UID:2', 'DTEND:20310310T180000'), /no start/],
      [event('UID:2', 'DTSTART;TZID=Nowhere/Inn:20310310T180000'), /Nowhere\/Inn/],
      [event('UID:2', 'DTSTART:20310310T180000', 'DTEND:20310310T170000'), /ends before/],
      [event('UID:2', 'DTSTART:20310310T180000', 'RRULE:FREQ=NEVER'), /NEVER|freq/i],
      [event('UID:2', 'DTSTART:20310310T180000', 'this is no property'), /this is no property/],
    ] as const) {
      const { problems, events } = read(calendar(good, bad))
      expect(problems).toHaveLength(1)
      expect(problems[0]).toMatchObject({ line: 10, event: 'Dredging watch' })
      expect(problems[0]!.message).toMatch(reason)
      expect(events).toBeGreaterThanOrEqual(1)
    }
    expect(read('nothing of the kind').problems[0]!.message).toMatch(/not an iCalendar/)
    expect(read(calendar(good, 'BEGIN:VEVENT\r\nSUMMARY:Cut')).problems[0]!.message).toMatch(/no end/)
  })
  it('a series that began years ago goes on in step, and one that ended is over', () => {
    const every = (rule: string, start = '20280105T060000') =>
      spans(calendar(event('UID:1', `DTSTART:${start}`, 'DURATION:PT30M', `RRULE:${rule}`))).map((span) =>
        span.slice(0, 10),
      )
    // 5 January 2028 was a Wednesday; every third day from then falls on 1 March 2031.
    const third = every('FREQ=DAILY;INTERVAL=3')
    const days = (Date.UTC(2031, 2, 1) - Date.UTC(2028, 0, 5)) / 86_400_000
    expect(
      new Date(Date.UTC(2031, 2, 1) + ((3 - (days % 3)) % 3) * 86_400_000).toISOString().slice(0, 10),
    ).toBe(third[0])
    expect(third).toHaveLength(20)
    const weeks = Math.ceil((Date.UTC(2031, 2, 1) - Date.UTC(2028, 0, 5)) / 604_800_000)
    const second = every('FREQ=WEEKLY;INTERVAL=2;BYDAY=WE')
    const firstWeek = weeks % 2 ? weeks + 1 : weeks
    expect(second[0]).toBe(
      new Date(Date.UTC(2028, 0, 5) + firstWeek * 604_800_000).toISOString().slice(0, 10),
    )
    expect(every('FREQ=WEEKLY;COUNT=20')).toEqual([])
    expect(every('FREQ=DAILY;UNTIL=20310302T235959Z')).toEqual(['2031-03-01', '2031-03-02'])
    expect(every('FREQ=DAILY;COUNT=1153')).toEqual(['2031-03-01', '2031-03-02'])
  })
  it.each([
    ['FREQ=SECONDLY', 'by the second or minute'],
    ['FREQ=MINUTELY;COUNT=3', 'by the second or minute'],
    ['FREQ=DAILY;INTERVAL=999999999999', 'at an interval of'],
    ['FREQ=DAILY;BYMONTH=2;BYMONTHDAY=30', 'a day that never comes'],
    ['FREQ=MONTHLY;BYMONTH=4,6;BYMONTHDAY=31', 'a day that never comes'],
    ['FREQ=MONTHLY;BYMONTHDAY=-32', ''],
  ])('a rule that cannot be followed is refused with its event: %s', (rule, reason) => {
    const { problems } = read(
      calendar(event('UID:1', 'DTSTART:20310310T180000', 'DURATION:PT1H', `RRULE:${rule}`)),
    )
    expect(problems).toHaveLength(1)
    expect(problems[0]?.line).toBe(4)
    expect(problems[0]?.message).toContain(reason)
  })
  it.each([
    'FREQ=YEARLY;BYMONTH=2;BYMONTHDAY=29',
    'FREQ=MONTHLY;BYMONTHDAY=31',
    'FREQ=MONTHLY;BYMONTHDAY=-1',
  ])('a rule that comes seldom is followed: %s', (rule) => {
    expect(
      read(calendar(event('UID:1', 'DTSTART:20280229T180000', 'DURATION:PT1H', `RRULE:${rule}`))).problems,
    ).toEqual([])
  })
  it('all events of a file together are followed so far and no further; each line is told as it is reached', () => {
    const hourly = event('UID:1', 'DTSTART:20310301T000000', 'DURATION:PT1M', 'RRULE:FREQ=HOURLY')
    const reached: number[] = []
    const { problems } = readCommitments(
      calendar(...Array.from({ length: 12 }, () => hourly)),
      'Europe/Riga',
      '2031-03-01',
      '2032-03-01',
      (line) => void reached.push(line),
    )
    expect(problems.at(-1)?.message).toContain('all events together')
    expect(reached).toHaveLength(12)
    expect(new Set(reached).size).toBe(12)
  })
  it('a zone whose changes cannot be followed is refused with its line', () => {
    const zone = (rule: string) =>
      [
        'BEGIN:VTIMEZONE',
        'TZID:Quay time',
        'BEGIN:STANDARD',
        'DTSTART:20200101T000000',
        `RRULE:${rule}`,
        'TZOFFSETFROM:+0100',
        'TZOFFSETTO:+0200',
        'END:STANDARD',
        'END:VTIMEZONE',
      ].join('\r\n')
    const own = event('UID:1', 'DTSTART;TZID=Quay time:20310310T180000', 'DURATION:PT1H')
    for (const rule of ['FREQ=SECONDLY', 'FREQ=YEARLY;BYMONTH=2;BYMONTHDAY=31'])
      expect(read(calendar(zone(rule), own)).problems[0]).toMatchObject({
        line: 4,
        message: 'the time zone cannot be read',
      })
    expect(read(calendar(zone('FREQ=YEARLY;BYMONTH=3;BYDAY=-1SU'), own)).problems).toEqual([])
  })
  it('what recurs without end is read up to the last day, and only within the days', () => {
    const text = calendar(event('UID:1', 'DTSTART:20290101T060000', 'DURATION:PT30M', 'RRULE:FREQ=DAILY'))
    expect(spans(text)).toHaveLength(61)
  })
})
