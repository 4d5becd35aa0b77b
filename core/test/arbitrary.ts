import fc from 'fast-check'
import { Cause, parts, type PlanSession } from '@climber/contract'
import {
  type Assessment,
  assess,
  type CandidateRecord,
  type CheckInput,
  dateOf,
  dayNumber,
  planInput,
} from '../src/index'
import { gardenBaseline, gardenExam, gardenRecord, practice } from './fixture'

export const today = '2031-03-03'
const timeOf = (minute: number) =>
  `${String(Math.floor(minute / 60)).padStart(2, '0')}:${String(minute % 60).padStart(2, '0')}`

const window = (low: number, high: number) =>
  fc
    .tuple(fc.integer({ min: low / 15, max: high / 15 - 2 }), fc.integer({ min: 1, max: 28 }))
    .map(([from, length]) => ({
      from: timeOf(from * 15),
      to: timeOf(Math.min(high, from * 15 + Math.max(20, length * 15))),
    }))
const dayWindows = fc.oneof(
  { weight: 2, arbitrary: fc.constant([]) },
  { weight: 4, arbitrary: window(6 * 60, 23 * 60).map((only) => [only]) },
  { weight: 2, arbitrary: fc.tuple(window(0, 12 * 60), window(13 * 60, 24 * 60)).map((both) => [...both]) },
)

export interface RandomPlan {
  record: CandidateRecord
  minute: number
  seed: number
}

const date = (days: number) => dateOf(dayNumber(today) + days)

/** A book in order, a bank with a daily number, a recording and a test of its own, for the garden exam. */
export const gardenShelf = parts.materials.parse({
  items: [
    {
      id: 'handbook',
      title: 'The walled garden handbook',
      kind: 'book',
      inOrder: true,
      chapters: [
        { title: 'Names', pages: 40, topics: ['names-1', 'names-2'] },
        { title: 'Beds', pages: 25, topics: ['names-4'] },
        { title: 'Ledgers', pages: 60, topics: ['ledgers-1', 'ledgers-2', 'names-2'] },
      ],
      errors: 'page 31: two beds share a number',
    },
    { id: 'bank', title: 'Five hundred labels', kind: 'bank', questions: 500, perDay: 12 },
    { title: 'A year of weather', kind: 'recording', minutes: 95, topics: ['ledgers-2'] },
    { title: 'Orchard paper', kind: 'test', source: 'other', reserved: true },
  ],
})

const manyTopics = (count: number) =>
  Array.from({ length: count }, (_, at) => ({
    ...gardenExam.topics[at % gardenExam.topics.length]!,
    id: at < 10 ? gardenExam.topics[at]!.id : `topic-${at}`,
    section: at % 2 ? 'ledgers' : 'names',
    share: 2 / count,
    prerequisites: at % 5 === 4 && at > 10 ? [`topic-${at - 1}`] : [],
  }))

/** Candidates in every awkward corner: no time, tiny windows, exam tomorrow or in two years, pinned and done sessions. */
export const randomPlan: fc.Arbitrary<RandomPlan> = fc
  .record({
    days: fc.oneof(
      { weight: 4, arbitrary: fc.integer({ min: 1, max: 12 }) },
      { weight: 6, arbitrary: fc.integer({ min: 13, max: 130 }) },
      { weight: 1, arbitrary: fc.integer({ min: 131, max: 420 }) },
      { weight: 1, arbitrary: fc.constantFrom(700, 699, 7) },
    ),
    more: fc.record(
      {
        busy: fc.array(fc.record({ day: fc.integer({ min: 0, max: 60 }), span: window(0, 24 * 60) }), {
          maxLength: 12,
        }),
        light: fc.array(fc.integer({ min: 1, max: 7 }), { maxLength: 5 }),
        keepWarm: fc.boolean(),
        minutesPerWeek: fc.constantFrom(60, 200, 600),
        best: fc.constant({ from: '18:30', to: '20:00' }),
        schools: fc.record(
          {
            firstTest: fc.constantFrom('at once' as const, 'after the first read' as const),
            order: fc.constantFrom(
              'yield' as const,
              'weakest' as const,
              'easiest section' as const,
              'book' as const,
            ),
            tests: fc.constantFrom('weekly' as const, 'few, then often' as const, 'near the end' as const),
            lastDays: fc.constant('light work to the eve' as const),
            subjects: fc.constant('a section a week' as const),
          },
          { requiredKeys: [] },
        ),
        rehearsals: fc.uniqueArray(fc.integer({ min: 3, max: 60 }), { maxLength: 3 }),
        resitFirst: fc.boolean(),
        retestDays: fc.constantFrom(null, 3, 14),
        visit: fc.boolean(),
        travelMinutes: fc.constantFrom(20, 200),
        registerIn: fc.integer({ min: 0, max: 40 }),
        stages: fc.constant([
          { name: 'Read', share: 0.7, testEvery: 0, rehearsal: false },
          { name: 'Sit', share: 0.3, testEvery: 3, rehearsal: true },
        ]),
        shelf: fc.boolean(),
        many: fc.boolean(),
        zone: fc.constantFrom('Europe/Riga', 'Pacific/Chatham'),
      },
      { requiredKeys: [] },
    ),
    week: fc.tuple(dayWindows, dayWindows, dayWindows, dayWindows, dayWindows, dayWindows, dayWindows),
    exceptions: fc.array(fc.record({ day: fc.integer({ min: 0, max: 60 }), windows: dayWindows }), {
      maxLength: 3,
    }),
    daysOff: fc.array(fc.integer({ min: 0, max: 90 }), { maxLength: 6 }),
    minutesPerDay: fc.constantFrom(30, 60, 120, 180, 240, 480),
    daysPerWeek: fc.integer({ min: 1, max: 7 }),
    nights: fc.boolean(),
    minute: fc.integer({ min: 0, max: 1430 }),
    sessionMinutes: fc.constantFrom(25, 50, 90),
    breakMinutes: fc.constantFrom(0, 10),
    reviewRatio: fc.constantFrom(0.5, 1, 1.5, 3),
    slackShare: fc.constantFrom(0, 0.125, 0.3),
    taperDays: fc.integer({ min: 0, max: 4 }),
    testEveryDays: fc.constantFrom(null, null, 3, 14),
    timeFactor: fc.constantFrom(1, 1.25, 1.5),
    baseline: fc.boolean(),
    forms: fc.integer({ min: 0, max: 10 }),
    startAt: fc.constantFrom('07:30', '09:30', '14:00', '19:00'),
    satBefore: fc.array(
      fc.record({ form: fc.integer({ min: 0, max: 9 }), ago: fc.integer({ min: 1, max: 60 }) }),
      { maxLength: 2 },
    ),
    kept: fc.array(
      fc.record({
        day: fc.integer({ min: -10, max: 20 }),
        hour: fc.integer({ min: 0, max: 21 }),
        topic: fc.integer({ min: 0, max: 9 }),
        done: fc.boolean(),
      }),
      { maxLength: 4 },
    ),
    noted: fc.array(
      fc.record({
        of: fc.integer({ min: 0, max: 1 }),
        topic: fc.integer({ min: 0, max: 9 }),
        cause: fc.constantFrom(...Cause.options),
      }),
      { maxLength: 12 },
    ),
    seed: fc.integer({ min: 0, max: 1e6 }),
  })
  .map((draw) => {
    const forms = gardenExam.forms.slice(0, draw.forms)
    const { more } = draw
    const exam = {
      ...gardenExam,
      ...(more.many && draw.seed % 10 === 0 && { topics: manyTopics(400) }),
      forms,
      sittings: [
        {
          ...gardenExam.sittings[0]!,
          id: 'spring',
          date: date(draw.days),
          start: draw.startAt,
          ...(more.registerIn !== undefined && { registerBy: date(more.registerIn) }),
        },
      ],
    }
    const exceptions = new Map(draw.exceptions.map(({ day, windows }) => [date(day), windows]))
    const kept: PlanSession[] = draw.kept.flatMap(({ day, hour, topic, done }, at) => {
      if (day >= draw.days) return []
      const past = day < 0
      return {
        id: `study.${gardenExam.topics[topic]!.id}.${at + 1}`,
        date: date(day),
        start: timeOf(hour * 60),
        minutes: 50,
        kind: 'learn' as const,
        label: 'Kept',
        said: 'Kept.',
        topics: [gardenExam.topics[topic]!.id],
        pinned: !past,
        status: past && done ? ('done' as const) : ('planned' as const),
      }
    })
    const record = gardenRecord({
      exam,
      availability: parts.availability.parse({
        windows: draw.week.flatMap((windows, at) => [
          ...windows.map((one) => ({ weekday: at + 1, ...one })),
          ...(more.light?.includes(at + 1) && windows.every(({ from }) => from >= '07:00')
            ? [{ weekday: at + 1, from: '06:10', to: '06:40', light: true }]
            : []),
        ]),
        zone: more.zone,
        keepWarm: more.keepWarm,
        minutesPerWeek: more.minutesPerWeek,
        best: more.best,
        exceptions: [...exceptions].map(([when, windows]) => ({ date: when, windows })),
        daysOff: draw.daysOff.map(date),
        minutesPerDay: draw.minutesPerDay,
        daysPerWeek: draw.daysPerWeek,
        nights: draw.nights,
      }),
      settings: parts.settings.parse({
        sessionMinutes: draw.sessionMinutes,
        breakMinutes: draw.breakMinutes,
        reviewRatio: draw.reviewRatio,
        slackShare: draw.slackShare,
        taperDays: draw.taperDays,
        testEveryDays: draw.testEveryDays,
        timeFactor: draw.timeFactor,
        schools: more.schools,
        rehearsals: more.rehearsals,
        resitFirst: more.resitFirst,
        retestDays: more.retestDays,
        visit: more.visit,
        stages: more.stages,
      }),
      examDay: parts.examDay.parse({ travelMinutes: more.travelMinutes }),
      commitments: {
        calendars: [
          {
            id: '00000000-0000-4000-8000-0000000000aa',
            title: 'Work',
            readAt: '2031-03-01T08:00:00Z',
            events: 0,
            busy: (more.busy ?? []).map(({ day, span }) => ({ date: date(day), ...span })),
          },
        ],
      },
      ...(more.shelf && { materials: gardenShelf }),
      ...(!draw.baseline && { ratings: { topics: { 'names-1': 'weak' } } }),
      attempts: [
        ...(draw.baseline ? [gardenBaseline] : []),
        ...draw.satBefore.flatMap(({ form, ago }, at) => {
          const own = forms[form]
          return own
            ? practice(
                at,
                date(-ago),
                {
                  'names-items': { right: 30, wrong: 20, blank: 10 },
                  'ledgers-items': { right: 15, wrong: 10, blank: 5 },
                },
                { form: own.id, source: own.source },
              )
            : []
        }),
      ],
      // What was found in review of the tests of late: items that only their notes tell of.
      review: draw.noted.map(({ of, topic, cause }, at) => ({
        attempt: of ? practice(0, date(-1), {}).id : gardenBaseline.id,
        item: at + 1,
        topic: exam.topics[topic]?.id,
        cause,
        reviewedOn: date(-1),
      })),
      plan: {
        madeOn: date(-10),
        sitting: 'spring',
        seed: 1,
        leadTime: 'standard' as const,
        phases: [],
        weeks: [],
        notices: [],
        sessions: kept,
      },
    })
    return { record, minute: draw.minute, seed: draw.seed }
  })

/** Input of the planner and of the checker for one record. */
export function inputsOf(
  { record, minute, seed }: RandomPlan,
  on = today,
): { assessment: Assessment; plan: ReturnType<typeof planInput>; check: CheckInput } {
  const assessment = assess(record, { date: on, minute })
  const plan = planInput(assessment, assessment.sitting!, seed)
  // Reviews that are still owed may be placed again.
  const owed = new Set(plan.owed.map(({ id }) => id))
  const check: CheckInput = {
    exam: { ...record.exam, forms: plan.exam.forms },
    busy: plan.busy,
    sitting: assessment.sitting!,
    today: on,
    nowMinute: minute,
    availability: record.availability,
    settings: record.settings,
    sat: plan.sat,
    reserved: plan.shelf.flatMap(({ form, id, reserved }) => (reserved ? [form ?? id] : [])),
    measured: plan.measured,
    kept: plan.kept.filter(({ id }) => !owed.has(id)),
    begun: plan.topics.filter(({ touches }) => touches.length).map(({ id }) => id),
  }
  return { assessment, plan, check }
}
