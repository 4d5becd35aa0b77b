import type { Attempt, NoteChanges, PlanSession, SessionReport, StoredSession } from '@climber/contract'
import { type Entry, lanes } from '../outbox/entry'
import type { Outbox } from '../outbox/outbox'

/** What a person says was done: it waits in the outbox, and shows at once. */
export function reports(
  outbox: () => Outbox,
  candidateId: () => string,
  titleOf: (of: PlanSession) => string,
) {
  return {
    /** Says what became of a session. */
    saveSession(session: StoredSession, change: Partial<SessionReport>): Promise<Entry> {
      const { id, version, status, minutesDone, startedAt, feeling, restMinutes } = session
      return outbox().put({
        route: 'saveSession',
        params: { candidateId: candidateId(), sessionId: id },
        body: { version, status, minutesDone, startedAt, feeling, restMinutes, ...change },
        lane: lanes.session(candidateId(), id),
        about: titleOf(session),
      })
    },
    /** Keeps something that was sat; the planned test that it was is done with it. */
    saveAttempt(attempt: Attempt, version: number): Promise<Entry> {
      return outbox().put({
        route: 'saveAttempt',
        params: { candidateId: candidateId(), attemptId: attempt.id },
        body: { version, attempt },
        lane: lanes.attempt(candidateId(), attempt.id),
        about: attempt.kind === 'drill' ? 'A timed set' : `The test of ${attempt.date ?? 'no day'}`,
      })
    },
    /** Writes into the note on one item. */
    noteItem(attemptId: string, item: number, changes: NoteChanges): Promise<Entry> {
      return outbox().put({
        route: 'noteItem',
        params: { candidateId: candidateId(), attemptId, item },
        body: { changes },
        lane: lanes.note(candidateId(), attemptId, item),
        about: `The note on item ${item}`,
      })
    },
    /** Says something of one item in its review; null takes it away. */
    commentItem(attemptId: string, item: number, commentId: string, text: string | null): Promise<Entry> {
      return outbox().put({
        route: 'commentItem',
        params: { candidateId: candidateId(), attemptId, item, commentId },
        body: { text },
        lane: lanes.note(candidateId(), attemptId, item),
        about: `What you say of item ${item}`,
      })
    },
    deleteAttempt(id: string): Promise<Entry> {
      return outbox().put({
        route: 'deleteAttempt',
        params: { candidateId: candidateId(), attemptId: id },
        body: {},
        lane: lanes.attempt(candidateId(), id),
        about: 'A test that was deleted',
      })
    },
  }
}
