import { parts, type Availability, type PlanSession, type StudySession } from '@climber/contract'
import { dayNumber, minuteOf } from '../../index'
import { Calendar } from './calendar'

const monday = dayNumber('2031-03-03')
const exam = monday + 21

function calendar(
  change: Partial<Availability> = {},
  options: object = {},
  kept: PlanSession[] = [],
): Calendar {
  return new Calendar(
    parts.availability.parse({
      windows: [1, 2, 3, 4, 5].map((weekday) => ({ weekday, from: '18:00', to: '20:00' })),
      ...change,
    }),
    monday,
    exam,
    { nowMinute: 0, breakMinutes: 10, slackShare: 0.125, longestBlock: 90, sessionMinutes: 50, ...options },
    kept,
  )
}
const session = (change: Partial<StudySession>): PlanSession => ({
  id: 'study.x.1',
  date: '2031-03-03',
  start: '18:00',
  minutes: 50,
  kind: 'learn',
  topics: [],
  pinned: true,
  status: 'planned',
  ...change,
})

describe('free time', () => {
  it('is the windows of the weekday, until the day before the exam', () => {
    const days = calendar().days()
    expect(days).toHaveLength(15)
    expect(days[0]).toBe(monday)
    expect(days[days.length - 1]).toBe(exam - 3)
    expect(calendar().free(monday)).toEqual([{ from: 1080, to: 1200 }])
  })
  it('leaves out days off, and takes the windows of an exception instead of the usual ones', () => {
    const found = calendar({
      daysOff: ['2031-03-04'],
      exceptions: [
        { date: '2031-03-05', windows: [{ from: '07:00', to: '08:00' }] },
        { date: '2031-03-06', windows: [] },
      ],
    })
    expect(found.days().slice(0, 3)).toEqual([monday, monday + 2, monday + 4])
    expect(found.free(monday + 2)).toEqual([{ from: 420, to: 480 }])
  })
  it('ends at 23:00 and begins at 06:00, unless nights are the candidate’s own hours', () => {
    const late = {
      windows: [
        { weekday: 1, from: '22:00', to: '24:00' },
        { weekday: 2, from: '00:00', to: '07:00' },
      ],
    }
    expect(calendar(late).free(monday)).toEqual([{ from: 1320, to: 1380 }])
    expect(calendar(late).free(monday + 1)).toEqual([{ from: 360, to: 420 }])
    expect(calendar({ ...late, nights: true }).free(monday)).toEqual([{ from: 1320, to: 1440 }])
  })
  it('of today begins now, at the next five minutes', () => {
    expect(calendar({}, { nowMinute: 1102 }).free(monday)).toEqual([{ from: 1105, to: 1200 }])
    expect(calendar({}, { nowMinute: 1250 }).days()[0]).toBe(monday + 1)
  })
})

describe('taking time', () => {
  it('keeps a break on both sides and can be undone', () => {
    const found = calendar()
    found.take(monday, 1110, 30)
    expect(found.free(monday)).toEqual([
      { from: 1080, to: 1100 },
      { from: 1150, to: 1200 },
    ])
    expect(found.dayRoom(monday)).toBe(210)
    found.give(monday, 1110, 30)
    expect(found.free(monday)).toEqual([{ from: 1080, to: 1200 }])
    expect(found.dayRoom(monday)).toBe(240)
  })
  it('leaves the slack of the week alone', () => {
    const found = calendar()
    expect(found.weekRoom(monday)).toBeCloseTo(5 * 110 * 0.875, 9)
    found.take(monday, 1080, 60)
    expect(found.weekRoom(monday + 3)).toBeCloseTo(5 * 110 * 0.875 - 60, 9)
    expect(found.weekRoom(monday + 7)).toBeCloseTo(5 * 110 * 0.875, 9)
  })
  it('counts the sessions that stay, but not those that slipped', () => {
    const found = calendar({}, {}, [
      session({ start: '18:00' }),
      session({ id: 'study.x.2', date: '2031-03-04', status: 'slipped' }),
      session({ id: 'study.x.3', date: '2031-03-05', status: 'skipped' }),
    ])
    expect(found.free(monday)).toEqual([{ from: minuteOf('19:00'), to: 1200 }])
    expect(found.free(monday + 1)).toEqual([{ from: 1080, to: 1200 }])
    expect(found.free(monday + 2)).toEqual([{ from: 1080, to: 1200 }])
  })
})

describe('days a week', () => {
  const week = {
    windows: [
      { weekday: 1, from: '18:00', to: '19:00' },
      { weekday: 2, from: '18:00', to: '19:30' },
      { weekday: 3, from: '18:00', to: '20:00' },
      { weekday: 6, from: '09:00', to: '09:50' },
    ],
  }
  it('over the cap close those with least time', () => {
    expect(
      calendar({ ...week, daysPerWeek: 2 })
        .days()
        .slice(0, 2),
    ).toEqual([monday + 1, monday + 2])
  })
  it('but keep one that can hold a whole test', () => {
    const long = {
      windows: [...week.windows.slice(0, 3), { weekday: 6, from: '09:00', to: '11:30' }],
      daysPerWeek: 1,
      minutesPerDay: 150,
    }
    expect(calendar(long, { longestBlock: 150 }).days()).toEqual([monday + 5, monday + 12, monday + 19])
    const capped = { ...long, minutesPerDay: 120 }
    expect(calendar(capped, { longestBlock: 150 }).days()[0]).toBe(monday + 2)
  })
  it('count the days that sessions which stay already use', () => {
    const kept = [session({ date: '2031-03-03' })]
    expect(
      calendar({ ...week, daysPerWeek: 2 }, {}, kept)
        .days()
        .slice(0, 2),
    ).toEqual([monday, monday + 2])
  })
})
