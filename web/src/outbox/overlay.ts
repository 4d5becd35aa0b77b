import type { Candidate, PlanSession, StoredAttempt, StoredPlan } from '@climber/contract'
import { inOrder, noteCommented, noteWith, type ReviewNote, withReport } from '@climber/contract'
import { isBaseline, sessionsAfter, sessionsSat } from '@climber/core'
import { actionOf, type Entry } from './entry'
import { withSessions } from './sessions'

/** A candidate as far as reports and attempts change it. */
export type Lived = Pick<Candidate, 'plan' | 'attempts' | 'review'>

/** Sessions as they will be; their versions are the server's to count. */
const asReported = (plan: StoredPlan | null, changed: PlanSession[]): StoredPlan | null =>
  withSessions(plan, changed, (old, found) => ({ ...found, version: old.version }))

function reported(lived: Lived, entry: Entry): Lived {
  const action = actionOf(entry, 'saveSession')
  const old = action && lived.plan?.sessions.find(({ id }) => id === action.params.sessionId)
  if (!old) return lived
  const { version: _, request: _r, ...report } = action.body
  return { ...lived, plan: asReported(lived.plan, [withReport(old, report)]) }
}

function saved(lived: Lived, entry: Entry): Lived {
  const attempt = actionOf(entry, 'saveAttempt')?.body.attempt as StoredAttempt | undefined
  if (!attempt || isBaseline(attempt)) return lived
  const old = lived.attempts.find(({ id }) => id === attempt.id)
  const session = attempt.session ?? old?.session
  const sat =
    lived.plan && (!old || !session)
      ? sessionsSat(lived.plan, { ...attempt, ...(session && { session }) })
      : []
  const others = lived.attempts.filter(({ id }) => id !== attempt.id)
  const linked = session ?? sat[0]?.id
  const now = { ...attempt, ...(linked && { session: linked }), version: old?.version ?? 0 }
  return { ...lived, plan: asReported(lived.plan, sat), attempts: inOrder([...others, now]) }
}

function deleted(lived: Lived, entry: Entry): Lived {
  const old = lived.attempts.find(({ id }) => id === actionOf(entry, 'deleteAttempt')?.params.attemptId)
  if (!old) return lived
  const open = lived.plan ? sessionsAfter(lived.plan, old) : []
  return {
    ...lived,
    plan: asReported(lived.plan, open),
    attempts: lived.attempts.filter((attempt) => attempt !== old),
  }
}

/** The note that an entry writes in, as it will be. */
function noteAfter(
  entry: Entry,
  noteOf: (attempt: string, item: number) => ReviewNote,
): ReviewNote | undefined {
  const note = actionOf(entry, 'noteItem')
  if (note) return noteWith(noteOf(note.params.attemptId, note.params.item), note.body.changes)
  const comment = actionOf(entry, 'commentItem')
  if (!comment) return undefined
  const { attemptId, item, commentId: id } = comment.params
  const { text } = comment.body
  return noteCommented(noteOf(attemptId, item), text === null ? { id, text } : { id, by: 'You', text })
}

function noted(lived: Lived, entry: Entry): Lived {
  const old = (attempt: string, item: number) =>
    lived.review.find((note) => note.attempt === attempt && note.item === item)
  const now = noteAfter(entry, (attempt, item) => old(attempt, item) ?? { attempt, item })
  if (!now) return lived
  const before = old(now.attempt, now.item)
  const others = lived.review.filter((note) => note !== before)
  return { ...lived, review: [...others, { ...now, version: before?.version ?? 0 }] }
}

const ways = [reported, saved, deleted, noted]

/** What is stored, with what waits to be sent on top: as the server will have it. The baseline is edited elsewhere. */
export const withWaiting = (stored: Lived, waiting: readonly Entry[]): Lived =>
  waiting.reduce((lived, entry) => ways.reduce((so, way) => way(so, entry), lived), stored)
