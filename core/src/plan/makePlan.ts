import type { Form, Plan, PlanNotice, PlanSession, StudySession, Unplaced } from '@climber/contract'
import { byTime } from '../sessions/session'
import { dayNumber } from '../time/day'
import { errands } from './around/errands'
import { lightWork } from './around/lightWork'
import { remedialWork } from './around/remedial'
import { retests } from './around/retests'
import { fillSlots } from './fill/fillSlots'
import { fixedOf } from './fill/fixed'
import { improve } from './fill/improve'
import { leftOut } from './fill/left'
import { retell } from './fill/retell'
import { type Slot, studySlots, testStartsOf } from './fill/slots'
import { withTimed } from './fill/timed'
import { type Ground, groundOf, mostDaysAhead, PlanProblem } from './ground'
import { quotaMinutes } from '../hours/shelf'
import type { PlanInput } from './input'
import { numbering } from './numbering'
import { placeOwed } from './owed'
import { leadTimeOf, phasesOf } from './phases'
import { withRemedies } from './remedies'
import { daysOf, filledDays, mayImprove, studySessions } from './study'
import { testMinutes } from './tests/lengths'
import { type PlacedTests, placeTests } from './tests/placeTests'
import { cautions, weeksOf } from './weeks'

interface Frame extends Ground {
  tests: PlacedTests
  /** Reviews still owed, retests and errands. */
  around: PlanSession[]
  /** Study that reviews ask for. */
  remedial: StudySession[]
  notices: PlanNotice[]
  quota: number
}

const numberingFor = ({ kept, owed, taken }: PlanInput) => numbering([...kept, ...owed], taken)

/** The calendar with tests, their reviews, retests and errands in it: what is left is for study. */
function frame(input: PlanInput, name = numberingFor(input)): Frame {
  const ground = groundOf(input, [...input.lived, ...input.kept])
  const { first, exam, taper, stages, calendar } = ground
  const owed = placeOwed(calendar, input.owed, taper)
  const tests = placeTests(input, calendar, stages, ground, name)
  const again = retests(input, calendar, tests.sessions, taper, name)
  const remedial = remedialWork(input, calendar, taper, name)
  const out = errands(input, calendar, first, taper, exam, name)
  return {
    ...ground,
    tests,
    around: [...owed, ...again.sessions, ...out.sessions],
    remedial,
    notices: [...tests.notices, ...again.notices, ...out.notices],
    quota: quotaMinutes(input.shelf),
  }
}

/** The slots for study in what a frame leaves free. */
const slotsOf = (input: PlanInput, { calendar, stages, tests, quota }: Frame): Slot[] =>
  studySlots(calendar, stages, {
    sessionMinutes: input.settings.sessionMinutes,
    breakMinutes: input.settings.breakMinutes,
    quotaMinutes: quota,
    testStarts: testStartsOf([...tests.sessions, ...input.kept]),
  })

/** Hours that are left for topics once tests, their reviews and slack are taken out. */
export function studyHours(input: PlanInput): number {
  return slotsOf(input, frame(input)).reduce((sum, { minutes }) => sum + minutes / 60, 0)
}

/** Of the papers that nothing uses, so many are at hand in the tray. */
const mostInTray = 3
const trayTest = (input: PlanInput, form: Form): Unplaced => ({
  id: `test.${form.id}.tray`,
  minutes: testMinutes(input.exam.sections, input.settings.timeFactor),
  kind: 'test',
  form: form.id,
  seen: false,
  purpose: 'tray',
  pinned: false,
  status: 'planned',
})

/**
 * The whole plan: tests and reviews first, then the hours that remain by the exact allocation, placed topic by topic
 * with spacing and improved by local search. Same input and seed, same plan. Throws `PlanProblem` naming the field
 * where no plan can be made.
 */
export function makePlan(input: PlanInput): Plan {
  if (dayNumber(input.sitting.date) - dayNumber(input.today) > mostDaysAhead)
    throw new PlanProblem(
      'target.sitting',
      `the sitting on ${input.sitting.date} is more than three years away; choose a nearer one`,
    )
  const name = numberingFor(input)
  const framed = frame(input, name)
  const { first, taper, exam, stages, calendar, tests, around, remedial, notices } = framed
  const slots = withTimed(slotsOf(input, framed), [...tests.sessions, ...input.kept], first, taper)
  const fixed = fixedOf(input, remedial)
  const filled = input.topics.length ? fillSlots(input, slots, fixed) : []
  if (mayImprove(input)) {
    improve(input, filled, exam)
    retell(input, filled, fixed)
  }
  const study = [...remedial, ...studySessions(input, filled, name)]
  const light = lightWork(input, calendar, [...daysOf(remedial), ...filledDays(input, filled)], taper, name)
  const made = [...tests.sessions, ...around, ...study, ...light]
  const owed = new Set(input.owed.map(({ id }) => id))
  const sessions = [...input.kept.filter(({ id }) => !owed.has(id)), ...made].sort(byTime)
  const hours = filled.reduce((sum, { minutes }) => sum + minutes / 60, 0)
  return {
    madeOn: input.today,
    sitting: input.sitting.id,
    seed: input.seed,
    leadTime: leadTimeOf(exam - first),
    phases: phasesOf(stages, taper, exam),
    weeks: weeksOf(calendar, sessions, first, exam),
    notices: [
      ...withRemedies(input, notices, (changed) => frame(changed).notices),
      ...leftOut(input, sessions),
      ...cautions(input, made, hours),
    ],
    ...(tests.unplaced.length && {
      unplaced: tests.unplaced.slice(0, mostInTray).map((form) => trayTest(input, form)),
    }),
    sessions,
  }
}
