import type { Counts, Diagnosis, PartName, Settings, Target } from './candidate'
import { allGroups, type ExamFormat, type ItemGroup } from './exam'

/** Something in one part of a record that does not fit the exam format; `path` within that part. */
export interface Incoherence {
  path: (string | number)[]
  message: string
}

const written = (group: ItemGroup, { right, wrong, blank, marks }: Counts): string | undefined => {
  const most = (group.items - blank) * group.perRight
  if (right || wrong || marks === undefined) return 'written answers are counted in marks'
  if (blank > group.items) return `${blank} blank; there are ${group.items} items`
  return marks > most ? `${marks} marks; at most ${most} can be had` : undefined
}

/** Counts by item group against the exam: known groups, and every item accounted for. */
export function countIssues(exam: ExamFormat, counts: Record<string, Counts>): Incoherence[] {
  const groups = new Map(exam.sections.flatMap(allGroups).map((group) => [group.id, group]))
  return Object.entries(counts).flatMap(([id, own]) => {
    const group = groups.get(id)
    if (!group) return [{ path: [id], message: `the exam has no item group ${id}` }]
    if (group.kind === 'written') {
      const message = written(group, own)
      return message ? [{ path: [id], message }] : []
    }
    const sum = own.right + own.wrong + own.blank
    return sum === group.items
      ? []
      : [
          {
            path: [id],
            message: `right, wrong and blank add up to ${sum}; the section has ${group.items} items`,
          },
        ]
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
    ...diagnosis.earlier.flatMap((test, row) => [
      ...countIssues(exam, test.sections).map(({ path, message }) => ({
        path: ['earlier', row, 'sections', ...path],
        message,
      })),
      ...Object.keys(test.topics)
        .filter((id) => !topics.has(id))
        .map((id) => ({ path: ['earlier', row, 'topics', id], message: `the exam has no topic ${id}` })),
    ]),
    ...repeatedIds(diagnosis.earlier).map(({ path, message }) => ({ path: ['earlier', ...path], message })),
  ]
}

export function targetIssues(exam: ExamFormat, target: Target, today?: string): Incoherence[] {
  const issues: Incoherence[] = []
  const issue = (path: Incoherence['path'], message: string) => issues.push({ path, message })
  const sections = new Set(exam.sections.map(({ id }) => id))
  target.places?.forEach((place, row) =>
    Object.keys(place.weights ?? {}).forEach((id) => {
      if (!sections.has(id)) issue(['places', row, 'weights', id], `the exam has no section ${id}`)
    }),
  )
  const sitting = exam.sittings.find(({ id }) => id === target.sitting)
  if (target.sitting && !sitting) issue(['sitting'], `the exam has no sitting ${target.sitting}`)
  if (sitting && today && sitting.date < today)
    issue(['sitting'], `the sitting on ${sitting.date} is over; choose one after ${today}`)
  return issues
}

export const settingsIssues = (exam: ExamFormat, { accommodation }: Settings): Incoherence[] =>
  accommodation && !exam.accommodations?.some(({ id }) => id === accommodation)
    ? [{ path: ['accommodation'], message: `the exam has no accommodation ${accommodation}` }]
    : []

/** What of a part does not fit the exam; `today` also refuses what is over. */
export function partIssues(
  exam: ExamFormat,
  part: PartName,
  document: unknown,
  today?: string,
): Incoherence[] {
  if (part === 'target') return targetIssues(exam, document as Target, today)
  if (part === 'settings') return settingsIssues(exam, document as Settings)
  if (part !== 'diagnosis') return []
  const diagnosis = document as Diagnosis
  const late = (date: string | undefined, path: Incoherence['path']) =>
    date && today && date > today ? [{ path, message: `${date} is still to come` }] : []
  return [
    ...diagnosisIssues(exam, diagnosis),
    ...late(diagnosis.date, ['date']),
    ...diagnosis.earlier.flatMap(({ date }, row) => late(date, ['earlier', row, 'date'])),
  ]
}
