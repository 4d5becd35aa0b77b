import type { Attempt } from './attempt'
import type { ExamFormat } from './exam'
import { partFrom, type PartDocument, type PartDocuments, type PartName, partNames } from './parts'
import type { Plan } from './plan'
import { nothingRecalled, type Recalled } from './recall'
import type { ReviewNote } from './review'
import type { PlanSession } from './session'

/** One candidate as the core sees it; the same on the server, in the browser, in the tests and in a file. */
export interface CandidateRecord extends PartDocuments {
  exam: ExamFormat
  /** Everything that was sat, oldest first. */
  attempts: Attempt[]
  /** What was found in review, by item. */
  review: ReviewNote[]
  /** What was brought back from memory, in short. */
  recalled: Recalled
  /** For the sitting aimed at. */
  plan?: Plan
  /** What was done under plans for other sittings, oldest first. */
  before: PlanSession[]
  /** Ids of all sessions of those plans; a session's id is its own for ever. */
  taken: string[]
}

/** A record from the parts there are, the rest with their defaults. Throws Zod's error where a part is not one. */
export function recordFrom(
  found: Pick<CandidateRecord, 'exam'> & {
    parts?: Partial<Record<PartName, unknown>>
    attempts?: Attempt[]
    review?: ReviewNote[]
    recalled?: Recalled
    plan?: Plan
    before?: PlanSession[]
    taken?: string[]
  },
): CandidateRecord {
  const documents: Partial<Record<PartName, PartDocument<PartName>>> = {}
  for (const part of partNames) documents[part] = partFrom(part, found.parts?.[part])
  return {
    ...(documents as PartDocuments),
    exam: found.exam,
    attempts: inOrder(found.attempts ?? []),
    review: found.review ?? [],
    recalled: found.recalled ?? nothingRecalled,
    plan: found.plan,
    before: found.before ?? [],
    taken: found.taken ?? [],
  }
}

/** Oldest first; of one day by id, so that the order is the same everywhere. A diagnostic without a day comes first. */
export const inOrder = <A extends Pick<Attempt, 'id' | 'date'>>(attempts: A[]): A[] =>
  [...attempts].sort((a, b) => (a.date ?? '').localeCompare(b.date ?? '') || a.id.localeCompare(b.id))
