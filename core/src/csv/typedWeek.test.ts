import fc from 'fast-check'
import { Availability } from '@climber/contract'
import { minuteOf, readFreeTime, readTime, readWeek, timeOf, writeFreeTime } from '../index'

const spans = (text: string) =>
  readWeek(text).times.map(({ weekday, from, to }) => `${weekday} ${from}-${to}`)
const wrong = (text: string) => readWeek(text).problems.map(({ row, message }) => `${row}: ${message}`)

describe('a week as people type it', () => {
  it('takes days, runs of days and words for several, and times in 24 hours or with am and pm', () => {
    expect(spans('Mon-Thu 19:00-21:00; Sat 9-12')).toEqual([
      '1 19:00-21:00',
      '2 19:00-21:00',
      '3 19:00-21:00',
      '4 19:00-21:00',
      '6 09:00-12:00',
    ])
    expect(spans('weekdays 7-9pm')).toEqual([1, 2, 3, 4, 5].map((day) => `${day} 19:00-21:00`))
    expect(spans('Sundays from 10 to 13.30')).toEqual(['7 10:00-13:30'])
    expect(spans('Tue, Thu 1830-2000')).toEqual(['2 18:30-20:00', '4 18:30-20:00'])
    expect(spans('Mo We Fr: 6:15 – 7')).toEqual(['1 06:15-07:00', '3 06:15-07:00', '5 06:15-07:00'])
    expect(spans('Sat and Sun 10-12, 14-16')).toEqual([
      '6 10:00-12:00',
      '7 10:00-12:00',
      '6 14:00-16:00',
      '7 14:00-16:00',
    ])
    expect(spans('daily 22-24')).toHaveLength(7)
    expect(spans('Fri-Mon 8-9')).toEqual(['1 08:00-09:00', '5 08:00-09:00', '6 08:00-09:00', '7 08:00-09:00'])
    expect(spans('Sat 11-1pm')).toEqual(['6 11:00-13:00'])
    expect(spans('\n\n')).toEqual([])
  })
  it('keeps the words beside a time', () => {
    expect(readWeek('Wed 17:30-19:00 swimming').times).toEqual([
      { weekday: 3, from: '17:30', to: '19:00', words: 'swimming' },
    ])
  })
  it('names the line, what of it is wrong and what would be right', () => {
    expect(wrong('Mon 9-10\nMoonday 9-10')).toEqual([
      '2: "Moonday" is no day of the week; write days and times, such as "Mon-Thu 19:00-21:00" or "Sat 9-12"',
    ])
    expect(wrong('9-10')[0]).toContain('names no day')
    expect(wrong('Mon evening')[0]).toContain('names no time')
    expect(wrong('Mon 19')[0]).toContain('not from one time to another')
    expect(wrong('Mon 22-1')[0]).toContain('past midnight')
    expect(wrong('Mon 9-10:75')[0]).toContain('24 hours')
    expect(wrong('Mon-Wed-Fri 9-10')[0]).toContain('no day of the week')
    expect(wrong('Mon 25-26')[0]).toContain('24 hours')
  })
  it('reads times of day', () => {
    expect(['17.30', '1730', '9', '5:30 pm', '12 am', '24:00'].map(readTime)).toEqual([
      '17:30',
      '17:30',
      '09:00',
      '17:30',
      '00:00',
      '24:00',
    ])
    for (const none of ['', '25', '13 pm', '9:60', 'nine', '24:30']) expect(readTime(none)).toBeUndefined()
  })
})

describe('free time', () => {
  it('joins what overlaps, and light time gives way', () => {
    expect(readFreeTime('Mon 18-20; Mon 19-21; Mon 17-19 light').windows).toEqual([
      { weekday: 1, from: '17:00', to: '18:00', light: true },
      { weekday: 1, from: '18:00', to: '21:00' },
    ])
    expect(readFreeTime('Mon 9-10\nTue 9-10 swimming').problems).toMatchObject([{ row: 2 }])
  })
  it('is written so that reading it gives the same, a line for days alike', () => {
    expect(writeFreeTime(readFreeTime('weekdays 19-21; Sat 9-12').windows)).toBe(
      'Mon-Fri 19:00-21:00\nSat 09:00-12:00',
    )
    const window = fc
      .record({
        weekday: fc.integer({ min: 1, max: 7 }),
        first: fc.integer({ min: 0, max: 95 }),
        length: fc.integer({ min: 1, max: 40 }),
        light: fc.boolean(),
      })
      .map(({ weekday, first, length, light }) => ({
        weekday,
        from: timeOf(first * 15),
        to: timeOf(Math.min(96, first + length) * 15),
        ...(light && { light }),
      }))
    fc.assert(
      fc.property(fc.array(window, { maxLength: 12 }), (windows) => {
        const { windows: once, problems } = readFreeTime(writeFreeTime(windows))
        expect(problems).toEqual([])
        expect(Availability.safeParse({ windows: once }).success).toBe(true)
        expect(readFreeTime(writeFreeTime(once)).windows).toEqual(once)
        // Every minute that was free is free, and no other; light only where nothing else was.
        const at = (all: typeof once, weekday: number, minute: number) => {
          const here = all.filter(
            (one) => one.weekday === weekday && minuteOf(one.from) <= minute && minute < minuteOf(one.to),
          )
          return here.some((one) => !one.light) ? 'free' : here.length ? 'light' : ''
        }
        for (let weekday = 1; weekday <= 7; weekday++)
          for (let minute = 0; minute < 1440; minute += 15)
            expect(at(once, weekday, minute)).toBe(at(windows, weekday, minute))
      }),
      { numRuns: 60 },
    )
  })
})
