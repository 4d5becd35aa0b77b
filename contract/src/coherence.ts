import type { Counts, Diagnosis, PartName, Target } from './candidate'
import type { ExamFormat } from './exam'

/** Something in one part of a record that does not fit the exam format; `path` within that part. */
export interface Incoherence {
  path: (string | number)[]
  message: string
}

/** Counts by item group against the exam: known groups, and every item accounted for. */
export function countIssues(exam: ExamFormat, counts: Record<string, Counts>): Incoherence[] {
  const groups = new Map(exam.sections.flatMap(({ groups }) => groups.map(({ id, items }) => [id, items])))
  return Object.entries(counts).flatMap(([id, { right, wrong, blank }]) => {
    const items = groups.get(id)
    if (items === undefined) return [{ path: [id], message: `the exam has no item group ${id}` }]
    const sum = right + wrong + blank
    return sum === items
      ? []
      : [{ path: [id], message: `right, wrong and blank add up to ${sum}; the section has ${items} items` }]
  })
}

/** Ids that stand twice in a list. */
export function repeatedIds(list: { id: string }[] = []): Incoherence[] {
  const seen = new Set<string>()
  return list.flatMap(({ id }, row) => {
    const twice = seen.has(id)
    seen.add(id)
    return twice ? [{ path: [row, 'id'], message: `the id ${id} is used twice` }] : []
  })
}

export function diagnosisIssues(exam: ExamFormat, diagnosis: Diagnosis): Incoherence[] {
  const topics = new Set(exam.topics.map(({ id }) => id))
  return [
    ...countIssues(exam, diagnosis.sections).map(({ path, message }) => ({
      path: ['sections', ...path],
      message,
    })),
    ...Object.keys(diagnosis.topics)
      .filter((id) => !topics.has(id))
      .map((id) => ({ path: ['topics', id], message: `the exam has no topic ${id}` })),
    ...(diagnosis.form && !exam.forms.some(({ id }) => id === diagnosis.form)
      ? [{ path: ['form'], message: `the exam has no form ${diagnosis.form}` }]
      : []),
  ]
}

export function targetIssues(exam: ExamFormat, target: Target, today?: string): Incoherence[] {
  if (!target.sitting) return []
  const sitting = exam.sittings.find(({ id }) => id === target.sitting)
  if (!sitting) return [{ path: ['sitting'], message: `the exam has no sitting ${target.sitting}` }]
  return today && sitting.date < today
    ? [{ path: ['sitting'], message: `the sitting on ${sitting.date} is over; choose one after ${today}` }]
    : []
}

/** What of a part does not fit the exam; `today` also refuses what is over. */
export function partIssues(
  exam: ExamFormat,
  part: PartName,
  document: unknown,
  today: string,
): Incoherence[] {
  if (part === 'target') return targetIssues(exam, document as Target, today)
  if (part !== 'diagnosis') return []
  const diagnosis = document as Diagnosis
  const late =
    diagnosis.date && diagnosis.date > today
      ? [{ path: ['date'], message: `${diagnosis.date} is still to come` }]
      : []
  return [...diagnosisIssues(exam, diagnosis), ...late]
}
