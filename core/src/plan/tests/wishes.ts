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
/** The last rehearsal, and the tests before it in order of time. */
export interface Rhythm {
  last?: Wish
  wishes: Wish[]
}

/** Days from one test to the next in a stage; 0 for no tests. */
export const testEveryOf = (input: PlanInput, stage: PlacedStage): number =>
  stage.testEvery && (input.settings.testEveryDays ?? stage.testEvery)

/**
 * The days on which tests are wished for: the last rehearsal some days before the taper, those at the distances asked for, the rest
 * backwards from these at each stage's rhythm, and a baseline, at once or when the first quarter has been read through.
 */
export function wishedDays(
  input: PlanInput,
  stages: PlacedStage[],
  first: DayNumber,
  taper: DayNumber,
): Rhythm {
  const lastStage = stages[stages.length - 1]
  if (!lastStage) return { wishes: [] }
  const exam = dayNumber(input.sitting.date)
  const wantsBaseline = !input.measured
  const late = chosenWays(input.settings).firstTest === 'after the first read'
  const baselineDay = late ? first + Math.round((taper - first) / 4) : first
  const floor = wantsBaseline ? baselineDay + 4 : late ? baselineDay : first + 2
  const stageAt = (day: DayNumber) => stages.find(({ from, to }) => day >= from && day < to) ?? lastStage
  const asked = (input.settings.rehearsals ?? [])
    .map((rehearsalAt) => ({ day: exam - rehearsalAt, baseline: false, rehearsalAt }))
    .filter(({ day }) => day >= floor && day < taper)
    .map((wish): Wish => ({ ...wish, stage: stageAt(wish.day) }))
    .sort((a, b) => a.day - b.day)
  const lastDay = Math.max(first + 1, taper - lastRehearsalGap)
  const near = asked.filter(({ day }) => Math.abs(day - lastDay) <= 3).pop()
  const last: Wish = near ?? { day: lastDay, stage: stageAt(lastDay), baseline: false }
  const wishes = asked.filter((wish) => wish !== near)
  const from = asked.length ? Math.min(lastDay, asked[asked.length - 1]!.day) : lastDay
  for (let day = from; day >= floor && day < taper;) {
    const stage = stageAt(day)
    const every = testEveryOf(input, stage)
    if (!every) {
      day = stage.from - 1
      continue
    }
    if (![last, ...wishes].some((wish) => Math.abs(wish.day - day) < every / 2))
      wishes.push({ day, stage, baseline: false })
    day -= every
  }
  if (wantsBaseline) wishes.push({ day: baselineDay, stage: stageAt(baselineDay), baseline: true })
  return {
    ...(last.day < taper && { last }),
    wishes: wishes.sort((a, b) => a.day - b.day || Number(b.baseline) - Number(a.baseline)),
  }
}
