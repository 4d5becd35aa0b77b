import type { Answer, Candidate, Params, StoredExam } from '@climber/contract'
import { addressOf, call, isPassing } from '../api'
import { confirmed, withLater } from './confirmed'
import { isOfCards } from './entry'
import type { Keeper } from './keeper'
import type { Settled } from './outbox'
import { confirmedDeck, type StoredDeck } from './recall'

/** Milliseconds for which an answer is waited for where one is kept. */
const patience = 4000

/** What is shown with the network off: the last answer of each of these routes. */
type Keepable = 'session' | 'listCandidates' | 'readCandidate' | 'listExams' | 'readExam' | 'readRecall'

/**
 * Asks the server and keeps its answer; where it does not answer, what was kept for the same user, with when that was. Throws
 * what the server says, and `ApiFailure` where nothing is kept.
 */
export async function askKept<N extends Keepable>(
  { keeper, user = '' }: { keeper: Keeper; user: string | undefined },
  name: N,
  params: Params<N>,
): Promise<{ answer: Answer<N>; keptAt?: string }> {
  const key = addressOf(name, params)
  const before = await keeper.answer(key)
  const kept = before?.user === user ? before : undefined
  const asked = new Date().toISOString()
  try {
    const answer = await call(name, params, undefined, kept && patience)
    // What was confirmed while this was on its way stands in what is kept, and perhaps not in this.
    const since = await keeper.answer(key)
    if (since?.user !== user || since.at <= asked)
      await keeper.keepAnswer(key, { user, at: asked, answer }).catch(() => undefined)
    return { answer }
  } catch (error) {
    if (!kept || !isPassing(error)) throw error
    return { answer: kept.answer as Answer<N>, keptAt: kept.at }
  }
}

/** Keeps what the server answered otherwise, as if it had been asked. */
export async function keepRead<N extends Keepable>(
  { keeper, user = '' }: { keeper: Keeper; user: string | undefined },
  name: N,
  params: Params<N>,
  answer: Answer<N>,
): Promise<void> {
  const at = new Date().toISOString()
  await keeper.keepAnswer(addressOf(name, params), { user, at, answer }).catch(() => undefined)
}

/** What the server confirmed, in what is kept to be shown: else a record opened offline would lack it. */
export async function keepConfirmed(keeper: Keeper, user: string, settled: Settled): Promise<void> {
  const { params, answer } = settled
  const at = new Date().toISOString()
  if (settled.route === 'saveFormat') {
    const exam = answer as StoredExam
    await keeper.keepAnswer(addressOf('readExam', { examId: exam.id }), { user, at, answer: exam })
  } else if ('candidateId' in params) {
    const { candidateId } = params
    const keep = async <T>(route: 'readCandidate' | 'readRecall', now: (kept: T) => T): Promise<void> => {
      const key = addressOf(route, { candidateId })
      const kept = await keeper.answer(key)
      if (kept?.user === user) await keeper.keepAnswer(key, { user, at, answer: now(kept.answer as T) })
    }
    await keep<Candidate>('readCandidate', (kept) => confirmed(withLater(kept), settled))
    if (isOfCards(settled)) await keep<StoredDeck>('readRecall', (kept) => confirmedDeck(kept, settled))
  }
}
