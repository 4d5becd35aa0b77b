import type { Plan } from '@climber/contract'
import { makePlan } from '../plan/makePlan'
import { assess } from './assessment'
import { type CandidateRecord, type Moment, withPlan } from './moment'
import { type Odds, planOdds } from './odds'
import { planInput } from './planInput'

/** The plan that would be made now, and the odds with it; undefined without a sitting. Throws `PlanProblem`. */
export function previewPlan(
  record: CandidateRecord,
  now: Moment,
  seed: number,
): { plan: Plan; odds?: Odds } | undefined {
  const assessment = assess(record, now)
  if (!assessment.sitting) return undefined
  const plan = makePlan(planInput(assessment, assessment.sitting, seed))
  return { plan, odds: planOdds(assess(withPlan(record, plan), now)) }
}
