import type { SessionKind, SessionStatus } from '@climber/contract'

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

export const statusWords: Record<SessionStatus, string> = {
  planned: 'planned',
  running: 'running',
  done: 'done',
  slipped: 'slipped',
  skipped: 'skipped',
}
