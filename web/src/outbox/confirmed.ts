import { type Answer, type Candidate, PartName, type StoredPart, type StoredSession } from '@climber/contract'
import { byTime } from '@climber/core'
import type { Settled } from './outbox'

/** Whether what the server answered is not older than what is known. */
const isNews = (known: { version: number } | undefined, answer: { version: number }): boolean =>
  !known || answer.version >= known.version

function withSessions({ plan, ...candidate }: Candidate, changed: StoredSession[]): Candidate {
  const by = new Map(changed.map((session) => [session.id, session]))
  const sessions = plan?.sessions
    .map((old) => {
      const found = by.get(old.id)
      return found && isNews(old, found) ? found : old
    })
    .sort(byTime)
  return { ...candidate, plan: plan && { ...plan, sessions: sessions ?? [] } }
}

/** A candidate as it was read, with what the server confirmed since. */
export function confirmed(stored: Candidate, { route, params, answer }: Settled): Candidate {
  if (!('candidateId' in params) || params.candidateId !== stored.id) return stored
  if (route === 'savePart' && 'part' in params) {
    const part = PartName.parse(params.part)
    const now = answer as StoredPart
    return isNews(stored.parts[part], now) ? { ...stored, parts: { ...stored.parts, [part]: now } } : stored
  }
  if (route === 'saveSession') return withSessions(stored, [answer as StoredSession])
  if (route === 'saveAttempt') {
    const { attempt, sessions } = answer as Answer<'saveAttempt'>
    const old = stored.attempts.find(({ id }) => id === attempt.id)
    const others = stored.attempts.filter((one) => one !== old)
    return withSessions(
      { ...stored, attempts: [...others, isNews(old, attempt) ? attempt : (old ?? attempt)] },
      sessions,
    )
  }
  if (route === 'deleteAttempt' && 'attemptId' in params) {
    const { sessions } = answer as Answer<'deleteAttempt'>
    const attempts = stored.attempts.filter(({ id }) => id !== params.attemptId)
    return withSessions({ ...stored, attempts }, sessions)
  }
  return stored
}
