import type { PlanNotice } from '@climber/contract'
import type { PlanInput } from '../input'
import { isRhythmChosen } from '../phases'
import type { TestRoom } from './blocks'
import { lastRehearsalWithin, type LeftOut } from './place'

interface Outcome {
  left: LeftOut
  /** Tests that were placed and then taken out, since no form was there for them. */
  formless: number
  /** The last rehearsal, placed or standing before. */
  rehearsal?: { reviewMinutes: number }
  /** Whether a last rehearsal stands already, or there are no days for one. */
  settled: boolean
  /** Some form is sat by nobody. */
  idle: boolean
}

/** What a reader can do something about: no rehearsal, a rhythm that was asked for and is not kept, forms that nothing uses. */
export function noticesOf(
  input: PlanInput,
  room: TestRoom,
  { left, formless, rehearsal, settled, idle }: Outcome,
): PlanNotice[] {
  const { full, reviewMinutes } = room
  const { minutesPerDay } = input.availability
  const notices: PlanNotice[] = []
  const shorterCap = full > minutesPerDay ? `, and the cap of ${minutesPerDay} minutes a day is shorter` : ''
  if (!rehearsal && !settled)
    notices.push({
      code: 'no-rehearsal',
      message: `No rehearsal stands in the last ${lastRehearsalWithin} days: a test takes ${full} minutes, and neither one free block there nor free time for its sections one by one is that long${shorterCap}.`,
    })
  if (rehearsal && rehearsal.reviewMinutes < reviewMinutes)
    notices.push({
      code: 'short-review',
      message: `The last rehearsal has ${rehearsal.reviewMinutes} minutes of review and not ${reviewMinutes}: there is no more time before the last days.`,
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
  // While a form is idle, it is that which is told.
  if (formless && !idle)
    notices.push({
      code: 'no-form',
      message: `${formless === 1 ? 'One more whole test' : `${formless} more whole tests`} would fit: no unseen form is left, and none that could be sat once more. Add a form to the exam format to have more.`,
    })
  return notices
}
