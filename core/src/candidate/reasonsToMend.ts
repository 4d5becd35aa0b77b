import { remediesOpen } from '../plan/around/remedial'
import { budgetsMoved } from '../plan/mend/beliefs'
import { noLongerFree } from '../plan/mend/fits'
import { followsOf, isOpen, waits } from '../sessions/session'
import { restsOpen } from '../sessions/rest'
import { assess } from './assessment'
import type { CandidateRecord, Moment } from './moment'
import { planInput } from './planInput'

/** What a re-plan would see to, as counts of sessions; and the topics that are to have more or less than the plan gives them. */
export interface ReasonsToMend {
  /** Work that slipped of late and waits for a place. */
  slipped: number
  /** Sessions done in part whose rest waits for one. */
  rests: number
  /** Sessions ahead that stand where there is no free time any more. */
  clashes: number
  /** Reviews and retests ahead whose test is not sat. */
  orphans: number
  /** Sets that a review asks for and that stand nowhere yet. */
  remedies: number
  /** Titles of topics whose hours should be other than when the plan was made, since something came to light: most moved first. */
  more: string[]
  less: string[]
}

/** Why a plan should be mended; undefined without a plan for the sitting aimed at, or with no reason. */
export function reasonsToMend(record: CandidateRecord, now: Moment): ReasonsToMend | undefined {
  const { plan } = record
  if (!plan) return undefined
  const assessment = assess(record, now)
  if (assessment.sitting?.id !== plan.sitting || assessment.sitting.date <= now.date) return undefined
  const input = planInput(assessment, assessment.sitting, plan.seed)
  const { sessions } = plan
  const lived = [...input.lived, ...sessions]
  const unsat = new Set(
    lived.filter((one) => one.kind === 'test' && one.status === 'skipped').map(({ id }) => id),
  )
  const known = new Set(lived.map(({ id }) => id))
  const size = (ratio: number) => Math.max(ratio, 1 / ratio)
  const moved = [...budgetsMoved(input, plan)].sort(([, a], [, b]) => size(b) - size(a) || 0)
  const titles = new Map(input.topics.map(({ id, title }) => [id, title]))
  const titled = (which: (ratio: number) => boolean) =>
    moved.filter(([, ratio]) => which(ratio)).map(([id]) => titles.get(id)!)
  const found: ReasonsToMend = {
    slipped: sessions.filter((one) => waits(one, now.date)).length,
    rests: restsOpen(sessions, now.date).length,
    clashes: noLongerFree(input, sessions).length,
    orphans: sessions.filter((one) => {
      const of = isOpen(one, now.date) && !one.pinned ? followsOf(one) : undefined
      return of !== undefined && (unsat.has(of) || !known.has(of))
    }).length,
    remedies: remediesOpen(input, lived).length,
    more: titled((ratio) => ratio > 1),
    less: titled((ratio) => ratio < 1),
  }
  return Object.values(found).some((one) => (typeof one === 'number' ? one > 0 : one.length))
    ? found
    : undefined
}
