import type { Attempt, Counts } from './attempt'
import { allGroups, type ExamFormat, type ItemGroup } from './exam'
import { scaleOf } from './examRules'
import type { PartDocument, PartDocuments, PartName } from './parts'
import type { Ratings } from './ratings'
import type { Settings } from './settings'
import type { Target } from './target'

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

const groupsKnown = new WeakMap<ExamFormat, Map<string, ItemGroup>>()
/** The item groups of an exam by id; a file with thousands of attempts asks for them at each. */
function groupsOf(exam: ExamFormat): Map<string, ItemGroup> {
  const known = groupsKnown.get(exam)
  if (known) return known
  const groups = new Map(exam.sections.flatMap(allGroups).map((group) => [group.id, group]))
  groupsKnown.set(exam, groups)
  return groups
}

/** Counts by item group against the exam: known groups, and every item accounted for. */
export function countIssues(exam: ExamFormat, counts: Record<string, Counts>): Incoherence[] {
  const groups = groupsOf(exam)
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

/** How many items, at least and at most, are marked right or wrong, and the marks that written ones hold at most. */
export interface MarkingRoom {
  least: number
  most: number
  marks: number
}
export function roomOfSection({ groups, stages }: ExamFormat['sections'][number]): MarkingRoom {
  const ways = (stages ?? [{ groups: [] }]).map((stage) => [...groups, ...stage.groups])
  const marked = ways.map((way) =>
    way.reduce((sum, group) => sum + (group.kind === 'written' ? 0 : group.items), 0),
  )
  const marks = ways.map((way) =>
    way.reduce((sum, group) => sum + (group.kind === 'written' ? group.items * group.perRight : 0), 0),
  )
  return { least: Math.min(...marked), most: Math.max(...marked), marks: Math.max(...marks) }
}
function against({ least, most, marks }: MarkingRoom, counts: Counts, what: string): string | undefined {
  const sum = counts.right + counts.wrong + counts.blank
  const items = least === most ? `${most}` : `${least} to ${most}`
  if (sum < least || sum > most)
    return `right, wrong and blank add up to ${sum}; ${what} has ${items} items to mark`
  if (marks && counts.marks === undefined) return `write the marks of the written answers, of ${marks}`
  if ((counts.marks ?? 0) > marks)
    return marks ? `${counts.marks} marks; at most ${marks} can be had` : 'nothing here is marked in marks'
  return undefined
}

/** Counts by section and in all against the exam: every item accounted for, whoever got which. */
export function totalIssues(
  exam: ExamFormat,
  {
    total,
    sections = {},
    groups = {},
  }: Pick<Attempt['counts'], 'total' | 'sections'> & {
    groups?: Attempt['counts']['groups']
  },
): Incoherence[] {
  const rooms = new Map(exam.sections.map((section) => [section.id, roomOfSection(section)]))
  const bySection = Object.entries(sections).flatMap(([id, own]) => {
    const room = rooms.get(id)
    if (!room) return [{ path: ['sections', id], message: `the exam has no section ${id}` }]
    const message = against(room, own, 'the section')
    return message ? [{ path: ['sections', id], message }] : []
  })
  const whole = [...rooms.values()].reduce((sum, room) => ({
    least: sum.least + room.least,
    most: sum.most + room.most,
    marks: sum.marks + room.marks,
  }))
  const message = total && (against(whole, total, 'the exam') ?? besides(exam, total, { sections, groups }))
  return [...bySection, ...(message ? [{ path: ['total'], message }] : [])]
}

/** What a total says against the sections of which more is known: it cannot hold fewer of a kind than they do. */
function besides(
  exam: ExamFormat,
  total: Counts,
  { sections, groups }: Required<Pick<Attempt['counts'], 'sections' | 'groups'>>,
): string | undefined {
  const known = exam.sections.flatMap((section) => {
    const marked = allGroups(section).flatMap(({ id, kind }) =>
      kind !== 'written' && groups[id] ? [groups[id]] : [],
    )
    const own = sections[section.id]
    return own ? [own] : marked
  })
  for (const field of ['right', 'wrong', 'blank'] as const) {
    const sum = known.reduce((all, one) => all + one[field], 0)
    if (sum > total[field]) return `${total[field]} ${field} in all; the sections alone have ${sum}`
  }
  return undefined
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

/** Items of what was sat that have a note more than once. */
export function repeatedNotes(notes: { attempt: string; item: number }[] = []): Incoherence[] {
  const named = notes.map(({ attempt, item }) => ({ id: `item ${item} of ${attempt}` }))
  return repeatedIds(named).map(({ path: [row = 0] }) => ({
    path: [row, 'item'],
    message: `${named[Number(row)]!.id} has a note already`,
  }))
}

const late = (date: string | undefined, today: string | undefined): Incoherence[] =>
  date && today && date > today ? [{ path: ['date'], message: `${date} is still to come` }] : []

/** Names in `ids` that the exam does not have. */
const unknown = (
  ids: Iterable<string>,
  has: Iterable<{ id: string }>,
  what: string,
  path: Incoherence['path'],
): Incoherence[] => {
  const asked = [...ids]
  if (!asked.length) return []
  const there = new Set([...has].map(({ id }) => id))
  return asked
    .filter((id) => !there.has(id))
    .map((id) => ({ path: [...path, id], message: `the exam has no ${what} ${id}` }))
}

/** Something coarser than item groups tells of a section: its own total, its topics, or a total of all. */
const knownCoarsely = (exam: ExamFormat, section: string, { total, sections, topics }: Attempt['counts']) =>
  Boolean(total) ||
  Boolean(sections?.[section]) ||
  exam.topics.some((topic) => topic.section === section && topics[topic.id])

/**
 * What of an attempt does not fit the exam. `today` also refuses what is still to come; `whole` asks that a practice test has
 * counts of every section, at whatever level, and a form that there is, as one that is logged has. A set, a drill, a retest and a single
 * section are parts: their counts need not add up to a paper.
 */
export function attemptIssues(
  exam: ExamFormat,
  attempt: Attempt,
  { today, whole = false }: { today?: string; whole?: boolean } = {},
): Incoherence[] {
  const { kind, counts, form, scope } = attempt
  const paper = kind !== 'set' && kind !== 'drill' && kind !== 'retest'
  const under = (path: Incoherence['path'], issues: Incoherence[]): Incoherence[] =>
    issues.map((issue) => ({ ...issue, path: [...path, ...issue.path] }))
  const missing =
    whole && kind === 'practice' && !scope
      ? exam.sections.flatMap((section) =>
          section.groups
            .filter(({ id }) => !counts.groups[id] && !knownCoarsely(exam, section.id, counts))
            .map(({ id }) => ({
              path: ['counts', 'groups', id],
              message: `the counts of ${section.title} are missing`,
            })),
        )
      : []
  return [
    ...late(attempt.date, today),
    ...(paper && !scope ? under(['counts'], totalIssues(exam, counts)) : []),
    ...(paper
      ? under(['counts', 'groups'], countIssues(exam, counts.groups))
      : unknown(Object.keys(counts.groups), groupsOf(exam).values(), 'item group', ['counts', 'groups'])),
    ...unknown(Object.keys(counts.topics), exam.topics, 'topic', ['counts', 'topics']),
    ...(paper && !scope
      ? []
      : unknown(Object.keys(counts.sections ?? {}), exam.sections, 'section', ['counts', 'sections'])),
    ...(form && (whole || kind === 'diagnostic') && !exam.forms.some(({ id }) => id === form)
      ? [{ path: ['form'], message: `the exam has no form ${form}` }]
      : []),
    ...(whole
      ? [
          ...unknown(scope?.sections ?? [], exam.sections, 'section', ['scope', 'sections']),
          ...unknown(scope?.groups ?? [], groupsOf(exam).values(), 'item group', ['scope', 'groups']),
          ...unknown(scope?.topics ?? [], exam.topics, 'topic', ['scope', 'topics']),
        ]
      : []),
    ...missing,
  ]
}

export function targetIssues(exam: ExamFormat, target: Target, today?: string): Incoherence[] {
  const sitting = exam.sittings.find(({ id }) => id === target.sitting)
  const [low, high] = scaleOf(exam) ?? [-Infinity, Infinity]
  const { scaled } = target
  return [
    ...(scaled !== undefined && (scaled < low - 1e-9 || scaled > high + 1e-9)
      ? [
          {
            path: ['scaled'],
            message: `the scores of this exam run from ${Number(low.toFixed(6))} to ${Number(high.toFixed(6))}`,
          },
        ]
      : []),
    ...(target.places ?? []).flatMap((place, row) =>
      unknown(Object.keys(place.weights ?? {}), exam.sections, 'section', ['places', row, 'weights']),
    ),
    ...(target.sitting && !sitting
      ? [{ path: ['sitting'], message: `the exam has no sitting ${target.sitting}` }]
      : []),
    ...(sitting && today && sitting.date < today
      ? [
          {
            path: ['sitting'],
            message: `the sitting on ${sitting.date} is over; choose one after ${today}`,
          },
        ]
      : []),
  ]
}

export const settingsIssues = (exam: ExamFormat, { accommodation }: Settings): Incoherence[] =>
  accommodation && !exam.accommodations?.some(({ id }) => id === accommodation)
    ? [{ path: ['accommodation'], message: `the exam has no accommodation ${accommodation}` }]
    : []

const ratingsIssues = (exam: ExamFormat, { topics }: Ratings): Incoherence[] =>
  unknown(Object.keys(topics), exam.topics, 'topic', ['topics'])

type Check<P extends PartName> = (
  exam: ExamFormat,
  document: PartDocument<P>,
  today?: string,
) => Incoherence[]
/** What of each part can stand against an exam format; a part that is not here names nothing of it. */
const checks: { [P in PartName]?: Check<P> } = {
  target: targetIssues,
  settings: settingsIssues,
  ratings: ratingsIssues,
}

/** What of a part does not fit the exam; `today` also refuses what is over. */
export const partIssues = <P extends PartName>(
  exam: ExamFormat,
  part: P,
  document: PartDocument<P>,
  today?: string,
): Incoherence[] => (checks[part] as Check<P> | undefined)?.(exam, document, today) ?? []

/** The same of all parts that a file has, with the part's name in front of each path. */
export const fileIssues = (exam: ExamFormat, documents: Partial<PartDocuments>): Incoherence[] =>
  (Object.keys(checks) as PartName[]).flatMap((part) => {
    const document = documents[part]
    return document === undefined
      ? []
      : partIssues(exam, part, document).map(({ path, message }) => ({ path: [part, ...path], message }))
  })
