import type { Form, PlanNotice, PlanSession, ReviewSession, TestSession } from '@climber/contract'
import { resitAfterDays } from '../../attempts/sat'
import { dateOf, type DayNumber, timeOf } from '../../time/day'
import type { Calendar } from '../calendar/calendar'
import type { PlanInput } from '../input'
import type { PlacedStage } from '../phases'
import { TestRoom } from './blocks'
import { assignForms, type FormUse, metOn } from './forms'
import { firstDay, type PlacedTest, TestPlacing } from './place'
import { testEveryOf, wishedDays } from './wishes'

export interface PlacedTests {
  sessions: PlanSession[]
  notices: PlanNotice[]
  /** Unseen forms that tests which found no place would have used. */
  unplaced: Form[]
}

const purposeOf = (test: PlacedTest, { seen, resit }: FormUse): TestSession['purpose'] => {
  if (test.baseline) return 'baseline'
  if (resit) return 'resit'
  if (seen) return 'seen'
  return test.stage.rehearsal || test.rehearsalAt ? 'rehearsal' : 'rhythm'
}

/** The sessions of a placed test, one for each of its parts. */
function testSessions(
  input: PlanInput,
  room: TestRoom,
  test: PlacedTest,
  use: FormUse,
  name: (key: string) => string,
): TestSession[] {
  const ids = test.blocks.map(() => name(`test.${use.form.id}`))
  const purpose = purposeOf(test, use)
  return test.blocks.map((block, part): TestSession => {
    const other = ids[1 - part]
    return {
      id: ids[part] ?? '',
      date: dateOf(block.day),
      start: timeOf(block.from),
      minutes: block.minutes,
      kind: 'test',
      form: use.form.id,
      seen: use.seen,
      purpose,
      ...(purpose === 'rhythm' && { everyDays: testEveryOf(input, test.stage) }),
      ...(test.hour && { hour: test.hour }),
      ...(block.sections &&
        other && {
          split: {
            number: part + 1,
            of: test.blocks.length,
            other,
            sections: block.sections,
            wholeMinutes: room.full,
          },
        }),
      pinned: false,
      status: 'planned',
    }
  })
}

function reviewSessions(
  input: PlanInput,
  room: TestRoom,
  { reviews }: PlacedTest,
  last: TestSession,
  name: (key: string) => string,
): ReviewSession[] {
  return reviews.map(({ day, from, minutes }, at): ReviewSession => ({
    id: name(`review.${last.form}`),
    date: dateOf(day),
    start: timeOf(from),
    minutes,
    kind: 'review',
    form: last.form,
    of: last.id,
    piece: { number: at + 1, of: reviews.length },
    wholeMinutes: room.reviewMinutes,
    ratio: input.settings.reviewRatio,
    pinned: false,
    status: 'planned',
  }))
}

function noticesOf(
  room: TestRoom,
  left: { noRoom: number; review: number; form: number },
  { minutesPerDay }: PlanInput['availability'],
): PlanNotice[] {
  const { full, reviewMinutes } = room
  const count = (n: number) => (n === 1 ? 'One test was' : `${n} tests were`)
  const shorterCap = full > minutesPerDay ? `, and the cap of ${minutesPerDay} minutes a day is shorter` : ''
  const notice = (code: string, n: number, rest: string): PlanNotice[] =>
    n ? [{ code, message: `${count(n)} left out${rest}` }] : []
  return [
    ...notice(
      'test-no-room',
      left.noRoom,
      `: a test takes ${full} minutes, and no free block near its day is that long${shorterCap}. A free window of ${full} minutes a week would hold it.`,
    ),
    ...notice(
      'tests-thinned',
      left.review,
      ` so that review keeps up: each test asks for ${full} minutes and ${reviewMinutes} of review, and learning needs its share of the week.`,
    ),
    ...notice(
      'no-form',
      left.form,
      `: no unseen form is left, and none was sat ${resitAfterDays} days before. Add a form to the exam format to have more.`,
    ),
  ]
}

/**
 * Places practice tests and the review after each, and takes their time from the calendar. A test goes where the whole
 * of it fits, at the exam's time of day if it can; its review is complete before the next test. Where review cannot
 * keep up, tests are left out, never review.
 */
export function placeTests(
  input: PlanInput,
  calendar: Calendar,
  stages: PlacedStage[],
  first: DayNumber,
  taper: DayNumber,
  name: (key: string) => string,
): PlacedTests {
  const room = new TestRoom(input, calendar, taper)
  const placing = new TestPlacing(input, room, first)
  placing.all(wishedDays(input, stages, first, taper), taper)
  const { placed, left } = placing
  const stageAt = (day: DayNumber) => stages.find(({ from, to }) => day >= from && day < to)
  const uses = assignForms(input, placed, (test) =>
    Boolean(stageAt(firstDay(test))?.rehearsal || test.rehearsalAt),
  )
  const without = placed.filter((test) => !uses.has(test))
  for (const { blocks, reviews } of without) for (const block of [...blocks, ...reviews]) room.give(block)

  const sessions = placed.flatMap((test): PlanSession[] => {
    const use = uses.get(test)
    if (!use) return []
    const tests = testSessions(input, room, test, use, name)
    const last = tests[tests.length - 1]
    return last ? [...tests, ...reviewSessions(input, room, test, last, name)] : tests
  })
  const met = metOn(input)
  const used = new Set([...uses.values()].map(({ form }) => form.id))
  const unused = input.exam.forms.filter(({ id }) => !met.has(id) && !used.has(id))
  return {
    sessions,
    notices: noticesOf(room, { ...left, form: without.length }, calendar.availability),
    unplaced: unused.slice(0, left.noRoom + left.review),
  }
}
