import type { PlanSession, SessionKind, SessionStatus, Unplaced } from '@climber/contract'
import { isWhole, timedSeconds } from '@climber/core'

/** The word for each kind of session; its texture is in theme/kinds.css. */
export const kindWords: Record<SessionKind, string> = {
  learn: 'Learn',
  drill: 'Drill',
  mixed: 'Mixed',
  test: 'Test',
  review: 'Review',
  retest: 'Retest',
  light: 'Light',
  errand: 'Errand',
}

/** The word for a session: its kind's, or what is said of one under the clock that is no whole test. */
export const kindWord = (session: PlanSession | Unplaced): string => {
  if (session.kind === 'test') return isWhole(session) ? kindWords.test : 'Section'
  return timedSeconds(session) === undefined ? kindWords[session.kind] : 'Timed'
}

export const statusWords: Record<SessionStatus, string> = {
  planned: 'planned',
  running: 'running',
  done: 'done',
  slipped: 'slipped',
  skipped: 'skipped',
}
