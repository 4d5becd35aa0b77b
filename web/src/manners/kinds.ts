import type { PlanSession, SessionKind, SessionStatus, Unplaced } from '@climber/contract'
import { isWhole, timedSeconds } from '@climber/core'
import { dateWords } from './words'

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

/** How a change of the plan touched a session. */
export function changeWords({ changed, date, start }: PlanSession): string {
  if (!changed) return ''
  if (changed.how === 'new') return 'new'
  if (changed.how === 'other work') return 'other work than before'
  if (changed.date === date && changed.start === start) return 'another length than before'
  return changed.date === date
    ? `moved from ${changed.start}`
    : `moved from ${dateWords(changed.date!)}, ${changed.start}`
}
