import type { Form, PlanNotice, PlanSession, ReviewSession, TestSession } from '@climber/contract'
import { isActive, isTest } from '../../sessions/session'
import { dateOf, dayNumber, type DayNumber, mondayOf, timeOf } from '../../time/day'
import type { Calendar } from '../calendar/calendar'
import type { Ground } from '../ground'
import type { PlanInput } from '../input'
import { isRhythmChosen, type PlacedStage } from '../phases'
import { TestRoom } from './blocks'
import { assignForms, assignSections, type FormUse, type FormUses, metBefore } from './forms'
import { firstDay, lastDay, lastRehearsalWithin, type LeftOut, type PlacedTest, TestPlacing } from './place'
import { testEveryOf, wishedDays } from './wishes'

export interface PlacedTests {
  sessions: PlanSession[]
  notices: PlanNotice[]
  /** Unseen forms that tests which found no place would have used. */
  unplaced: Form[]
}

const purposeOf = (test: PlacedTest, { seen, resit }: FormUse): TestSession['purpose'] => {
  if (test.sections) return 'section'
  if (test.baseline) return 'baseline'
  if (resit) return 'resit'
  if (seen) return 'seen'
  return test.stage.rehearsal || test.rehearsalAt || test.final ? 'rehearsal' : 'rhythm'
}

/** Under what a test is numbered. */
const keyOf = ({ sections }: PlacedTest, form: Form | undefined): string =>
  sections ? `test.${form?.id ?? 'own'}.${sections[0]?.id}` : `test.${form?.id}`

/** The sessions of a placed test, one for each of its parts. */
function testSessions(
  input: PlanInput,
  room: TestRoom,
  test: PlacedTest,
  { form, seen, resit }: FormUse,
  name: (key: string) => string,
): TestSession[] {
  const { blocks, sections, hour } = test
  const ids = blocks.map(() => name(keyOf(test, form)))
  const purpose = purposeOf(test, { seen, resit })
  return blocks.map((block, part): TestSession => ({
    id: ids[part] ?? '',
    date: dateOf(block.day),
    start: timeOf(block.from),
    minutes: block.minutes,
    kind: 'test',
    ...(form && { form: form.id }),
    seen,
    purpose,
    ...(purpose === 'rhythm' && { everyDays: testEveryOf(input, test.stage) }),
    ...(hour && { hour }),
    ...(sections && { sections: sections.map(({ id }) => id) }),
    ...(blocks.length > 1 && {
      split: {
        number: part + 1,
        of: blocks.length,
        other: ids[(part + 1) % blocks.length] ?? '',
        sections: block.sections ?? [],
        wholeMinutes: room.full,
      },
    }),
    pinned: false,
    status: 'planned',
  }))
}

function reviewSessions(
  { reviews, reviewMinutes, blocks }: PlacedTest,
  last: TestSession,
  name: (key: string) => string,
): ReviewSession[] {
  const tested = blocks.reduce((sum, { minutes }) => sum + minutes, 0)
  return reviews.map(({ day, from, minutes }, at): ReviewSession => ({
    id: name(`review.${last.form ?? 'own'}`),
    date: dateOf(day),
    start: timeOf(from),
    minutes,
    kind: 'review',
    ...(last.form !== undefined && { form: last.form }),
    of: last.id,
    piece: { number: at + 1, of: reviews.length },
    wholeMinutes: reviewMinutes,
    ratio: Math.round((100 * reviewMinutes) / tested) / 100,
    pinned: false,
    status: 'planned',
  }))
}

const isWhole = ({ sections }: PlacedTest): boolean => !sections

/** The publisher's and others' forms that nothing in the plan is sat on, in part or in whole. */
function unusedForms(input: PlanInput, uses: FormUses): Form[] {
  const met = new Set(metBefore(input).map(({ form }) => form))
  const used = new Set([...uses.values()].map(({ form }) => form?.id))
  return input.exam.forms.filter(({ id }) => !met.has(id) && !used.has(id))
}

interface Outcome {
  left: LeftOut
  /** Tests that were placed and then taken out, since no form was there for them. */
  formless: number
  final: PlacedTest | undefined
  /** Whether a last rehearsal stands already, or there are no days for one. */
  settled: boolean
  unused: Form[]
}

/** What a reader can do something about: no rehearsal, a rhythm that was asked for and is not kept, forms that nothing uses. */
function noticesOf(
  input: PlanInput,
  room: TestRoom,
  { left, formless, final, settled, unused }: Outcome,
): PlanNotice[] {
  const { full, reviewMinutes } = room
  const { minutesPerDay } = input.availability
  const notices: PlanNotice[] = []
  const shorterCap = full > minutesPerDay ? `, and the cap of ${minutesPerDay} minutes a day is shorter` : ''
  if (!final && !settled)
    notices.push({
      code: 'no-rehearsal',
      message: `No rehearsal stands in the last ${lastRehearsalWithin} days: a test takes ${full} minutes, and neither one free block there nor free time for its sections one by one is that long${shorterCap}.`,
    })
  if (final && final.reviewMinutes < reviewMinutes)
    notices.push({
      code: 'short-review',
      message: `The last rehearsal has ${final.reviewMinutes} minutes of review and not ${reviewMinutes}: there is no more time before the last days.`,
    })
  const wished = isRhythmChosen(input.settings)
  const count = (n: number) =>
    n === 1 ? 'One test of the rhythm that was chosen is' : `${n} tests of the rhythm that was chosen are`
  if (wished && left.noRoom)
    notices.push({
      code: 'test-no-room',
      message: `${count(left.noRoom)} left out: a test takes ${full} minutes, and no free block near its day is that long${shorterCap}. A free window of ${full} minutes a week would hold it.`,
    })
  if (wished && left.review)
    notices.push({
      code: 'tests-thinned',
      message: `${count(left.review)} left out so that review keeps up: each asks for ${full} minutes and ${reviewMinutes} of review, and learning needs its share of the week.`,
    })
  if (formless)
    notices.push({
      code: 'no-form',
      message: `${formless === 1 ? 'One more whole test' : `${formless} more whole tests`} would fit: no unseen form is left, and none that could be sat once more. Add a form to the exam format to have more.`,
    })
  if (unused.length)
    notices.push({
      code: 'forms-unused',
      message: `${unused.length === 1 ? `${unused[0]?.title} is` : `${unused.length} unseen forms are`} not used: with their reviews they would take more of the time than tests are to have here. More free time, or a shorter review, makes room; they wait in the tray.`,
    })
  return notices
}

/** A full week of study, Monday to Sunday, that no test stands in. */
function weeksWithout(stages: PlacedStage[], first: DayNumber, taper: DayNumber, testDays: DayNumber[]) {
  const weeks: { monday: DayNumber; stage: PlacedStage }[] = []
  for (let monday = mondayOf(first + 6); monday + 7 <= taper; monday += 7) {
    const stage = stages.find(({ from, to }) => monday >= from && monday < to)
    if (stage && !testDays.some((day) => day >= monday && day < monday + 7)) weeks.push({ monday, stage })
  }
  return weeks
}

/** A section at its exam length in each full week without a test: the one longest not sat under the clock, where it fits. */
function placeSections(
  input: PlanInput,
  room: TestRoom,
  placing: TestPlacing,
  stages: PlacedStage[],
  first: DayNumber,
  taper: DayNumber,
) {
  const standing = [...input.kept]
    .filter((session) => isTest(session) && isActive(session))
    .map(({ date }) => dayNumber(date))
  const sat = new Map<string, number>()
  const worth = new Map<string, number>()
  for (const { section, value, known } of input.topics)
    worth.set(section, (worth.get(section) ?? 0) + value * (1 - known))
  const testDays = [...standing, ...placing.placed.flatMap(({ blocks }) => blocks.map(({ day }) => day))]
  for (const { monday, stage } of weeksWithout(stages, first, taper, testDays)) {
    if (!testEveryOf(input, stage)) continue
    const order = input.exam.sections
      .flatMap((section, at) => (section.timed === false ? [] : [{ id: section.id, at }]))
      .sort(
        (a, b) =>
          (sat.get(a.id) ?? -1) - (sat.get(b.id) ?? -1) || (worth.get(b.id) ?? 0) - (worth.get(a.id) ?? 0),
      )
    const units = order.map(({ at }) => room.unitFrom(at))
    const found = placing.section(units, stage, monday, monday + 6, taper)
    for (const { id } of found?.sections ?? []) sat.set(id, monday)
  }
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
): PlacedTests {
  const room = new TestRoom(input, calendar, taper)
  const placing = new TestPlacing(input, room, first)
  placing.all(wishedDays(input, stages, first, taper), taper, exam)
  const stageAt = (day: DayNumber) => stages.find(({ from, to }) => day >= from && day < to)
  const rehearses = (test: PlacedTest) =>
    Boolean(stageAt(firstDay(test))?.rehearsal || test.rehearsalAt || test.final)
  if (!input.measured && !placing.placed.some(({ baseline }) => baseline) && placing.placed[0])
    placing.placed[0].baseline = true
  const uses = assignForms(input, placing.placed, rehearses)
  const without = placing.placed.filter((test) => !uses.has(test))
  for (const test of without) placing.takeOut(test)
  placeSections(input, room, placing, stages, first, taper)
  assignSections(input, placing.placed, uses)

  const sessions = placing.placed.flatMap((test): PlanSession[] => {
    const use = uses.get(test)
    if (!use) return []
    const tests = testSessions(input, room, test, use, name)
    const last = tests[tests.length - 1]
    return last ? [...tests, ...reviewSessions(test, last, name)] : tests
  })
  const unused = unusedForms(input, uses)
  const final = placing.placed.find((test) => isWhole(test) && lastDay(test) >= exam - lastRehearsalWithin)
  const settled =
    !room.days.some((day) => day >= exam - lastRehearsalWithin) ||
    input.kept.some(
      (session) =>
        isTest(session) && isActive(session) && dayNumber(session.date) >= exam - lastRehearsalWithin,
    )
  return {
    sessions,
    notices: noticesOf(input, room, {
      left: placing.left,
      formless: without.length,
      final,
      settled,
      unused,
    }),
    unplaced: unused,
  }
}
