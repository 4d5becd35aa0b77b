import type { CandidateRecord } from '@climber/contract'
import type { Answered, Asked, Moment, QuestionName } from '@climber/core'
import { core } from './core'

let sent: CandidateRecord | undefined

/** What of a record is another object than what the worker has. */
function changedOf(record: CandidateRecord, before: CandidateRecord): Partial<CandidateRecord> {
  const keys = Object.keys(record) as (keyof CandidateRecord)[]
  return Object.fromEntries(
    keys.filter((key) => record[key] !== before[key]).map((key) => [key, record[key]]),
  )
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
  const worker = core()
  const changed = sent && sent.exam === record.exam ? changedOf(record, sent) : undefined
  if (!changed) void worker.open(record)
  sent = record
  // Comlink cannot say of a generic method what it answers.
  return (await worker.ask(
    name,
    { date: now.date, minute: now.minute },
    asked as never,
    changed ?? {},
  )) as Answered<N>
}
