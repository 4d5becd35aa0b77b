import { Attempt, ExamFormat, type PlanSession } from '@climber/contract'
import type { AttemptItemRow, AttemptRow, ExamRow, SessionRow } from '../models'

/**
 * Stored documents as they were written become what the core works with: defaults are filled in on reading and not in storing,
 * so that a file goes out as it came in.
 */
const mostExams = 20
const exams = new Map<string, ExamFormat>()

/** The exam format with its defaults; equal formats are read once. */
export function formatOf({ digest, document }: Pick<ExamRow, 'digest' | 'document'>): ExamFormat {
  const known = exams.get(digest)
  if (known) return known
  const format = ExamFormat.parse(document)
  if (exams.size >= mostExams) exams.clear()
  exams.set(digest, format)
  return format
}

export const attemptOf = (
  { document }: Pick<AttemptRow, 'document'>,
  items: Pick<AttemptItemRow, 'document'>[] = [],
): Attempt =>
  Attempt.parse({ ...document, ...(items.length && { items: items.map((item) => item.document) }) })

/** As it is stored and sent: plain JSON, nothing undefined. */
export const plainly = <T>(value: T): T => JSON.parse(JSON.stringify(value)) as T

/** A session's defaults are few and its rows many: they are filled in without the schema. */
export function sessionOf({ document }: Pick<SessionRow, 'document'>): PlanSession {
  const { kind } = document
  const hasTopics = kind === 'learn' || kind === 'drill' || kind === 'mixed' || kind === 'light'
  const defaults = {
    pinned: false,
    status: 'planned',
    ...(hasTopics && { topics: [] }),
    ...(kind === 'test' && { seen: false }),
  }
  return Object.assign(defaults, document)
}
