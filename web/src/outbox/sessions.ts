import type { PlanSession, StoredPlan, StoredSession } from '@climber/contract'
import { byTime } from '@climber/core'

/** A plan with sessions changed: `take` says what stands in the place of one for which there is another of its id. */
export function withSessions<S extends PlanSession>(
  plan: StoredPlan | null,
  changed: S[],
  take: (old: StoredSession, found: S) => StoredSession,
): StoredPlan | null {
  if (!plan || !changed.length) return plan
  const by = new Map(changed.map((session) => [session.id, session]))
  const sessions = plan.sessions.map((old) => {
    const found = by.get(old.id)
    return found ? take(old, found) : old
  })
  return { ...plan, sessions: sessions.sort(byTime) }
}
