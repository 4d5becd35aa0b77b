import type { PlanSession } from '@climber/contract'
import { dayNumber, type DayNumber } from '../time/day'
import { Calendar } from './calendar/calendar'
import type { PlanInput } from './input'
import { layStages, leadTimeOf, type PlacedStage, stagesFor } from './phases'
import { testMinutes } from './tests/lengths'

/** Nobody plans further ahead, and a mistyped year must not cost minutes of computing. */
export const mostDaysAhead = 1100

/** What stands against making any plan, with the field that would change it. */
export class PlanProblem extends Error {
  constructor(
    readonly field: string,
    message: string,
  ) {
    super(message)
  }
}

/** The days of a plan and its free time. */
export interface Ground {
  first: DayNumber
  exam: DayNumber
  taper: DayNumber
  stages: PlacedStage[]
  calendar: Calendar
}

/** How a plan that stands already is laid out: its days keep their place, its stages begin where they began. */
export interface Laid {
  prefer?: Set<DayNumber>
  madeOn?: DayNumber
}

/** The days of a plan and its free time, before anything is placed. */
export function groundOf(input: PlanInput, kept: PlanSession[], { prefer, madeOn }: Laid = {}): Ground {
  const first = dayNumber(input.today)
  const exam = Math.min(dayNumber(input.sitting.date), first + mostDaysAhead)
  if (exam <= first)
    throw new PlanProblem(
      'target.sitting',
      `the sitting on ${input.sitting.date} is not after today, ${input.today}; choose a later one`,
    )
  const { settings } = input
  const taper = Math.max(first, exam - settings.taperDays)
  const from = Math.min(first, madeOn ?? first)
  const stages = layStages(stagesFor(leadTimeOf(exam - from), settings), from, taper)
  const calendar = new Calendar(
    input.availability,
    first,
    exam,
    {
      nowMinute: input.nowMinute,
      breakMinutes: settings.breakMinutes,
      slackShare: settings.slackShare,
      sessionMinutes: settings.sessionMinutes,
      longestBlock: testMinutes(input.exam.sections, settings.timeFactor),
      prefer,
    },
    kept,
    input.busy,
  )
  return { first, exam, taper, stages, calendar }
}
