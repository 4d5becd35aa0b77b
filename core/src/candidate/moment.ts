import type { CandidateRecord, Plan, PlanSession, Sitting } from '@climber/contract'
import { diagnosticOf } from '../attempts/sat'
import { dateOf, dayNumber } from '../time/day'

export type { CandidateRecord } from '@climber/contract'

/** The moment at which something is worked out: a date and a minute in the candidate's zone. */
export interface Moment {
  date: string
  minute: number
}

/** Days that a plan wants before it: what is sooner is taken by nobody who did not choose it. */
const leastDays = 28

/**
 * The sitting aimed at: the one chosen, or else the one that is planned for; without a plan the first far enough away that one
 * can still register for, or else the last of those that one can, or at least the first that is not over.
 */
export function sittingOf(
  { exam, target, plan }: Pick<CandidateRecord, 'exam' | 'target'> & { plan?: Pick<Plan, 'sitting'> },
  today: string,
): Sitting | undefined {
  const chosen = exam.sittings.find(({ id }) => id === target.sitting)
  if (chosen) return chosen
  const ahead = [...exam.sittings]
    .sort((a, b) => a.date.localeCompare(b.date))
    .filter(({ date }) => date >= today)
  const open = ahead.filter(({ registerBy }) => registerBy === undefined || registerBy >= today)
  const farEnough = dateOf(dayNumber(today) + leastDays)
  return (
    ahead.find(({ id }) => id === plan?.sitting) ??
    open.find(({ date }) => date >= farEnough) ??
    open[open.length - 1] ??
    ahead[0]
  )
}

/** Of several plans, each for its sitting: the one for the sitting chosen, or else the newest. */
export const planFor = <P extends Pick<Plan, 'sitting' | 'madeOn'>>(
  plans: P[],
  sitting: string | undefined,
): P | undefined =>
  plans.find((plan) => plan.sitting === sitting) ??
  [...plans].sort((a, b) => a.madeOn.localeCompare(b.madeOn)).pop()

/** What of a plan for another sitting stays true: what was done, or is being done. */
export const livedOf = (sessions: PlanSession[]): PlanSession[] =>
  sessions.filter(({ status }) => status === 'done' || status === 'running')

/** Everything planned and done: under this plan, and under those for other sittings. */
export const sessionsOf = ({ plan, before }: Pick<CandidateRecord, 'plan' | 'before'>): PlanSession[] => [
  ...before,
  ...(plan?.sessions ?? []),
]

/** The record with another plan; where that is for another sitting, what was lived under the old one stays with it. */
export function withPlan(record: CandidateRecord, plan: Plan): CandidateRecord {
  const old = record.plan
  if (!old || old.sitting === plan.sitting) return { ...record, plan }
  return {
    ...record,
    plan,
    before: [...record.before, ...livedOf(old.sessions)],
    taken: [...record.taken, ...old.sessions.map(({ id }) => id)],
  }
}

/** The day from which gains are counted: the diagnostic's, or the plan's, or today. */
export function startDate(record: CandidateRecord, today: string): string {
  const known = [diagnosticOf(record.attempts)?.date, record.plan?.madeOn, today].filter(
    (date) => date !== undefined,
  )
  return known.sort()[0]!
}
