import { type Candidate, type CandidateRecord, recordFrom } from '../src'

/** The record in a candidate as the server answers it, every part as it is stored. */
export const recordIn = (candidate: Candidate): CandidateRecord =>
  recordFrom({
    exam: candidate.exam,
    parts: Object.fromEntries(
      Object.entries(candidate.parts).map(([part, stored]) => [part, stored?.document]),
    ),
    attempts: candidate.attempts,
    review: candidate.review,
    recalled: candidate.recalled,
    plan: candidate.plan ?? undefined,
    before: candidate.before,
    taken: candidate.taken,
  })
