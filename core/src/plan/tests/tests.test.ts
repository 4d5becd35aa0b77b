import { type ExamFormat, type Form, parts, type Plan, type TestSession } from '@climber/contract'
import { inputsOf, today } from '../../../test/arbitrary'
import { gardenBaseline, gardenExam, gardenRecord, practice } from '../../../test/fixture'
import {
  checkPlan,
  dateOf,
  dayNumber,
  isStudy,
  isTest,
  isWhole,
  makePlan,
  otherPartsOf,
  timedSeconds,
} from '../../index'
import { sessionsSat } from '../sat'

interface Change {
  days?: number
  windows?: { weekday: number; from: string; to: string }[]
  settings?: object
  exam?: Partial<ExamFormat>
  attempts?: ReturnType<typeof practice>[]
}
const weekdays = (days: number[], from: string, to: string) => days.map((weekday) => ({ weekday, from, to }))
const evenings = weekdays([1, 2, 3, 4, 5], '18:00', '20:00')
const date = (days: number) => dateOf(dayNumber(today) + days)

/** A plan of the garden exam, checked, with something changed. */
function planned({ days = 82, windows, settings = {}, exam = {}, attempts }: Change): Plan {
  const record = gardenRecord({
    exam: { ...gardenExam, ...exam, sittings: [{ ...gardenExam.sittings[0]!, date: date(days) }] },
    ...(attempts && { attempts }),
  })
  if (windows) record.availability = parts.availability.parse({ windows })
  record.settings = parts.settings.parse(settings)
  const { plan: input, check } = inputsOf({ record, minute: 420, seed: 1 })
  const plan = makePlan(input)
  expect(checkPlan(check, plan)).toEqual([])
  return plan
}
const testsOf = ({ sessions }: Plan): TestSession[] => sessions.filter(isTest)
/** Study that takes questions of a paper. */
const worked = ({ sessions }: Plan) =>
  sessions.flatMap((session) =>
    isStudy(session) && session.material?.form !== undefined
      ? [{ ...session.material, form: session.material.form, topics: session.topics, session }]
      : [],
  )
const codes = ({ notices }: Plan) => notices.map(({ code }) => code)
const before = (days: number, session: { date: string }) => dayNumber(date(days)) - dayNumber(session.date)

/** Full weeks, by their Mondays, and what stands in each. */
function weeksOf({ sessions }: Plan, days: number, taper = 2) {
  const weeks: Plan['sessions'][] = []
  for (let monday = dayNumber(today); monday + 7 <= dayNumber(today) + days - taper; monday += 7)
    weeks.push(sessions.filter((one) => dayNumber(one.date) >= monday && dayNumber(one.date) < monday + 7))
  return weeks
}

describe('timed work', () => {
  it.each([
    ['an hour three times a week', weekdays([1, 3, 5], '18:00', '19:00')],
    ['half an hour a day', weekdays([1, 2, 3, 4, 5, 6], '07:00', '07:30')],
    ['evenings and a long Saturday', [...evenings, { weekday: 6, from: '09:00', to: '14:00' }]],
    ['one long day', weekdays([7], '09:00', '17:00')],
  ])('stands in every full week: %s', (_, windows) => {
    for (const settings of [{}, { schools: { tests: 'near the end' } }, { sessionMinutes: 90 }]) {
      const plan = planned({ windows, settings })
      for (const week of weeksOf(plan, 82))
        expect(week.some((one) => isTest(one) || timedSeconds(one) !== undefined)).toBe(true)
    }
  })
  it('of a set is at the pace of the exam and leaves time for a look at the items', () => {
    const plan = planned({ windows: weekdays([1, 3, 5], '18:00', '19:00') })
    const sets = plan.sessions.filter((one) => timedSeconds(one) !== undefined)
    expect(sets.length).toBeGreaterThan(6)
    for (const set of sets) {
      const { items, seconds } = 'timed' in set ? set.timed! : { items: 0, seconds: 0 }
      expect(items).toBeGreaterThanOrEqual(15)
      expect(items).toBeLessThanOrEqual(20)
      expect(seconds).toBeLessThanOrEqual(0.8 * set.minutes * 60)
      // 45 minutes for 60 items, or 75 for 30.
      expect(seconds / items).toBeGreaterThanOrEqual(45 - 1)
      expect(seconds / items).toBeLessThanOrEqual(150 + 1)
    }
  })
  it('of a section has a review of its own, before the next test', () => {
    const plan = planned({ windows: [...evenings, { weekday: 6, from: '09:00', to: '14:00' }] })
    const sections = testsOf(plan).filter((test) => !isWhole(test))
    expect(sections.length).toBeGreaterThan(0)
    for (const { id, minutes } of sections) {
      const reviews = plan.sessions.filter((one) => one.kind === 'review' && one.of === id)
      expect(reviews.reduce((sum, one) => sum + one.minutes, 0)).toBeCloseTo(1.5 * minutes, -1)
    }
  })
})

describe('the last rehearsal', () => {
  it.each([4, 6, 9, 14, 30, 82, 200])('stands in the last ten days, %s days ahead', (days) => {
    const windows = [...evenings, ...weekdays([6, 7], '09:00', '14:00')]
    for (const settings of [{}, { schools: { tests: 'near the end' } }, { rehearsals: [28, 14] }]) {
      const last = testsOf(planned({ days, windows, settings })).filter(isWhole).pop()
      expect(last && before(days, last)).toBeLessThanOrEqual(10)
    }
  })
  it('is sat in as many parts as it takes where no day holds the whole, each knowing the next', () => {
    const [names, ledgers] = gardenExam.sections
    const four = [names!, ledgers!, names!, ledgers!].map((section, at) => ({
      ...section,
      id: ['names', 'ledgers', 'names-b', 'ledgers-b'][at]!,
      minutes: 45,
      groups: section.groups.map((group) => ({ ...group, id: `${group.id}-${at}` })),
    }))
    const plan = planned({
      windows: weekdays([1, 2, 3, 4, 5], '18:00', '19:00'),
      exam: { sections: four },
      attempts: [],
    })
    const parted = testsOf(plan).filter(({ split }) => split)
    expect(parted.length).toBeGreaterThan(0)
    for (const part of parted) {
      const all = [part, ...otherPartsOf(part, plan.sessions)]
      expect(all.map(({ split }) => split!.number).sort()).toEqual([1, 2, 3, 4])
      expect(new Set(all.flatMap(({ split }) => split!.sections)).size).toBe(4)
    }
  })
  it('has as much of its review as there is time for, and says so', () => {
    const plan = planned({
      days: 5,
      windows: weekdays([3], '09:00', '11:20').concat(weekdays([4], '18:00', '18:40')),
    })
    const [test] = testsOf(plan)
    expect(test).toBeDefined()
    expect(codes(plan)).toContain('short-review')
  })
  it('is said to be missing where nothing holds it, and what would make it fit', () => {
    const plan = planned({ windows: weekdays([1, 2, 3, 4, 5], '18:00', '18:40') })
    const notice = plan.notices.find(({ code }) => code === 'no-rehearsal')!
    expect(notice.remedy).toMatch(/^Tried out/)
  })
})

describe('papers', () => {
  const windows = [...evenings, ...weekdays([6, 7], '09:00', '14:00')]
  it('of the publisher come last: nothing else is sat after one that is no baseline', () => {
    for (const settings of [{}, { testEveryDays: 7 }, { reviewRatio: 0.5, testEveryDays: 5 }]) {
      const tests = testsOf(planned({ windows, settings, attempts: [gardenBaseline] })).filter(isWhole)
      const kinds = tests
        .filter(({ seen }) => !seen)
        .map(({ form }) => gardenExam.forms.find(({ id }) => id === form)!.source)
      expect(kinds.lastIndexOf('other')).toBeLessThan(kinds.indexOf('publisher') + 1 || kinds.length)
    }
  })
  it('are never idle while none is said to be left', () => {
    for (let forms = 0; forms <= 10; forms++)
      for (const settings of [{}, { testEveryDays: 4, reviewRatio: 0.5 }]) {
        const plan = planned({ windows, settings, exam: { forms: gardenExam.forms.slice(0, forms) } })
        expect(codes(plan).includes('no-form') && codes(plan).includes('forms-unused')).toBe(false)
        const used = new Set([...testsOf(plan), ...worked(plan)].map(({ form }) => form))
        expect(codes(plan).includes('forms-unused')).toBe(
          gardenExam.forms.slice(0, forms).filter(({ id }) => !used.has(id)).length > 1,
        )
      }
  })
  it('that no test is sat on serve as questions: on a topic once, under the clock first, those kept for the end while rehearsing, one whole', () => {
    const many = Array.from({ length: 12 }, (_, at): Form => ({
      id: `wall-${at + 1}`,
      title: `Wall press paper ${at + 1}`,
      source: 'other',
      conversions: {},
    }))
    const forms = [...gardenExam.forms.filter(({ source }) => source === 'publisher'), ...many]
    const plan = planned({ windows, exam: { forms } })
    const taken = worked(plan)
    const tested = new Set(testsOf(plan).map(({ form }) => form))
    expect(taken.length).toBeGreaterThan(5)
    const pairs = taken.flatMap(({ form, topics }) => topics.map((topic) => `${form} ${topic}`))
    expect(new Set(pairs).size).toBe(pairs.length)
    for (const { form, text, session } of taken) {
      const rehearsing = plan.phases.some(
        ({ rehearsal, from, to }) => rehearsal && from <= session.date && session.date <= to,
      )
      expect(form).toMatch(rehearsing ? /^(wall|board)/ : /^wall/)
      expect(tested.has(form)).toBe(false)
      expect(text).toMatch(/^(About )?\d+ questions from (Wall press|Board) paper \d+$/)
      expect(session.kind).not.toBe('learn')
    }
    const clocked = plan.sessions.flatMap((one) => (isStudy(one) && one.timed ? [one] : []))
    expect(clocked.every(({ material }) => material?.form)).toBe(true)
    const left = forms.filter(({ id }) => !tested.has(id) && !taken.some(({ form }) => form === id))
    expect(left.length).toBeGreaterThan(0)
    expect(plan.unplaced?.map(({ id }) => id)).toContain(`test.${left[0]!.id}.tray`)
  })
  it('are sat section by section once each, and a whole one is not begun that way', () => {
    const plan = planned({ windows, settings: { schools: { order: 'weakest' } } })
    const met = new Map<string, string[]>()
    for (const { form, sections } of testsOf(plan)) {
      if (!form || !sections) continue
      for (const id of sections) expect(met.get(form) ?? []).not.toContain(id)
      met.set(form, [...(met.get(form) ?? []), ...sections])
    }
    for (const test of testsOf(plan).filter(isWhole)) expect(met.has(test.form!)).toBe(false)
  })
  it('of which a section was sat are unseen but for that section', () => {
    const section = practice(
      1,
      date(-3),
      {},
      { form: 'wall-1', kind: 'section', scope: { sections: ['names'] } },
    )
    const tests = testsOf(planned({ windows, attempts: [gardenBaseline, section] }))
    for (const test of tests.filter(({ form, seen }) => form === 'wall-1' && !seen))
      expect(test.sections).toEqual(['ledgers'])
  })
})

describe('what was sat', () => {
  const plan = planned({ windows: [...evenings, { weekday: 6, from: '09:00', to: '14:00' }] })
  it('a section of a form is the planned section, on whatever day', () => {
    const planned = testsOf(plan).find(({ form, sections }) => form && sections)!
    const attempt = practice(
      1,
      date(2),
      {},
      {
        form: planned.form!,
        kind: 'section',
        scope: { sections: planned.sections },
      },
    )
    expect(sessionsSat(plan, attempt)).toMatchObject([{ id: planned.id, date: date(2), status: 'done' }])
    expect(sessionsSat(plan, { ...attempt, scope: { sections: ['nothing'] } })).toEqual([])
  })
  it('a timed set is the session that it was begun from', () => {
    const set = plan.sessions.find((one) => timedSeconds(one) !== undefined)!
    const attempt = practice(
      1,
      set.date,
      {},
      { kind: 'set', session: set.id, scope: { topics: ['names-1'] } },
    )
    expect(sessionsSat(plan, attempt)).toMatchObject([{ id: set.id, status: 'done' }])
  })
})
