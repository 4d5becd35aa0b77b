import { chosenWays } from '../../sessions/ways'
import { dayNumber, type DayNumber } from '../../time/day'
import type { PlanInput } from '../input'
import type { PlacedStage } from '../phases'

/** Days before the taper of the last rehearsal: time to review it. */
const lastRehearsalGap = 4

/** A day on which a test is wished for. */
export interface Wish {
  day: DayNumber
  stage: PlacedStage
  baseline: boolean
  /** Days before the exam that the settings ask a full rehearsal at. */
  rehearsalAt?: number
}

/** Days from one test to the next in a stage; 0 for no tests. */
export const testEveryOf = (input: PlanInput, stage: PlacedStage): number =>
  stage.testEvery && (input.settings.testEveryDays ?? stage.testEvery)

/**
 * The days on which tests are wished for: rehearsals at the distances asked for, the rest backwards from the last
 * rehearsal at each stage's rhythm, and a baseline, at once or when the first quarter has been read through.
 */
export function wishedDays(
  input: PlanInput,
  stages: PlacedStage[],
  first: DayNumber,
  taper: DayNumber,
): Wish[] {
  const lastStage = stages[stages.length - 1]
  if (!lastStage) return []
  const exam = dayNumber(input.sitting.date)
  const wantsBaseline = !input.measured
  const late = chosenWays(input.settings).firstTest === 'after the first read'
  const baselineDay = late ? first + Math.round((taper - first) / 4) : first
  const floor = wantsBaseline ? baselineDay + 4 : late ? baselineDay : first + 2
  const stageAt = (day: DayNumber) => stages.find(({ from, to }) => day >= from && day < to) ?? lastStage
  const wishes: Wish[] = (input.settings.rehearsals ?? [])
    .map((rehearsalAt) => ({ day: exam - rehearsalAt, baseline: false, rehearsalAt }))
    .filter(({ day }) => day >= floor && day < taper)
    .map((wish) => ({ ...wish, stage: stageAt(wish.day) }))
  const last = wishes.length
    ? Math.max(...wishes.map(({ day }) => day))
    : Math.max(first + 1, taper - lastRehearsalGap)
  for (let day = last; day >= floor && day < taper;) {
    const stage = stageAt(day)
    const every = testEveryOf(input, stage)
    if (!every) {
      day = stage.from - 1
      continue
    }
    if (!wishes.some((wish) => Math.abs(wish.day - day) < every / 2))
      wishes.push({ day, stage, baseline: false })
    day -= every
  }
  if (wantsBaseline) wishes.push({ day: baselineDay, stage: stageAt(baselineDay), baseline: true })
  return wishes.sort((a, b) => a.day - b.day || Number(b.baseline) - Number(a.baseline))
}
