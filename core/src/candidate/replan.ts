import type { Availability, Plan, PlanChange } from '@climber/contract'
import { makePlan } from '../plan/makePlan'
import { diffPlans, type PlanDiff } from '../plan/mend/diff'
import { noLongerFree } from '../plan/mend/fits'
import { mend } from '../plan/mend/mend'
import { dateOf, dayNumber } from '../time/day'
import { assess } from './assessment'
import { type CandidateRecord, type Moment, withPlan } from './moment'
import { type Odds, planOdds } from './odds'
import { planInput } from './planInput'

export interface Replanned {
  plan: Plan
  diff: PlanDiff
  /** Odds with what of the plan can still be done after the change, nothing mended, and with the new plan. */
  before?: Odds
  after?: Odds
  /** Days off with the change in them. */
  daysOff: Availability['daysOff']
  mode: 'mend' | 'anew'
}

const longestHoliday = 120

/** The record after a change: days become days off, and what was planned on them has slipped. */
export function withChange(record: CandidateRecord, change: PlanChange): CandidateRecord {
  if (change.kind === 'none' || !record.plan) return record
  const from = dayNumber(change.from)
  const length = Math.min(longestHoliday, dayNumber(change.to) - from + 1)
  const days = Array.from({ length: Math.max(0, length) }, (_, at) => dateOf(from + at))
  const off = new Set(days)
  return {
    ...record,
    availability: {
      ...record.availability,
      daysOff: [...new Set([...record.availability.daysOff, ...days])].sort(),
    },
    plan: {
      ...record.plan,
      sessions: record.plan.sessions.map((session) =>
        off.has(session.date) && session.status === 'planned'
          ? { ...session, status: 'slipped', pinned: false }
          : session,
      ),
    },
  }
}

/**
 * What a re-plan would do, applied to nothing: mended with the least disturbance, or made anew (always, where the plan
 * was for another sitting). Throws `PlanProblem`. Undefined without a plan or a sitting.
 */
export function replan(
  record: CandidateRecord,
  now: Moment,
  seed: number,
  change: PlanChange = { kind: 'none' },
  wanted: 'mend' | 'anew' = 'mend',
): Replanned | undefined {
  if (!record.plan) return undefined
  const changed = withChange(record, change)
  const assessment = assess(changed, now)
  if (!assessment.sitting) return undefined
  const mode = record.plan.sitting === assessment.sitting.id ? wanted : 'anew'
  const input = planInput(assessment, assessment.sitting, seed)
  const made =
    mode === 'mend'
      ? mend(input, changed.plan!)
      : (() => {
          const plan = makePlan(input)
          return { plan, diff: diffPlans(changed.plan!.sessions, plan.sessions) }
        })()
  // What cannot be done where it stands is not counted on.
  const lost = new Set(noLongerFree(input, changed.plan!.sessions).map(({ id }) => id))
  const left = changed.plan!.sessions.map((one) =>
    lost.has(one.id) ? { ...one, status: 'slipped' as const } : one,
  )
  const untouched = lost.size
    ? assess({ ...changed, plan: { ...changed.plan!, sessions: left } }, now)
    : assessment
  return {
    ...made,
    before: planOdds(untouched),
    after: planOdds(assess(withPlan(changed, made.plan), now)),
    daysOff: changed.availability.daysOff,
    mode,
  }
}
