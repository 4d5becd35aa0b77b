import type { PlanNotice, PlanSession } from '@climber/contract'
import { isActive, isTest, isWhole, reviewsOf } from '../../sessions/session'
import { dayNumber, type DayNumber } from '../../time/day'
import type { Calendar } from '../calendar/calendar'
import type { Ground } from '../ground'
import type { PlanInput } from '../input'
import type { PlacedStage } from '../phases'
import { TestRoom } from './blocks'
import { assignForms, assignSections, type FormUses, metBefore } from './forms'
import { noticesOf } from './notices'
import {
  baselineStands,
  firstDay,
  isWholeTest,
  lastDay,
  lastRehearsalWithin,
  type PlacedTest,
  TestPlacing,
} from './place'
import { placeSections } from './sections'
import { reviewSessions, testSessions } from './testSessions'
import { wishedDays } from './wishes'

/** All tests that are wished for; or, where a plan stands, a last rehearsal and timed work where a week has none. */
export type WishedTests = 'all' | 'what is missing'

export interface PlacedTests {
  sessions: PlanSession[]
  notices: PlanNotice[]
}

/** Whether nothing is sat on some form of the exam, in part or in whole. */
function someIdle(input: PlanInput, uses: FormUses): boolean {
  const met = new Set(metBefore(input).map(({ form }) => form))
  const used = new Set([...uses.values()].map(({ form }) => form?.id))
  return input.exam.forms.some(({ id }) => !met.has(id) && !used.has(id))
}

/**
 * Places practice tests and the review after each, and takes their time from the calendar. A test goes where the whole
 * of it fits, at the exam's time of day if it can; its review is complete before the next test. Where review cannot
 * keep up, tests are left out, never review. A full week without a whole test has one section at its exam length, where that and its
 * review fit.
 */
export function placeTests(
  input: PlanInput,
  calendar: Calendar,
  stages: PlacedStage[],
  { first, taper, exam }: Pick<Ground, 'first' | 'taper' | 'exam'>,
  name: (key: string) => string,
  tests: WishedTests = 'all',
): PlacedTests {
  const room = new TestRoom(input, calendar, taper)
  const placing = new TestPlacing(input, room, first)
  const { last, wishes } = wishedDays(input, stages, first, taper)
  placing.all({ ...(last && { last }), wishes: tests === 'all' ? wishes : [] }, taper, exam)
  const stageAt = (day: DayNumber) => stages.find(({ from, to }) => day >= from && day < to)
  const rehearses = (test: PlacedTest) =>
    Boolean(stageAt(firstDay(test))?.rehearsal || test.rehearsalAt || test.final)
  const [earliest] = placing.placed
  const isFirst = (test: PlacedTest) =>
    !input.kept.some((one) => isWhole(one) && isActive(one) && dayNumber(one.date) <= firstDay(test))
  if (
    !input.measured &&
    !baselineStands(input) &&
    earliest &&
    isFirst(earliest) &&
    !placing.placed.some(({ baseline }) => baseline)
  )
    earliest.baseline = true
  const uses = assignForms(input, placing.placed, rehearses)
  const without = placing.placed.filter((test) => !uses.has(test))
  for (const test of without) placing.takeOut(test)
  placeSections(input, room, placing, stages, first, taper)
  assignSections(input, placing.placed, uses)

  const kept = placing.placed.filter((test) => uses.has(test))
  const sessions = kept.flatMap((test): PlanSession[] => {
    const use = uses.get(test)
    if (!use) return []
    const tests = testSessions(room, test, use, name)
    const last = tests[tests.length - 1]
    return last ? [...tests, ...reviewSessions(test, last, name)] : tests
  })
  const final = placing.placed.find(
    (test) => isWholeTest(test) && lastDay(test) >= exam - lastRehearsalWithin,
  )
  const standing = input.kept
    .filter(isTest)
    .filter((test) => isActive(test) && dayNumber(test.date) >= exam - lastRehearsalWithin)
  const settled = !room.days.some((day) => day >= exam - lastRehearsalWithin) || standing.length > 0
  // One that was put there by hand is reviewed as it is chosen to be.
  const ahead = standing.filter((test) => test.status === 'planned' && !test.pinned && isWhole(test))
  const reviews = ahead.flatMap(({ id }) => reviewsOf(id, input.kept)).filter(isActive)
  const reviewMinutes = final?.reviewMinutes ?? reviews.reduce((sum, { minutes }) => sum + minutes, 0)
  return {
    sessions,
    notices: noticesOf(input, room, {
      left: placing.left,
      formless: without.length,
      ...((final || ahead.length) && { rehearsal: { reviewMinutes } }),
      settled,
      idle: someIdle(input, uses),
    }),
  }
}
