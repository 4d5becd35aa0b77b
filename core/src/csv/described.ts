import type { ExamFormat, ItemGroup, Topic } from '@climber/contract'
import { readTopicLines } from './topics'
import { readConversion } from './tables'
import { endsEarly } from '../scoring/conversion'
import { highestRaw, lowestRaw } from '../scoring/raw'
import { makeSum } from '../exam/shares'
import { slugOf } from '../exam/slug'

/** What an exam's own page says of it, as somebody types it who wants a plan tonight; the rest of the format can wait. */
export interface DescribedExam {
  title: string
  /** How results are told: as marks, in per cent, or on a scale of each section. */
  told: 'marks' | 'percent' | 'scale'
  /** Ends of the scale, where results are told on one. */
  low?: number
  high?: number
  /** Pass mark of the whole. */
  pass?: number
  /** How the whole is made of several sections. */
  whole: 'added' | 'averaged'
  sections: DescribedSection[]
  sittings: { date?: string; start?: string; registerBy?: string }[]
}

export interface DescribedSection {
  title: string
  minutes?: number
  /** Minutes between it and the next. */
  breakAfter?: number
  kinds: DescribedKind[]
  /** What it must reach by itself. */
  cut?: number
  /** How much it weighs in the whole; 1 when absent. */
  weight?: number
  /** Raw and scaled scores, a line each. */
  table?: string
  /** Topics, a line each, with their shares where they are known. */
  topics: string
  topicsAs?: 'per cent' | 'items'
}

/** Items of one kind in a section. */
export interface DescribedKind {
  kind: ItemGroup['kind']
  items?: number
  choices?: number
  perRight?: number
  perWrong?: number
  /** Items that share a text or a drawing. */
  inSet?: number
}

/** Something that keeps the description from being an exam, by the path of its field. */
export interface DescriptionProblem {
  field: string
  message: string
}

export const blankSection = (like?: DescribedSection): DescribedSection => ({
  title: '',
  kinds: [
    { kind: 'choice', choices: 4, perRight: 1, perWrong: 0, ...(like?.kinds[0] && { ...like.kinds[0] }) },
  ],
  topics: '',
})

export const blankDescription = (): DescribedExam => ({
  title: '',
  told: 'marks',
  whole: 'added',
  sections: [blankSection()],
  sittings: [{ start: '09:00' }],
})

/** The title that a section goes by where nobody gave it one. */
export const sectionTitle = ({ sections }: Pick<DescribedExam, 'sections'>, at: number): string =>
  sections[at]?.title.trim() || (sections.length === 1 ? 'The paper' : `Section ${at + 1}`)

/** The step that all marks are multiples of: 1, a half, a quarter, or a hundredth. */
function stepOf(groups: Pick<ItemGroup, 'perRight' | 'perWrong'>[]): number {
  const marks = groups.flatMap(({ perRight, perWrong }) => [perRight, perWrong])
  return [1, 0.5, 0.25].find((step) => marks.every((mark) => Number.isInteger(mark / step))) ?? 0.01
}

function conversionOf(
  { told, low = 0, high = 100 }: DescribedExam,
  groups: ItemGroup[],
  table: string | undefined,
): ExamFormat['sections'][number]['conversion'] {
  const full = highestRaw({ groups } as ExamFormat['sections'][number])
  const least = lowestRaw({ groups } as ExamFormat['sections'][number])
  if (told === 'marks')
    return {
      points: [
        [least, least],
        [full, full],
      ],
      step: stepOf(groups),
    }
  if (told === 'percent')
    return {
      points: [
        [0, 0],
        [full, 100],
      ],
      step: 0.01,
    }
  if (table?.trim()) return { points: readConversion(table).points, step: 1 }
  return {
    points: [
      [0, low],
      [full, high],
    ],
    step: 1,
  }
}

/** Weights of the sections: per cents of all marks weigh each section by its marks, unless somebody said how much it weighs. */
function compositeOf(exam: DescribedExam, sections: ExamFormat['sections']): ExamFormat['composite'] {
  const cut = exam.pass === undefined ? {} : { cut: exam.pass }
  const said = exam.sections.some(({ weight }) => weight !== undefined)
  const averaged = exam.told === 'percent' || exam.whole === 'averaged'
  const step = exam.told === 'percent' ? 0.01 : exam.told === 'marks' ? sections[0]!.conversion.step : 1
  if (!said && exam.told !== 'percent')
    return { kind: averaged && sections.length > 1 ? 'mean' : 'sum', step, ...cut }
  const own = sections.map((section, at) => (said ? (exam.sections[at]!.weight ?? 1) : highestRaw(section)))
  const sum = averaged ? own.reduce((a, b) => a + b, 0) : 1
  const weights = Object.fromEntries(sections.map(({ id }, at) => [id, own[at]! / sum]))
  return sections.length === 1 ? { kind: 'sum', step, ...cut } : { kind: 'weighted', weights, step, ...cut }
}

function topicsOf(
  exam: DescribedExam,
  at: number,
  id: string,
  taken: string[],
): { topics: Topic[]; problems: DescriptionProblem[]; asked: boolean } {
  const { topics: text, topicsAs } = exam.sections[at]!
  if (!text.trim()) {
    const title = exam.sections.length === 1 ? 'All of it' : `All of ${sectionTitle(exam, at)}`
    const all: Topic = { id: slugOf(title, taken), title, section: id, share: 1, prerequisites: [] }
    return { topics: [all], problems: [], asked: false }
  }
  const read = readTopicLines(text, id, taken, topicsAs)
  const field = `sections.${at}.topics`
  const problems = read.problems.map(({ row, message }) => ({ field, message: `line ${row}: ${message}` }))
  const sum = read.topics.reduce((total, { share }) => total + share, 0)
  if (!problems.length && Math.abs(sum - 1) > 0.005)
    problems.push({ field, message: `they come to ${Number((100 * sum).toFixed(1))}%, not to 100%` })
  const shares = makeSum(
    read.topics.map(({ share }) => share),
    1e-6,
  )
  const topics = read.topics.map((topic, place) => ({ ...topic, share: shares[place]! }))
  return { topics, problems, asked: Boolean(read.asked) }
}

/** What is not filled in yet, or holds what no exam has. */
function missing(exam: DescribedExam): DescriptionProblem[] {
  const found: DescriptionProblem[] = []
  const need = (holds: boolean, field: string, message: string) => !holds && found.push({ field, message })
  need(exam.title.trim() !== '', 'title', 'write what it is called')
  if (exam.told === 'scale') {
    need(exam.low !== undefined, 'low', 'write the lowest score')
    need(exam.high !== undefined, 'high', 'write the highest score')
    need((exam.low ?? 0) < (exam.high ?? Infinity), 'high', 'it must be above the lowest score')
  }
  exam.sections.forEach(({ minutes, kinds, table, cut }, at) => {
    const path = `sections.${at}`
    need(minutes !== undefined, `${path}.minutes`, 'write how long it takes')
    kinds.forEach(({ kind, items, choices }, place) => {
      need(items !== undefined, `${path}.kinds.${place}.items`, 'write how many items there are')
      need(kind !== 'choice' || choices !== undefined, `${path}.kinds.${place}.choices`, 'how many options?')
    })
    if (exam.told === 'scale' && table?.trim())
      for (const { row, message } of readConversion(table).problems)
        found.push({ field: `${path}.table`, message: `line ${row}: ${message}` })
    need(!(exam.told === 'percent' && (cut ?? 0) > 100), `${path}.cut`, 'from 0 to 100')
  })
  exam.sittings.forEach(({ date, start, registerBy }, at) => {
    need(date !== undefined, `sittings.${at}.date`, 'write the day; a guess will do until it is known')
    need(start !== undefined, `sittings.${at}.start`, 'write when it starts')
    need(!date || !registerBy || registerBy <= date, `sittings.${at}.registerBy`, 'not after the exam')
  })
  need(exam.sittings.length > 0, 'sittings', 'a plan needs a day to end on')
  return found
}

/**
 * The exam format that a description says, to be checked with the contract's schema, whose paths `fieldOf` leads back to the
 * description's. Without a format where something is missing. `asked` are the sections in which nobody said yet whether numbers
 * beside topics are items or per cent; `warnings` say what looks like a slip and is none for certain.
 */
export function formatOf(exam: DescribedExam): {
  format?: ExamFormat
  problems: DescriptionProblem[]
  asked: number[]
  warnings: DescriptionProblem[]
} {
  const problems = missing(exam)
  const ids: string[] = []
  exam.sections.forEach((_, at) => ids.push(slugOf(sectionTitle(exam, at), ids)))
  const topics: Topic[] = []
  const asked: number[] = []
  ids.forEach((id, at) => {
    const read = topicsOf(
      exam,
      at,
      id,
      topics.map((topic) => topic.id),
    )
    topics.push(...read.topics)
    problems.push(...read.problems)
    if (read.asked) asked.push(at)
  })
  if (problems.length) return { problems, asked, warnings: [] }
  const groupIds: string[] = []
  const sections = exam.sections.map((section, at) => {
    const groups = section.kinds.map((kind): ItemGroup => ({
      id: groupIds[groupIds.push(slugOf(`${ids[at]!}-items`, groupIds)) - 1]!,
      kind: kind.kind,
      items: kind.items!,
      ...(kind.kind === 'choice' && { choices: kind.choices! }),
      perRight: kind.perRight ?? 1,
      perWrong: kind.kind === 'written' ? 0 : (kind.perWrong ?? 0),
      ...(kind.inSet && kind.inSet > 1 && { set: { items: kind.inSet, readingSeconds: 60 } }),
    }))
    return {
      id: ids[at]!,
      title: sectionTitle(exam, at),
      minutes: section.minutes!,
      groups,
      conversion: conversionOf(exam, groups, section.table),
      ...(section.cut !== undefined && { cut: section.cut }),
      breakAfter: at < ids.length - 1 ? (section.breakAfter ?? 0) : 0,
    }
  })
  const sittings: ExamFormat['sittings'] = exam.sittings.map(({ date, start, registerBy }, at) => ({
    id: `sitting-${at + 1}`,
    date: date!,
    start: start!,
    ...(registerBy && { registerBy }),
  }))
  const format = {
    title: exam.title.trim(),
    licence: false,
    sections,
    topics,
    composite: compositeOf(exam, sections),
    forms: [],
    sittings,
    bring: [],
    forbidden: [],
  }
  const warnings = sections.flatMap((section, at) => {
    const early = exam.told === 'scale' && endsEarly(section.conversion, highestRaw(section))
    return early ? [{ field: `sections.${at}.table`, message: early }] : []
  })
  return { format, problems, asked, warnings }
}

/** The description's field for a path in the format that it says. */
export function fieldOf(path: string, { sections, topics }: Pick<ExamFormat, 'sections' | 'topics'>): string {
  if (path === 'composite.cut') return 'pass'
  const [part, at = '', deeper, place = '', field] = path.split('.')
  if (part === 'topics') {
    const section = sections.findIndex(({ id }) => id === topics[Number(at)]?.section)
    return `sections.${Math.max(0, section)}.topics`
  }
  if (part !== 'sections') return path
  if (deeper === 'groups')
    return `sections.${at}.kinds.${place}.${field === 'set' ? 'inSet' : (field ?? 'items')}`
  if (deeper === 'conversion') return `sections.${at}.table`
  return deeper ? path : `sections.${at}.topics`
}
