import { parts } from '@climber/contract'
import { inputsOf } from '../../test/arbitrary'
import { gardenBaseline, gardenExam, gardenRecord, practice, type RecordChange } from '../../test/fixture'
import { flatPlan } from '../../test/flat'
import { dateOf, dayNumber, isWhole, layStages, leadTimeOf, makePlan, phasesOf, stagesOf } from '../index'
import { budgets } from './fill/budgets'
import { fillSlots } from './fill/fillSlots'
import { improve } from './fill/improve'
import { randomFrom } from '../exact/random'
import type { Slot } from './fill/slots'
import { sectionMinutes, testMinutes } from './tests/lengths'

const today = '2031-03-03'
const first = dayNumber(today)
const input = (change: RecordChange = {}) =>
  inputsOf({ record: gardenRecord(change), minute: 420, seed: 3 }).plan

describe('phases', () => {
  it.each([
    [1, 'sprint'],
    [9, 'sprint'],
    [10, 'short'],
    [35, 'short'],
    [36, 'standard'],
    [70, 'standard'],
    [71, 'two-phase'],
    [119, 'two-phase'],
    [120, 'long'],
    [700, 'long'],
  ])('%i days ahead is %s', (days, lead) => expect(leadTimeOf(days)).toBe(lead))
  it('cover every day up to the taper once, for any lead time', () => {
    for (let days = 1; days < 500; days++) {
      const lead = leadTimeOf(days)
      const taper = Math.max(first, first + days - 2)
      const stages = layStages(stagesOf[lead], first, taper)
      const phases = phasesOf(stages, taper, first + days)
      expect(stages.reduce((sum, { from, to }) => sum + to - from, 0)).toBe(taper - first)
      phases.forEach((phase, at) => {
        expect(phase.from <= phase.to).toBe(true)
        if (at) expect(dayNumber(phase.from)).toBe(dayNumber(phases[at - 1]!.to) + 1)
      })
      expect(phases[phases.length - 1]).toMatchObject({ name: 'Exam', from: dateOf(first + days) })
    }
  })
  it('of every lead time add up to the whole', () => {
    for (const stages of Object.values(stagesOf))
      expect(stages.reduce((sum, { share }) => sum + share, 0)).toBeCloseTo(1, 12)
  })
})

describe('the length of a test', () => {
  it('has the breaks between sections, not after the last, and the time granted', () => {
    expect(testMinutes(gardenExam.sections, 1)).toBe(75 + 10 + 45)
    expect(testMinutes(gardenExam.sections, 1.25)).toBe(94 + 10 + 57)
    expect(testMinutes(gardenExam.sections.slice(0, 1), 1)).toBe(75)
    expect(sectionMinutes({ ...gardenExam.sections[0]!, minutes: 50 }, 1.33)).toBe(67)
  })
})

describe('tests and their forms', () => {
  const planned = (change: RecordChange = {}) =>
    flatPlan(input(change), makePlan(input(change))).sessions.filter(({ kind }) => kind === 'test')
  it('without a baseline the first test comes at once, with one of the publisher’s', () => {
    const [baseline] = planned({ attempts: [], ratings: {} })
    expect(dayNumber(baseline!.date) - first).toBeLessThanOrEqual(6)
    expect(baseline!.form).toMatch(/^board/)
    expect(baseline!.why.text).toMatch(/baseline/)
  })
  it('a form sat a week ago is not used again soon', () => {
    const test = practice(1, '2031-02-24', {}, { form: 'wall-1' })
    const again = planned({ attempts: [gardenBaseline, test] }).filter(({ form }) => form === 'wall-1')
    for (const test of again) {
      expect(test.seen).toBe(true)
      expect(dayNumber(test.date) - dayNumber('2031-02-24')).toBeGreaterThanOrEqual(21)
    }
  })
  it('when forms run out, tests are left out and the plan says so', () => {
    const plan = makePlan(input({ exam: { ...gardenExam, forms: gardenExam.forms.slice(0, 1) } }))
    expect(plan.notices.map(({ code }) => code)).toContain('no-form')
  })
  it('the rhythm that is asked for is kept where review keeps up', () => {
    const settings = parts.settings.parse({ testEveryDays: 14, reviewRatio: 1 })
    const days = planned({ settings })
      .filter(isWhole)
      .map(({ date }) => dayNumber(date))
    const gaps = days.slice(1).map((day, at) => day - days[at]!)
    expect(gaps.length).toBeGreaterThanOrEqual(4)
    for (const gap of gaps) expect(Math.abs(gap - 14)).toBeLessThanOrEqual(6)
  })
})

describe('filling', () => {
  const [stage] = layStages(stagesOf['two-phase'], first, first + 80)
  const slots = (count: number): Slot[] =>
    Array.from({ length: count }, (_, at) => ({ day: first + at, from: 1080, minutes: 60, stage: stage! }))
  it('gives each topic about the hours that the allocation says', () => {
    const plan = input()
    const wanted = budgets(plan, 60)
    const filled = fillSlots(plan, slots(60))
    const got = plan.topics.map((_, at) =>
      filled.reduce(
        (sum, { topics, minutes }) => (topics.includes(at) ? sum + minutes / 60 / topics.length : sum),
        0,
      ),
    )
    wanted.forEach((hours, at) => expect(Math.abs(got[at]! - hours)).toBeLessThan(Math.max(2.5, hours * 0.6)))
    expect(got.reduce((a, b) => a + b, 0)).toBeCloseTo(60, 6)
  })
  it('begins a topic only after what it builds on', () => {
    const plan = input()
    const filled = fillSlots(plan, slots(70))
    const begun = (id: string) =>
      filled.findIndex(({ topics }) => topics.some((at) => plan.topics[at]!.id === id))
    for (const topic of plan.topics)
      for (const needed of topic.prerequisites)
        if (begun(topic.id) >= 0 && begun(needed) >= 0) expect(begun(needed)).toBeLessThan(begun(topic.id))
  })
  it('mixes at the rhythm of the stage, topics already met only', () => {
    const filled = fillSlots(input(), slots(42))
    const mixed = filled.filter(({ kind }) => kind === 'mixed')
    expect(mixed.length).toBeGreaterThanOrEqual(4)
    for (const session of mixed) {
      expect(session.topics.length).toBeGreaterThan(1)
      const before = new Set(filled.slice(0, filled.indexOf(session)).flatMap(({ topics }) => topics))
      for (const at of session.topics) expect(before).toContain(at)
    }
  })
  it('the local search never makes the day worse, and is the same for the same seed', () => {
    const value = (plan: ReturnType<typeof input>, filled: ReturnType<typeof fillSlots>) =>
      plan.topics.reduce((sum, topic, at) => {
        let [stability, last, hours] = [0, 0, 0]
        for (const session of filled)
          if (session.topics.includes(at)) {
            const gap = session.day - last
            stability = !stability ? 4 : gap >= Math.max(1, stability / 4) ? stability * 1.8 : stability
            last = session.day
            hours += session.minutes / 60 / session.topics.length
          }
        const kept = stability ? Math.exp(-(first + 84 - last) / stability) : 0
        return sum + topic.value * (1 - topic.known) * (1 - Math.exp(-hours / topic.tau)) * (0.3 + 0.7 * kept)
      }, 0)
    const plan = input()
    const filled = fillSlots(plan, slots(70))
    const before = value(plan, filled)
    const twin = structuredClone(filled)
    const swaps = improve(plan, filled, first + 84)
    expect(value(plan, filled)).toBeGreaterThanOrEqual(before - 1e-9)
    expect(improve(plan, twin, first + 84)).toBe(swaps)
    expect(twin).toEqual(filled)
  })
})

describe('seeded numbers', () => {
  it('repeat for a seed, differ between seeds, and are even', () => {
    const draw = (seed: number) => Array.from({ length: 2000 }, randomFrom(seed))
    expect(draw(4)).toEqual(draw(4))
    expect(draw(4)).not.toEqual(draw(5))
    const mean = draw(9).reduce((a, b) => a + b, 0) / 2000
    expect(Math.abs(mean - 0.5)).toBeLessThan(0.02)
  })
})

describe('cautions', () => {
  it('warns of long days and of weeks without a day off', () => {
    const availability = parts.availability.parse({
      windows: [1, 2, 3, 4, 5, 6, 7].map((weekday) => ({ weekday, from: '08:00', to: '18:00' })),
      minutesPerDay: 480,
      daysPerWeek: 7,
    })
    expect(makePlan(input({ availability })).notices.map(({ code }) => code)).toEqual(
      expect.arrayContaining(['long-days', 'no-day-off']),
    )
  })
  it('keeps the taper for light work and the kit', () => {
    const availability = parts.availability.parse({
      windows: [1, 2, 3, 4, 5, 6, 7].map((weekday) => ({ weekday, from: '17:00', to: '19:00' })),
    })
    const taper = makePlan(input({ availability })).sessions.filter(({ date }) => date >= '2031-05-22')
    expect(taper.map(({ kind }) => kind).every((kind) => kind === 'light' || kind === 'errand')).toBe(true)
    expect(taper.some(({ kind }) => kind === 'errand')).toBe(true)
  })
})
