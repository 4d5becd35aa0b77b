import type { ExamFormat, Form, FormItem, ItemGroup, Stimulus } from '@climber/contract'
import { slugOf } from '../exam/slug'
import { topicFinder } from '../exam/topics'
import { asNumber, readTable, type TableProblem, writeTable } from './cells'

/** What stands against an item of a form, by field: the contract's `checkFormItem`. */
export type ItemCheck = (group: ItemGroup, item: FormItem) => { field: string; message: string }[]

/** Items that are met one after another: a section, or its first stage, or one of its second stages. */
export interface FormPart {
  id: string
  title: string
  groups: ItemGroup[]
}
export const formParts = (exam: Pick<ExamFormat, 'sections'>): FormPart[] =>
  exam.sections.flatMap(({ id, title, groups, stages = [] }) => [
    { id, title: stages.length ? `${title}, first stage` : title, groups },
    ...stages.map((stage) => ({ id: stage.id, title: stage.title, groups: stage.groups })),
  ])

/** Where an item of a form stands: its number through these groups, its group, its place there from 0. */
export interface FormPlace {
  number: number
  group: ItemGroup
  at: number
}
export function formPlaces(groups: ItemGroup[]): FormPlace[] {
  let number = 0
  return groups.flatMap((group) =>
    Array.from({ length: group.items }, (_, at) => ({ number: ++number, group, at })),
  )
}

const letters = 'abcdefghijklmnopqrstuvwxyz'
const optionColumns = (exam: Pick<ExamFormat, 'sections'>): string[] => {
  const most = Math.max(
    0,
    ...formParts(exam).flatMap(({ groups }) => groups.map(({ choices = 0 }) => choices)),
  )
  return [...letters.slice(0, most)].map((letter) => `option_${letter}`)
}
const isAdaptive = (exam: Pick<ExamFormat, 'sections'>): boolean => exam.sections.some(({ stages }) => stages)

/**
 * The items of a form as a table, a row an item, whether or not anything is known of it: so the table of a bare form is one
 * to fill in. A stimulus has its text in the first row that names it. Pictures stay with the form.
 */
export function writeFormItems(
  exam: Pick<ExamFormat, 'sections'>,
  { items = {}, stimuli = [] }: Pick<Form, 'items' | 'stimuli'>,
): string {
  const options = optionColumns(exam)
  const adaptive = isAdaptive(exam)
  const told = new Set<string>()
  const columns = [
    ...(adaptive ? ['part'] : []),
    ...['item', 'key', 'topic', 'text'],
    ...options,
    ...['stimulus', 'stimulus_title', 'stimulus_text', 'criteria'],
  ]
  const parts = formParts(exam)
  // Numbers begin again in each part only where the exam is adaptive.
  const numbered = adaptive
    ? parts.flatMap(({ id, groups }) => formPlaces(groups).map((place) => ({ id, ...place })))
    : formPlaces(parts.flatMap(({ groups }) => groups)).map((place) => ({ id: '', ...place }))
  const rows = numbered.map(({ id, number, group, at }) => {
    const item = items[group.id]?.[at] ?? {}
    const first = item.stimulus !== undefined && !told.has(item.stimulus)
    const stimulus = first ? stimuli.find((one) => one.id === item.stimulus) : undefined
    if (item.stimulus) told.add(item.stimulus)
    return [
      ...(adaptive ? [id] : []),
      number,
      item.key,
      item.topic,
      item.text,
      ...options.map((_, place) => item.options?.[place]),
      item.stimulus,
      stimulus?.title,
      stimulus?.text,
      item.criteria?.map(({ text, marks }) => `${marks}: ${text}`).join('\n'),
    ]
  })
  return writeTable(columns, rows)
}

const proseColumns = /^(text|option_[a-z]|stimulus_title|stimulus_text|criteria|key)$/

function readCriteria(cell: string): FormItem['criteria'] | undefined {
  const lines = cell.split(/\r?\n/).filter((line) => line.trim())
  const found = lines.map((line) => /^\s*(\d+(?:\.\d+)?)\s*[:)-]\s*(\S.*?)\s*$/.exec(line))
  return found.every((one) => one !== null)
    ? found.map((one) => ({ text: one[2]!, marks: Number(one[1]) }))
    : undefined
}

/** What a row changes of an item: columns that are not there leave what was; an empty cell takes it away. */
function merged(
  before: FormItem,
  cells: Record<string, string>,
  {
    topicOf,
    say,
  }: { topicOf: (name: string) => string | undefined; say: (column: string, message: string) => void },
): FormItem {
  const next: FormItem = { ...before }
  const put = <K extends 'key' | 'topic' | 'text' | 'stimulus'>(field: K, value: string | undefined) => {
    if (value) next[field] = value
    else delete next[field]
  }
  if (cells.key !== undefined) put('key', cells.key)
  if (cells.text !== undefined) put('text', cells.text)
  if (cells.stimulus !== undefined) put('stimulus', cells.stimulus && slugOf(cells.stimulus))
  if (cells.topic !== undefined) {
    const found = topicOf(cells.topic)
    if (cells.topic && !found) say('topic', `the exam has no topic "${cells.topic}"`)
    put('topic', found)
  }
  const columns = Object.keys(cells).filter((column) => column.startsWith('option_'))
  if (columns.length) {
    const options = columns.sort().map((column) => cells[column]!)
    while (options.length && !options[options.length - 1]) options.pop()
    if (options.length) next.options = options
    else delete next.options
  }
  if (cells.criteria !== undefined) {
    const found = readCriteria(cells.criteria)
    if (!found) say('criteria', 'a line each, such as "2: names the datum"')
    else if (found.length) next.criteria = found
    else delete next.criteria
  }
  return next
}

/** Stimuli as rows name them: a text belongs to the name beside it, wherever it stands first. */
class Stimuli {
  readonly found: Map<string, Stimulus>
  private readonly written = new Map<string, number>()
  constructor(before: Stimulus[]) {
    this.found = new Map(before.map((one) => [one.id, one]))
  }
  take(row: number, cells: Record<string, string>, say: (column: string, message: string) => void): void {
    const { stimulus, stimulus_title: title, stimulus_text: text } = cells
    if (!text && !title) return
    if (!stimulus) return say('stimulus', 'write a short name for the stimulus whose text stands here')
    const id = slugOf(stimulus)
    const before = this.written.get(id)
    if (before === undefined) {
      this.written.set(id, row)
      this.found.set(id, {
        id,
        ...(title ? { title } : {}),
        text: text || this.found.get(id)?.text || '',
      })
      if (!text && !this.found.get(id)!.text) say('stimulus_text', 'write the text of the stimulus')
    } else if (text && text !== this.found.get(id)!.text)
      say('stimulus_text', `the text of ${stimulus} stands in row ${before} already, and is another`)
  }
}

export interface ReadFormItems {
  /** Undefined where there is any problem: nothing is half taken. */
  form?: Pick<Form, 'items' | 'stimuli'>
  problems: TableProblem[]
  rows: number
}

/**
 * Items of a form from a table with the columns that `writeFormItems` writes; `item` must be there. Items are numbered
 * through the exam or, where `part` names a section or stage by id or title, through that. Columns that are not there, and
 * items without a row, leave the form as it was. Every problem comes back with its row and column.
 */
export function readFormItems(
  text: string,
  exam: Pick<ExamFormat, 'sections' | 'topics'>,
  before: Pick<Form, 'items' | 'stimuli'>,
  check: ItemCheck,
): ReadFormItems {
  const { lines, problems } = readTable(text, ['item'], undefined, (column) => proseColumns.test(column))
  const parts = formParts(exam)
  const partOf = new Map(
    parts.flatMap((part) => [
      [part.id, part],
      [part.title.toLowerCase(), part],
    ]),
  )
  for (const { id, title } of exam.sections) partOf.set(title.toLowerCase(), partOf.get(id)!)
  const topicOf = topicFinder(exam)
  const stimuli = new Stimuli(before.stimuli ?? [])
  const items = new Map(
    parts
      .flatMap(({ groups }) => groups)
      .map(({ id, items: length }) => [
        id,
        Array.from({ length }, (_, at): FormItem => before.items?.[id]?.[at] ?? {}),
      ]),
  )
  const taken = new Map<string, number>()
  const read: { row: number; group: ItemGroup; item: FormItem }[] = []
  for (const { row, cells } of lines) {
    const say = (column: string, message: string) => problems.push({ row, column, message })
    const place = placeOf(exam, parts, partOf, cells, say)
    if (!place) continue
    const { group, at } = place
    const earlier = taken.get(`${group.id} ${at}`)
    if (earlier !== undefined) {
      say('item', `item ${cells.item} stands in row ${earlier} already`)
      continue
    }
    taken.set(`${group.id} ${at}`, row)
    stimuli.take(row, cells, say)
    const item = merged(items.get(group.id)![at]!, cells, { topicOf, say })
    if (group.kind === 'choice' && item.key) item.key = item.key.toUpperCase()
    items.get(group.id)![at] = item
    read.push({ row, group, item })
  }
  for (const { row, group, item } of read) {
    for (const { field, message } of check(group, item))
      problems.push({
        row,
        column: field.replace(/^options\.(\d+)$/, (_, at) => `option_${letters[at]}`),
        message,
      })
    if (item.stimulus && !stimuli.found.has(item.stimulus))
      problems.push({ row, column: 'stimulus', message: `nothing gives the text of ${item.stimulus}` })
  }
  problems.sort((a, b) => a.row - b.row)
  if (problems.length) return { problems, rows: lines.length }
  const kept = Object.fromEntries(
    [...items].filter(([, own]) => own.some((item) => Object.keys(item).length > 0)),
  )
  return {
    form: {
      ...(Object.keys(kept).length && { items: kept }),
      ...(stimuli.found.size && { stimuli: [...stimuli.found.values()] }),
    },
    problems,
    rows: lines.length,
  }
}

function placeOf(
  exam: Pick<ExamFormat, 'sections'>,
  parts: FormPart[],
  partOf: Map<string, FormPart>,
  cells: Record<string, string>,
  say: (column: string, message: string) => void,
): FormPlace | undefined {
  const number = asNumber(cells.item)
  if (number === undefined || !Number.isInteger(number) || number < 1)
    return void say('item', `"${cells.item ?? ''}" is not an item number`)
  const part = cells.part ? (partOf.get(cells.part) ?? partOf.get(cells.part.toLowerCase())) : undefined
  if (cells.part && !part) return void say('part', `the exam has no section or stage "${cells.part}"`)
  if (!part && isAdaptive(exam))
    return void say('part', 'say which section or stage: the exam is adaptive, so numbers alone do not tell')
  const places = formPlaces(part ? part.groups : parts.flatMap(({ groups }) => groups))
  const found = places[number - 1]
  if (!found)
    say('item', `${part ? part.title : 'the form'} has ${places.length} items; there is no item ${number}`)
  return found
}
