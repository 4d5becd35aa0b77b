import type { PlanSession } from '@climber/contract'
import { formOfSession, materialOf, topicsOf } from '../../sessions/session'

/** What a re-plan would change. Sessions before and after share their id. */
export interface PlanDiff {
  moved: { before: PlanSession; after: PlanSession }[]
  /** Sessions that stay where they are and hold something else. */
  changed: { before: PlanSession; after: PlanSession }[]
  added: PlanSession[]
  dropped: { session: PlanSession; why: string }[]
  /** Planned sessions that stay as they are. */
  kept: number
}

const isUndone = ({ status }: PlanSession): boolean => status === 'planned' || status === 'slipped'
const movedFrom = (old: PlanSession, now: PlanSession): boolean =>
  old.date !== now.date || old.start !== now.start || old.minutes !== now.minutes
/** The same work: what a person would call the same session. */
const sameWork = (old: PlanSession, now: PlanSession): boolean =>
  old.kind === now.kind &&
  formOfSession(old) === formOfSession(now) &&
  topicsOf(old).join() === topicsOf(now).join() &&
  materialOf(old)?.text === materialOf(now)?.text

/** What took exactly the place of something that was dropped is told as one change. */
function paired({ added, dropped, changed, ...rest }: PlanDiff): PlanDiff {
  const places = new Map(added.map((session) => [`${session.date} ${session.start}`, session]))
  const taken = new Set<PlanSession>()
  const left = dropped.filter(({ session }) => {
    const place = `${session.date} ${session.start}`
    const instead = session.status === 'planned' ? places.get(place) : undefined
    if (!instead) return true
    places.delete(place)
    taken.add(instead)
    changed.push({ before: session, after: instead })
    return false
  })
  return { ...rest, changed, added: added.filter((session) => !taken.has(session)), dropped: left }
}

/** What differs between two plans, session by session. */
export function diffPlans(
  before: PlanSession[],
  after: PlanSession[],
  reasons = new Map<string, string>(),
): PlanDiff {
  const waiting = new Map(before.map((session) => [session.id, session]))
  const diff: PlanDiff = { moved: [], changed: [], added: [], dropped: [], kept: 0 }
  for (const session of after) {
    const old = waiting.get(session.id)
    waiting.delete(session.id)
    if (!old) diff.added.push(session)
    else if (isUndone(old) && session.status === 'skipped')
      diff.dropped.push({ session: old, why: reasons.get(old.id) ?? 'No place was left for it.' })
    else if (session.status !== 'planned') continue
    else if (movedFrom(old, session)) diff.moved.push({ before: old, after: session })
    else if (!sameWork(old, session)) diff.changed.push({ before: old, after: session })
    else diff.kept++
  }
  for (const old of waiting.values())
    diff.dropped.push({
      session: old,
      why: reasons.get(old.id) ?? 'The plan holds something else in its place.',
    })
  return paired(diff)
}

/** Whether a diff holds anything to accept. */
export const isNothing = ({ moved, changed, added, dropped }: PlanDiff): boolean =>
  !moved.length && !changed.length && !added.length && !dropped.length
