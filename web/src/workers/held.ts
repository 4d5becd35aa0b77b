import type { CandidateRecord } from '@climber/contract'
import type { Answered, Asked, Moment, QuestionName } from '@climber/core'
import type { CardAnswer, CardQuestions } from './answering'
import { beside, core } from './core'

/** What of a record is another object than what the worker has. */
function changedOf(record: CandidateRecord, before: CandidateRecord): Partial<CandidateRecord> {
  const keys = Object.keys(record) as (keyof CandidateRecord)[]
  return Object.fromEntries(
    keys.filter((key) => record[key] !== before[key]).map((key) => [key, record[key]]),
  )
}

/** A worker and the record that it was sent last. With a question goes what changed since then, and nothing else, in one message. */
class Holder {
  private sent?: CandidateRecord
  constructor(readonly worker: typeof core) {}

  /** What goes with the next question. Another record is opened before. */
  changesOf(record: CandidateRecord): Partial<CandidateRecord> {
    const { sent } = this
    const changed = sent && sent.exam === record.exam ? changedOf(record, sent) : undefined
    if (!changed) void this.worker().open(record)
    this.sent = record
    return changed ?? {}
  }
  /** Throws what the question throws; the worker answers in the order in which it is spoken to. */
  async ask<N extends QuestionName>(
    record: CandidateRecord,
    name: N,
    { date, minute }: Moment,
    asked: Asked<N>,
  ): Promise<Answered<N>> {
    // Comlink cannot say of a generic method what it answers.
    return (await this.worker().ask(
      name,
      { date, minute },
      asked as never,
      this.changesOf(record),
    )) as Answered<N>
  }
}
const shown = new Holder(core)
const tried = new Holder(beside)

/** Asks the worker a question of the open record. */
export const ask = <N extends QuestionName>(
  record: CandidateRecord,
  name: N,
  now: Moment,
  ...asked: Asked<N>
): Promise<Answered<N>> => shown.ask(record, name, now, asked)

/** The same where plans are tried out: what takes longer than a person waits for a field. */
export const askBeside = <N extends QuestionName>(
  record: CandidateRecord,
  name: N,
  now: Moment,
  ...asked: Asked<N>
): Promise<Answered<N>> => tried.ask(record, name, now, asked)

/** A question of the record's cards, which the worker was told of before. */
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
    shown.changesOf(record),
  )) as CardAnswer<N>
}
