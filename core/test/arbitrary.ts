import fc from 'fast-check'
import { parts, type PlanSession } from '@climber/contract'
import {
  type Assessment,
  assess,
  type CandidateRecord,
  type CheckInput,
  dateOf,
  dayNumber,
  planInput,
} from '../src/index'
import { gardenExam, gardenRecord } from './fixture'

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

/** Candidates in every awkward corner: no time, tiny windows, exam tomorrow or in two years, pinned and done sessions. */
export const randomPlan: fc.Arbitrary<RandomPlan> = fc
  .record({
    days: fc.oneof(
      fc.integer({ min: 1, max: 12 }),
      fc.integer({ min: 13, max: 130 }),
      fc.integer({ min: 131, max: 420 }),
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
    seed: fc.integer({ min: 0, max: 1e6 }),
  })
  .map((draw) => {
    const forms = gardenExam.forms.slice(0, draw.forms)
    const exam = {
      ...gardenExam,
      forms,
      sittings: [{ ...gardenExam.sittings[0]!, id: 'spring', date: date(draw.days), start: draw.startAt }],
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
        title: 'Kept',
        topics: [gardenExam.topics[topic]!.id],
        seen: false,
        why: { text: 'Kept.', figures: {} },
        pinned: !past,
        status: past && done ? ('done' as const) : ('planned' as const),
      }
    })
    const record = gardenRecord({
      exam,
      availability: parts.availability.parse({
        windows: draw.week.flatMap((windows, at) => windows.map((one) => ({ weekday: at + 1, ...one }))),
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
      }),
      ...(!draw.baseline && {
        diagnosis: parts.diagnosis.parse({ topics: { 'names-1': { rating: 'weak' } } }),
      }),
      tests: draw.satBefore.flatMap(({ form, ago }, at) =>
        forms[form]
          ? {
              id: `00000000-0000-4000-8000-00000000000${at}`,
              date: date(-ago),
              form: forms[form]!.id,
              source: forms[form]!.source,
              seen: false,
              note: '',
              counts: {
                'names-items': { right: 30, wrong: 20, blank: 10, notReached: 0 },
                'ledgers-items': { right: 15, wrong: 10, blank: 5, notReached: 0 },
              },
            }
          : [],
      ),
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
  return {
    assessment,
    plan,
    check: {
      exam: record.exam,
      sitting: assessment.sitting!,
      today: on,
      nowMinute: minute,
      availability: record.availability,
      settings: record.settings,
      sat: plan.sat,
      measured: plan.measured,
      kept: plan.kept,
      begun: plan.topics.filter(({ touches }) => touches.length).map(({ id }) => id),
    },
  }
}
