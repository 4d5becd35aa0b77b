import { againView } from './again'
import { compareSchools } from './compare'
import { explore } from './verdict'
import { levers } from './levers'
import { gap } from './gap'
import { groundsOf } from './guessing'
import type { CandidateRecord, Moment } from './moment'
import { overview } from './overview'
import { pacingView } from './pacing'
import { previewPlan } from './preview'
import { reasonsToMend } from './reasonsToMend'
import { replan } from './replan'
import { notebook, reviewView } from './review'
import { roomView } from './room'
import { testsSay } from './says'
import { testsTell } from './testsTell'
import { whereYouStand } from './whereYouStand'

/** Every question that a screen asks of a record, by its name; each is a file of this folder. */
const questions = {
  againView,
  compareSchools,
  explore,
  gap,
  groundsOf,
  levers,
  notebook,
  overview,
  pacingView,
  previewPlan,
  reasonsToMend,
  replan,
  reviewView,
  roomView,
  testsSay,
  testsTell,
  whereYouStand,
}
type Questions = typeof questions
export type QuestionName = keyof Questions
/** What is asked besides the record and the moment. */
export type Asked<N extends QuestionName> =
  Parameters<Questions[N]> extends [CandidateRecord, Moment, ...infer R] ? R : never
export type Answered<N extends QuestionName> = ReturnType<Questions[N]>
type Question<N extends QuestionName> = (
  record: CandidateRecord,
  now: Moment,
  ...rest: Asked<N>
) => Answered<N>
/** The same table, in the shape in which a name and its arguments go together. */
const named = questions as unknown as { [N in QuestionName]: Question<N> }

/**
 * The open record where questions are answered: in the browser's worker, so that a screen sends what changed and nothing else.
 * Parts that did not change stay the same objects, and what rests on them alone is remembered.
 */
export class OpenRecord {
  private record?: CandidateRecord

  /** Takes a record in place of the one before. */
  open(record: CandidateRecord): void {
    this.record = record
  }

  /** Takes what changed of it. */
  change(changed: Partial<CandidateRecord>): void {
    if (this.record) this.record = { ...this.record, ...changed }
  }

  /** The record as it stands; throws where none is open. */
  now(): CandidateRecord {
    if (!this.record) throw new Error('no record is open')
    return this.record
  }

  /** Throws `PlanProblem`, and an error where no record is open. */
  ask<N extends QuestionName>(name: N, now: Moment, ...asked: Asked<N>): Answered<N> {
    return named[name](this.now(), now, ...asked)
  }
}
