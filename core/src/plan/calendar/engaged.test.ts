import { parts } from '@climber/contract'
import { inputsOf } from '../../../test/arbitrary'
import { gardenRecord } from '../../../test/fixture'
import {
  arrange,
  busyOf,
  dateOf,
  dayNumber,
  daysOffOf,
  makePlan,
  minuteOf,
  planOdds,
  reasonsToMend,
  replan,
  assess,
} from '../../index'

const now = { date: '2031-03-03', minute: 420 }
const day = (ahead: number) => dateOf(dayNumber(now.date) + ahead)

describe('what is on every week', () => {
  const weekly = (more: object) =>
    parts.commitments.parse({ weekly: [{ title: 'Choir', weekday: 3, from: '18:00', to: '20:00', ...more }] })
  const days = (more: object) =>
    busyOf(weekly(more), dayNumber('2031-03-03'), dayNumber('2031-03-31')).map(({ date }) => date)
  it('falls on its weekday, from its first day to its last', () => {
    expect(days({})).toEqual(['2031-03-05', '2031-03-12', '2031-03-19', '2031-03-26'])
    expect(days({ first: '2031-03-12' })).toEqual(['2031-03-12', '2031-03-19', '2031-03-26'])
    expect(days({ first: '2031-03-13', last: '2031-03-26' })).toEqual(['2031-03-19', '2031-03-26'])
    expect(days({ last: '2031-03-04' })).toEqual([])
  })
  it('ends after it starts, and not before its first day', () => {
    expect(() => weekly({ to: '17:00' })).toThrow()
    expect(() => weekly({ first: '2031-05-01', last: '2031-04-01' })).toThrow()
  })
  it('is gone round by a plan, and kept out of what is asked of it by hand', () => {
    const base = gardenRecord()
    const { weekday, from, to } = base.availability.windows[0]!
    const record = {
      ...base,
      commitments: parts.commitments.parse({ weekly: [{ title: 'Choir', weekday, from, to }] }),
    }
    const { plan: input } = inputsOf({ record, minute: 420, seed: 1 })
    const plan = makePlan(input)
    const busy = new Set(input.busy.map(({ date }) => date))
    expect(busy.size).toBeGreaterThan(5)
    const taken = plan.sessions.filter(
      ({ date, start, minutes }) =>
        busy.has(date) && minuteOf(start) < minuteOf(to) && minuteOf(start) + minutes > minuteOf(from),
    )
    expect(taken).toEqual([])
    const one = plan.sessions.find(({ kind }) => kind === 'learn')!
    const [date] = [...busy]
    const { refusals } = arrange({ ...record, plan }, now, [{ id: one.id, date: date!, start: from }])
    expect(refusals).toHaveLength(1)
  })
})

describe('a public holiday', () => {
  const free = gardenRecord()
  const { weekday } = free.availability.windows[0]!
  const holiday = day(((weekday - 1 + 7) % 7) + 14)
  const withHoliday = (work?: true) =>
    gardenRecord({
      availability: {
        ...free.availability,
        holidays: [{ date: holiday, title: 'Day of gates', ...(work && { work }) }],
      },
    })
  const on = (record: ReturnType<typeof gardenRecord>) =>
    makePlan(inputsOf({ record, minute: 420, seed: 1 }).plan).sessions.filter(({ date }) => date === holiday)
  it('has no work on it unless the candidate agreed', () => {
    expect(daysOffOf(withHoliday().availability)).toContain(holiday)
    expect(daysOffOf(withHoliday(true).availability)).not.toContain(holiday)
    expect(on(free).length).toBeGreaterThan(0)
    expect(on(withHoliday())).toEqual([])
    expect(on(withHoliday(true))).toEqual(on(free))
  })
  it('that comes to light is a reason to mend, and what stands on it is not counted on', () => {
    const plan = makePlan(inputsOf({ record: free, minute: 420, seed: 1 }).plan)
    const standing = plan.sessions.filter(({ date }) => date === holiday).length
    expect(reasonsToMend({ ...free, plan }, now)).toBeUndefined()
    const record = { ...withHoliday(), plan }
    expect(reasonsToMend(record, now)).toMatchObject({ clashes: standing, slipped: 0, rests: 0, orphans: 0 })
    const { plan: mended, before } = replan(record, now, 1)!
    expect(mended.sessions.filter(({ date, status }) => date === holiday && status === 'planned')).toEqual([])
    expect(reasonsToMend({ ...record, plan: mended }, now)).toBeUndefined()
    const counted = planOdds(assess(record, now))!
    expect(before!.forecast.mean).toBeLessThan(counted.forecast.mean)
  })
})
