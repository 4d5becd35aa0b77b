import type { CandidateRecord } from '@climber/contract'
import type { Answered, Asked, Moment, QuestionName } from '@climber/core'
import type { CardAnswer, CardQuestions } from './answering'
import { core } from './core'

let sent: CandidateRecord | undefined

/** What of a record is another object than what the worker has. */
function changedOf(record: CandidateRecord, before: CandidateRecord): Partial<CandidateRecord> {
  const keys = Object.keys(record) as (keyof CandidateRecord)[]
  return Object.fromEntries(
    keys.filter((key) => record[key] !== before[key]).map((key) => [key, record[key]]),
  )
}

/** What goes with the next question: what changed since the last one. Another record is opened before. */
function changesOf(record: CandidateRecord): Partial<CandidateRecord> {
  const changed = sent && sent.exam === record.exam ? changedOf(record, sent) : undefined
  if (!changed) void core().open(record)
  sent = record
  return changed ?? {}
}

/**
 * Asks the worker a question of the open record. With it goes what changed since the last one, and nothing else, in one
 * message; the worker answers in the order in which it is spoken to. Throws what the question throws.
 */
export async function ask<N extends QuestionName>(
  record: CandidateRecord,
  name: N,
  now: Moment,
  ...asked: Asked<N>
): Promise<Answered<N>> {
  // Comlink cannot say of a generic method what it answers.
  return (await core().ask(
    name,
    { date: now.date, minute: now.minute },
    asked as never,
    changesOf(record),
  )) as Answered<N>
}

/** The same of its cards, which the worker was told of before. */
export async function askCards<N extends keyof CardQuestions>(
  record: CandidateRecord,
  name: N,
  now: Moment,
  ...asked: CardQuestions[N]
): Promise<CardAnswer<N>> {
  return (await core().askCards(
    name,
    { date: now.date, minute: now.minute },
    asked as never,
    changesOf(record),
  )) as CardAnswer<N>
}
