import type { PlanSession, StudySession } from '@climber/contract'
import { byTime, isActive, isStudy, materialOf, startOf, topicsOf } from '../../sessions/session'
import { type Handed, handOut } from '../fill/handOut'
import { quotaMinutes } from '../../hours/shelf'
import type { PlanInput } from '../input'
import type { PlanDiff } from './diff'

/** Whether what a session works through may be chosen anew: its topic's own, still to come, fixed by nobody. */
const isHandable = (session: PlanSession, today: string): session is StudySession =>
  isStudy(session) &&
  session.status === 'planned' &&
  session.date >= today &&
  !session.pinned &&
  !session.remedy &&
  !session.timed &&
  session.topics.length === 1

/** From when on the reading of each topic goes on from elsewhere, in minutes: since a session was left out, moved, cut short or added. */
function disturbed({ added, moved, changed, dropped }: PlanDiff, lost: PlanSession[]): Map<string, number> {
  const from = new Map<string, number>()
  const mark = (session: PlanSession) => {
    const [lead, ...others] = topicsOf(session)
    if (lead !== undefined && !others.length)
      from.set(lead, Math.min(from.get(lead) ?? Infinity, startOf(session)))
  }
  const reads = (session: PlanSession) => Boolean(materialOf(session)?.pages)
  for (const session of added) mark(session)
  for (const { before, after } of changed) [before, after].forEach(mark)
  for (const { before, after } of moved) if (reads(before)) [before, after].forEach(mark)
  for (const session of [...dropped.map((one) => one.session), ...lost]) if (reads(session)) mark(session)
  return from
}

/**
 * What of the shelf the sessions of some topics work through, handed out anew in order of time: where one was left out, came later or was
 * added, those after it go on where the last ended. Those of other topics, and those before, keep theirs.
 */
export function handAnew(
  input: PlanInput,
  sessions: PlanSession[],
  diff: PlanDiff,
  lost: PlanSession[],
): PlanSession[] {
  const affected = disturbed(diff, lost)
  if (!input.shelf.length || !affected.size) return sessions
  const place = new Map(input.topics.map(({ id }, at) => [id, at]))
  const daily = quotaMinutes(input.shelf) > 0
  const own = sessions
    .filter((session) => isHandable(session, input.today))
    .filter((session) => startOf(session) >= (affected.get(topicsOf(session)[0] ?? '') ?? Infinity))
    // A bank's number a day stays what it is.
    .filter((session) => !(daily && (session as StudySession).material?.questions))
    .sort(byTime) as StudySession[]
  const ids = new Set(own.map(({ id }) => id))
  const kept = [...input.lived, ...sessions.filter((session) => !ids.has(session.id) && isActive(session))]
  const handed = own.map(({ topics, minutes, kind }): Handed => ({
    topics: topics.flatMap((id) => place.get(id) ?? []),
    minutes,
    kind: kind === 'mixed' ? 'drill' : kind,
  }))
  const materials = handOut(input.shelf, input.topics, handed, kept)
  const anew = new Map(
    own.map((session, at): [string, StudySession] => {
      const { material: _, ...rest } = session
      const material = materials[at]
      return [session.id, { ...rest, kind: handed[at]?.kind ?? session.kind, ...(material && { material }) }]
    }),
  )
  return sessions.map((session) => anew.get(session.id) ?? session)
}
