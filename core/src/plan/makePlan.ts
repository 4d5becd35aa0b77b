import type { Plan } from '@climber/contract'
import { byTime } from '../sessions/session'
import { dayNumber } from '../time/day'
import { asItStands } from './asItStands'
import { complete } from './complete'
import { frameOf, numberingFor } from './frame'
import { groundOf, mostDaysAhead, PlanProblem } from './ground'
import type { PlanInput } from './input'
import { beliefsOf } from './mend/beliefs'
import { mixedAfterMeeting } from './mend/mixed'
import { withPapers } from './papers'
import { leadTimeOf } from './phases'
import { weeksOf } from './weeks'

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
  const ground = groundOf(input, [...input.lived, ...input.kept])
  const { first, exam, calendar } = ground
  const name = numberingFor(input)
  const { made, ...said } = complete(input, frameOf(input, ground, name), name)
  const owed = new Set(input.owed.map(({ id }) => id))
  const placed = [...input.kept.filter(({ id }) => !owed.has(id)), ...made].sort(byTime)
  const papers = withPapers(input, mixedAfterMeeting(input, placed), said.phases)
  const sessions = asItStands(input, papers.sessions)
  return {
    madeOn: input.today,
    sitting: input.sitting.id,
    seed: input.seed,
    leadTime: leadTimeOf(exam - first),
    weeks: weeksOf(calendar, sessions, first, exam),
    ...said,
    ...papers,
    notices: [...said.notices, ...papers.notices],
    beliefs: beliefsOf(input),
    sessions,
  }
}
