import type { ExamFormat, Form, SimulationRequest, SimulationResult } from '@climber/contract'
import {
  type Asked,
  type Answered,
  type CandidateRecord,
  guessAdvice,
  guessMix,
  type Moment,
  OpenRecall,
  OpenRecord,
  paceCards,
  type QuestionName,
  readCommitments,
  readResponses,
  type ReadResponses,
  type RecallChange,
  type RecallStock,
  type RecallWish,
  simulation,
  trainingOf,
} from '@climber/core'
import { decode } from './decode'

/** Answers kept one by one with the diagnosis. */
const mostKept = 2000
/** Problems handed to the screen; the rest are counted. */
const mostShown = 500

/** Item responses from a file's bytes; `progress` hears the share read. */
function readResponsesFile(
  bytes: ArrayBuffer,
  exam: ExamFormat,
  form: Form | undefined,
  progress: (share: number) => void,
): ReadResponses & { more: number } {
  const { text, problems: undecoded } = decode(new Uint8Array(bytes))
  const read = readResponses(text, exam, form, progress)
  const problems = [...undecoded, ...(text || !undecoded.length ? read.problems : [])].sort(
    (a, b) => a.row - b.row,
  )
  return {
    rows: read.rows,
    problems: problems.slice(0, mostShown),
    more: Math.max(0, problems.length - mostShown),
    counted: undecoded.length ? undefined : read.counted,
    // Counts are what is worked with; the answers themselves are kept of any real test, not of a huge table.
    responses: undecoded.length || read.responses.length > mostKept ? [] : read.responses,
  }
}

/** Simulated sittings; `progress` hears the share done. */
function simulate(
  record: CandidateRecord,
  now: Moment,
  request: SimulationRequest,
  progress: (share: number) => void,
): SimulationResult {
  const run = simulation(record, now, request)
  let step = run.next()
  let told = 0
  for (; !step.done; step = run.next()) {
    if (step.value - told < 0.01) continue
    told = step.value
    progress(told)
  }
  return step.value
}

/** The record that the screens are open on. */
const held = new OpenRecord()
/** Its cards. */
const cards = new OpenRecall()

/** What is asked of the cards. */
export interface CardQuestions {
  view: []
  season: [wish?: RecallWish]
}
export type CardAnswer<N extends keyof CardQuestions> = ReturnType<OpenRecall[N]>

/** Everything that is asked of the core in a worker. */
export const answering = {
  open: (record: CandidateRecord) => held.open(record),
  openCards: (stock: RecallStock) => cards.open(stock),
  changeCards: (change: RecallChange) => cards.change(change),
  /** A question of the cards and the open record, after what changed of it. */
  askCards<N extends keyof CardQuestions>(
    name: N,
    now: Moment,
    asked: CardQuestions[N],
    changed: Partial<CandidateRecord> = {},
  ): CardAnswer<N> {
    if (Object.keys(changed).length) held.change(changed)
    return cards[name](held.now(), now, ...(asked as [])) as CardAnswer<N>
  },
  /** A question of the open record, after what changed of it. */
  ask<N extends QuestionName>(
    name: N,
    now: Moment,
    asked: Asked<N>,
    changed: Partial<CandidateRecord> = {},
  ): Answered<N> {
    if (Object.keys(changed).length) held.change(changed)
    return held.ask(name, now, ...asked)
  },
  guessAdvice,
  guessMix,
  paceCards,
  simulate,
  trainingOf,
  readCommitments,
  readResponsesFile,
}
export type CoreWorker = typeof answering
