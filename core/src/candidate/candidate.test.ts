import { gardenRecord, morning, practice } from '../../test/fixture'
import {
  overview,
  assess,
  dateOf,
  dayNumber,
  instantOf,
  levers,
  planInput,
  planOdds,
  previewPlan,
  studyHours,
  withMoved,
  timetable,
  topicsOf,
  verdict,
  wallClock,
  weekdayOf,
} from '../index'

const on = '2031-03-03'
const record = gardenRecord()

describe('the verdict', () => {
  const found = verdict(assess(record, morning(on)))!
  it('says where the candidate stands, what the hours bring and how likely the target is', () => {
    expect(found.hours).toBeGreaterThan(30)
    expect(found.gain).toBeGreaterThan(0)
    expect(found.odds).toBeGreaterThan(0)
    expect(found.odds).toBeLessThan(1)
    expect(found.cuts).toHaveLength(1)
  })
  it('speaks of the plan that would be made, and of the one that is kept, with the same figures', () => {
    expect(found.made).toBe(true)
    const { plan, odds } = previewPlan(record, morning(on), 1)!
    expect(odds!.odds).toBe(found.odds)
    const kept = verdict(assess({ ...record, plan }, morning(on)))!
    expect(kept).toEqual({ ...found, made: false })
  })
  it('its levers do what they say', () => {
    const asked = levers(record, morning(on))!
    const oddsOf = (change: Partial<typeof record>) =>
      verdict(assess({ ...record, ...change }, morning(on)))!.odds!
    for (const lever of asked.levers)
      switch (lever.kind) {
        case 'target': {
          const oddsAt = (scaled: number) => oddsOf({ target: { ...record.target, scaled } })
          expect(oddsAt(lever.target!)).toBeGreaterThanOrEqual(0.8)
          // A plan made for a higher one may share the hours out otherwise, so it is the highest to a few points.
          expect(oddsAt(lever.target! + 4)).toBeLessThan(0.8)
          break
        }
        case 'sitting':
          expect(oddsOf({ target: { ...record.target, sitting: lever.sitting } })).toBe(lever.odds)
          break
        case 'time': {
          const painted = withMoved(record, { minutesMoreAWeek: lever.minutesMoreAWeek })
          expect(oddsOf({ availability: painted.availability })).toBeGreaterThanOrEqual(0.8)
          break
        }
        case 'topics':
          expect(lever.reached).toBe(true)
      }
    const hours = asked.hoursNeeded.map((one) => one.hours ?? Infinity)
    expect([...hours].sort((a, b) => a - b)).toEqual(hours)
    expect(hours[0]! < found.hours).toBe(found.odds! > 0.5)
  })
  it('more free time never lowers it, a higher target never raises it', () => {
    const odds = (change: Partial<typeof record>) =>
      verdict(assess({ ...record, ...change }, morning(on)))!.odds!
    const more = {
      ...record.availability,
      windows: [...record.availability.windows, { weekday: 7, from: '09:00', to: '12:00' }],
    }
    expect(odds({ availability: more })).toBeGreaterThanOrEqual(found.odds!)
    expect(odds({ target: { ...record.target, scaled: 470 } })).toBeLessThan(found.odds!)
  })
  it('with no free hour says so', () => {
    const none = verdict(
      assess({ ...record, availability: { ...record.availability, windows: [] } }, morning(on)),
    )!
    expect(none.hours).toBe(0)
    expect(none.notices[0]!.code).toBe('no-time')
  })
  it('there is none once the last sitting is over', () =>
    expect(verdict(assess(record, morning('2032-01-01')))).toBeUndefined())
})

describe('a plan and its odds', () => {
  it('a logged score moves the forecast and narrows it', () => {
    const { plan } = previewPlan(record, morning(on), 1)!
    const before = planOdds(assess({ ...record, plan }, morning(on)))!
    const test = practice(
      1,
      on,
      {
        'names-items': { right: 50, wrong: 6, blank: 4 },
        'ledgers-items': { right: 24, wrong: 3, blank: 3 },
      },
      { form: 'wall-1', source: 'other' },
    )
    const after = planOdds(assess({ ...record, plan, attempts: [...record.attempts, test] }, morning(on)))!
    expect(after.forecast.mean).toBeGreaterThan(before.forecast.mean + 5)
    expect(after.forecast.sd).toBeLessThan(before.forecast.sd)
    const seen = planOdds(
      assess({ ...record, plan, attempts: [...record.attempts, { ...test, seen: true }] }, morning(on)),
    )!
    expect(seen.forecast).toEqual(before.forecast)
  })
  it('work that is done raises what is known, and only its topic', () => {
    const { plan } = previewPlan(record, morning(on), 1)!
    const session = plan.sessions.find((one) => topicsOf(one).length === 1)!
    const done = {
      ...plan,
      sessions: plan.sessions.map((one) =>
        one.id === session.id ? { ...one, status: 'done' as const, minutesDone: 50 } : one,
      ),
    }
    const before = overview({ ...record, plan }, morning(on))
    const after = overview({ ...record, plan: done }, morning(on))
    for (const [at, topic] of after.topics.entries()) {
      if (topic.id === topicsOf(session)[0]) expect(topic.known).toBeGreaterThan(before.topics[at]!.known)
      else expect(topic.known).toBe(before.topics[at]!.known)
    }
  })
  it('the study hours are those that the plan places', () => {
    const assessment = assess(record, morning(on))
    const input = planInput(assessment, assessment.sitting!, 1)
    const { plan } = previewPlan(record, morning(on), 1)!
    const placed =
      plan.sessions.filter((one) => topicsOf(one).length).reduce((sum, { minutes }) => sum + minutes, 0) / 60
    expect(placed).toBeCloseTo(studyHours(input), 9)
  })
})

describe('exam day', () => {
  it('counts back from the start bell', () => {
    const day = timetable(
      record.exam,
      record.exam.sittings[0]!,
      { ...record.examDay, travelMinutes: 50 },
      { timeFactor: 1.25 },
    )
    expect(day.map(({ what, minute }) => [what, minute])).toEqual([
      ['up', 9 * 60 + 30 - 30 - 50 - 75],
      ['leave', 9 * 60 + 30 - 30 - 50],
      ['there', 9 * 60],
      ['section', 9 * 60 + 30],
      ['break', 9 * 60 + 30 + 94],
      ['section', 9 * 60 + 30 + 104],
      ['end', 9 * 60 + 30 + 104 + 57],
    ])
  })
})

describe('days and clocks', () => {
  it('day numbers and weekdays', () => {
    expect(dayNumber('1970-01-01')).toBe(0)
    expect(dateOf(dayNumber('2028-02-29') + 1)).toBe('2028-03-01')
    expect(weekdayOf(dayNumber('2026-11-23'))).toBe(1)
    expect(weekdayOf(dayNumber('1969-12-28'))).toBe(7)
  })
  it('clock changes: a skipped time moves on, a doubled one is the first', () => {
    // Southern zone with a change at 02:00 on 2031-10-05, and back at 03:00 on 2031-04-06.
    expect(instantOf('2031-10-05', '02:30', 'Australia/Hobart')).toBe('2031-10-04T16:30:00Z')
    expect(instantOf('2031-04-06', '02:30', 'Australia/Hobart')).toBe('2031-04-05T15:30:00Z')
    expect(instantOf('2031-04-06', '18:00', 'Australia/Hobart')).toBe('2031-04-06T08:00:00Z')
    expect(instantOf('2031-10-05', '18:00', 'Australia/Hobart')).toBe('2031-10-05T07:00:00Z')
    expect(instantOf('2031-01-01', '24:00', 'Etc/UTC')).toBe('2031-01-02T00:00:00Z')
    expect(wallClock('2031-10-05T07:00:00Z', 'Australia/Hobart')).toEqual({
      date: '2031-10-05',
      minute: 18 * 60,
    })
  })
})
