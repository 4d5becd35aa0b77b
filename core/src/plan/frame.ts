import type { PlanNotice, PlanSession, StudySession } from '@climber/contract'
import { quotaMinutes } from '../hours/shelf'
import type { DayNumber } from '../time/day'
import { errands } from './around/errands'
import { remedialWork } from './around/remedial'
import { restsOfStudy } from './around/rests'
import { retests } from './around/retests'
import { type Slot, studySlots, testStartsOf } from './fill/slots'
import { type Ground, groundOf } from './ground'
import type { PlanInput } from './input'
import { numbering } from './numbering'
import { placeOwed } from './owed'
import { type PlacedTests, placeTests, type WishedTests } from './tests/placeTests'

/** What a plan holds beside the study that is still to be placed, and beside what stood before. */
export interface Frame extends Ground {
  tests: PlacedTests
  /** Reviews still owed, retests and errands. */
  around: PlanSession[]
  /** Study that reviews ask for, and the rest of what was done in part. */
  remedial: StudySession[]
  notices: PlanNotice[]
}

export const numberingFor = ({ kept, owed, taken }: PlanInput) => numbering([...kept, ...owed], taken)

/** The calendar with tests, their reviews, retests and errands in it: what is left is for study. Of tests all that are wished for, or what nobody is to go without. */
export function frameOf(
  input: PlanInput,
  ground: Ground,
  name: (key: string) => string,
  tests: WishedTests = 'all',
): Frame {
  const { first, exam, taper, stages, calendar } = ground
  const owed = placeOwed(calendar, input.owed, taper)
  const placed = placeTests(input, calendar, stages, ground, name, tests)
  const again = retests(input, calendar, placed.sessions, taper, name)
  const remedial = [
    ...restsOfStudy(input, calendar, taper, name),
    ...remedialWork(input, calendar, taper, name),
  ]
  const out = errands(input, calendar, first, taper, exam, name)
  return {
    ...ground,
    tests: placed,
    around: [...owed, ...again.sessions, ...out.sessions],
    remedial,
    notices: [...placed.notices, ...again.notices, ...out.notices],
  }
}

/** A frame on free ground: with what is done, running and pinned, and nothing else. */
export const freshFrame = (input: PlanInput): Frame =>
  frameOf(input, groundOf(input, [...input.lived, ...input.kept]), numberingFor(input))

/** The slots for study in what a frame leaves free, on some days or on all. */
export const slotsOf = (
  input: PlanInput,
  { calendar, stages, tests }: Frame,
  wanted?: (day: DayNumber) => boolean,
): Slot[] =>
  studySlots(calendar, stages, {
    sessionMinutes: input.settings.sessionMinutes,
    breakMinutes: input.settings.breakMinutes,
    quotaMinutes: quotaMinutes(input.shelf),
    testStarts: testStartsOf([...tests.sessions, ...input.kept]),
    wanted,
  })

/** Hours that are left for topics once tests, their reviews and slack are taken out. */
export const studyHours = (input: PlanInput): number =>
  slotsOf(input, freshFrame(input)).reduce((sum, { minutes }) => sum + minutes / 60, 0)
