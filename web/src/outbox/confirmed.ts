import {
  type Answer,
  type Candidate,
  nothingRecalled,
  PartName,
  type StoredNote,
  type StoredPart,
  type StoredSession,
} from '@climber/contract'
import { recalledAfter } from '@climber/core'
import type { Settled } from './outbox'
import { withSessions } from './sessions'

/** Whether what the server answered is not older than what is known. */
const isNews = (known: { version: number } | undefined, answer: { version: number }): boolean =>
  !known || answer.version >= known.version

const withNews = (candidate: Candidate, changed: StoredSession[]): Candidate => ({
  ...candidate,
  plan: withSessions(candidate.plan, changed, (old, found) => (isNews(old, found) ? found : old)),
})

/** A candidate as it is kept in this browser, perhaps since before there were reviews and recall. */
export const withLater = (
  kept: Omit<Candidate, 'review' | 'recalled'> & Partial<Pick<Candidate, 'review' | 'recalled'>>,
): Candidate => ({
  ...kept,
  review: kept.review ?? [],
  recalled: kept.recalled ?? nothingRecalled,
})

/** A candidate as it was read, with what the server confirmed since. */
export function confirmed(stored: Candidate, { route, params, answer }: Settled): Candidate {
  if (!('candidateId' in params) || params.candidateId !== stored.id) return stored
  if (route === 'savePart' && 'part' in params) {
    const part = PartName.parse(params.part)
    const now = answer as StoredPart
    return isNews(stored.parts[part], now) ? { ...stored, parts: { ...stored.parts, [part]: now } } : stored
  }
  if (route === 'saveSession') return withNews(stored, [answer as StoredSession])
  if (route === 'saveAttempt') {
    const { attempt, sessions } = answer as Answer<'saveAttempt'>
    const old = stored.attempts.find(({ id }) => id === attempt.id)
    const others = stored.attempts.filter((one) => one !== old)
    return withNews(
      { ...stored, attempts: [...others, isNews(old, attempt) ? attempt : (old ?? attempt)] },
      sessions,
    )
  }
  if (route === 'deleteAttempt' && 'attemptId' in params) {
    const { sessions } = answer as Answer<'deleteAttempt'>
    const attempts = stored.attempts.filter(({ id }) => id !== params.attemptId)
    return withNews({ ...stored, attempts }, sessions)
  }
  if (route === 'saveCards' || route === 'answerCards') {
    const { recalled } = answer as Answer<'answerCards'>
    return { ...stored, recalled: recalledAfter(stored.recalled, recalled) }
  }
  if (route === 'noteItem' || route === 'commentItem') {
    const note = answer as StoredNote
    const old = stored.review.find(({ attempt, item }) => attempt === note.attempt && item === note.item)
    if (!isNews(old, note)) return stored
    return { ...stored, review: [...stored.review.filter((one) => one !== old), note] }
  }
  return stored
}
