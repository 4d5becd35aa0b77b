import { nothingRecalled, parts, type Recalled, type Settings } from '@climber/contract'
import { inputsOf, today } from '../../../test/arbitrary'
import { gardenExam, gardenRecord } from '../../../test/fixture'
import { flatPlan } from '../../../test/flat'
import { dateOf, dayNumber, makePlan, minuteOf } from '../../index'

interface Change {
  settings?: Partial<Settings>
  availability?: object
  travelMinutes?: number
  registerIn?: number
  recalled?: Recalled
}
const on = (days: number) => dateOf(dayNumber(today) + days)
/** The garden plan of twelve weeks, with something changed. */
function plan({ settings, availability, travelMinutes, registerIn, recalled = nothingRecalled }: Change) {
  const plain = gardenRecord()
  const record = {
    ...plain,
    recalled,
    exam: {
      ...gardenExam,
      sittings: [
        { ...gardenExam.sittings[0]!, ...(registerIn !== undefined && { registerBy: on(registerIn) }) },
        gardenExam.sittings[1]!,
      ],
    },
    settings: parts.settings.parse({ ...settings }),
    availability: parts.availability.parse({ ...plain.availability, ...availability }),
    examDay: parts.examDay.parse({ travelMinutes }),
  }
  const { plan: input } = inputsOf({ record, minute: 420, seed: 1 })
  return flatPlan(input, makePlan(input))
}
type Plan = ReturnType<typeof plan>
const ids = ({ sessions }: Plan) => sessions.map(({ id }) => id)
const one = ({ sessions }: Plan, id: string) => sessions.find((session) => session.id === id)
const codes = ({ notices }: Plan) => notices.map(({ code }) => code)

describe('errands', () => {
  it('registration stands before its deadline, days before where it can, and not once that is over', () => {
    const found = one(plan({ registerIn: 20 }), 'errand.register.1')!
    expect(found.date >= on(1) && found.date <= on(18)).toBe(true)
    expect(found.title).toContain(on(20))
    expect(ids(plan({ registerIn: -1 }))).not.toContain('errand.register.1')
  })
  it('a deadline with no free time before it is said', () => {
    const none = plan({ registerIn: 0, availability: { exceptions: [{ date: today, windows: [] }] } })
    expect(codes(none)).toContain('errand-register')
  })
  it('a long way wants booking, a short one does not', () => {
    const far = one(plan({ travelMinutes: 180 }), 'errand.journey.1')!
    const before = dayNumber('2031-05-24') - dayNumber(far.date)
    expect(before).toBeGreaterThanOrEqual(5)
    expect(before).toBeLessThanOrEqual(28)
    expect(ids(plan({ travelMinutes: 45 }))).not.toContain('errand.journey.1')
  })
  it('a visit takes the way there and back, or is said not to fit', () => {
    const visit = one(plan({ settings: { visit: true }, travelMinutes: 45 }), 'errand.visit.1')!
    expect(visit.minutes).toBe(120)
    const far = plan({ settings: { visit: true }, travelMinutes: 200 })
    expect(ids(far)).not.toContain('errand.visit.1')
    expect(codes(far)).toContain('errand-visit')
  })
})

describe('the last days', () => {
  const last = (found: Plan) => found.sessions.filter(({ date }) => date >= '2031-05-19')
  it('stop but for the pace card and the kit', () => {
    expect(
      last(plan({ settings: { taperDays: 5 }, availability: { windows: everyDay } })).map(({ id }) => id),
    ).toEqual(['light.pace-card.1', 'errand.kit.1'])
  })
  it('or hold light work to the eve, as chosen', () => {
    const found = last(
      plan({
        settings: { taperDays: 5, schools: { lastDays: 'light work to the eve' } },
        availability: { windows: everyDay, daysPerWeek: 7 },
      }),
    )
    expect(found.filter(({ kind }) => kind === 'light').length).toBeGreaterThanOrEqual(4)
    for (const { minutes } of found) expect(minutes).toBeLessThanOrEqual(30)
  })
})
const everyDay = [1, 2, 3, 4, 5, 6, 7].map((weekday) => ({ weekday, from: '18:00', to: '20:00' }))

describe('retests', () => {
  it('come the days asked for after the last part of a review, or not at all', () => {
    for (const retestDays of [3, 14]) {
      const found = plan({ settings: { retestDays } })
      const all = found.sessions.filter(({ kind }) => kind === 'retest')
      expect(all.length).toBeGreaterThan(1)
      for (const retest of all) {
        const reviews = found.sessions.filter(({ kind, of }) => kind === 'review' && of === retest.of)
        const waited = dayNumber(retest.date) - Math.max(...reviews.map(({ date }) => dayNumber(date)))
        expect(waited).toBeGreaterThanOrEqual(retestDays)
        expect(waited).toBeLessThanOrEqual(retestDays + 6)
      }
    }
    expect(plan({ settings: { retestDays: null } }).sessions.some(({ kind }) => kind === 'retest')).toBe(
      false,
    )
  })
})

describe('light work', () => {
  it('fills windows that take nothing else, and nothing else goes there', () => {
    const commute = { weekday: 2, from: '07:10', to: '07:50', light: true }
    const plain = gardenRecord().availability.windows
    const found = plan({ availability: { windows: [...plain, commute] } })
    const early = found.sessions.filter(({ start }) => minuteOf(start) < 480)
    expect(early.length).toBeGreaterThan(8)
    for (const { kind, minutes } of early) {
      expect(['light', 'errand']).toContain(kind)
      expect(minutes).toBeLessThanOrEqual(40)
    }
    expect(early.some(({ topics }) => topics.length === 3)).toBe(true)
  })
  it('a quarter of an hour on days with nothing else, where that is wished', () => {
    const windows = [...gardenRecord().availability.windows, { weekday: 5, from: '12:00', to: '12:15' }]
    const fridays = (found: Plan) =>
      found.sessions.filter(({ start, kind }) => start === '12:00' && kind === 'light')
    expect(fridays(plan({ availability: { windows, keepWarm: true } })).length).toBeGreaterThan(8)
    expect(fridays(plan({ availability: { windows } }))).toEqual([])
  })
  it('is as long as the queue of what must come back from memory takes, where there is one', () => {
    const commute = [1, 2, 3, 4, 5].map((weekday) => ({ weekday, from: '07:10', to: '07:50', light: true }))
    const windows = [...gardenRecord().availability.windows, ...commute]
    const recalled = (daily: number) => ({
      ...nothingRecalled,
      load: { daily: daily * 60, begun: 5000, unbegun: 0 },
    })
    const cards = (load: number, more: object = {}) =>
      plan({ availability: { windows }, recalled: recalled(load), ...more })
        .sessions.filter(({ id }) => id.startsWith('light.cards'))
        .map(({ minutes }) => minutes)
    const total = (all: number[]) => all.reduce((sum, one) => sum + one, 0)
    const usual = plan({ availability: { windows } }).sessions.filter(({ id }) =>
      id.startsWith('light.cards'),
    )
    expect(usual.every(({ minutes }) => minutes === 30)).toBe(true)
    // Six minutes a day, and each once more in the last days: now and then a quarter of an hour, and no more in all than the queue brings.
    const few = cards(6)
    expect(few.length).toBeGreaterThan(8)
    expect(few.every((minutes) => minutes >= 10 && minutes <= 30 && minutes % 5 === 0)).toBe(true)
    expect(total(few)).toBeLessThan(7.1 * 84 + 30)
    expect(total(cards(12))).toBeGreaterThan(1.5 * total(few))
    // The cap of a day holds, whatever waits.
    const capped = cards(500, { settings: { recall: { minutes: 10 } } })
    expect(total(capped)).toBeLessThanOrEqual(10 * 84)
  })
  it('the best hours of a day are taken first where a cap leaves some free', () => {
    const windows = everyDay.slice(0, 5).map((one) => ({ ...one, from: '14:00' }))
    const study = (best?: object) =>
      plan({ availability: { windows, minutesPerDay: 60, best } }).sessions.filter(
        ({ kind }) => kind === 'learn',
      )
    expect(study({ from: '18:00', to: '20:00' }).every(({ start }) => start >= '18:00')).toBe(true)
    expect(study().every(({ start }) => start < '18:00')).toBe(true)
  })
})
