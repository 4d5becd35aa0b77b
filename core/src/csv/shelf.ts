import type { ExamFormat, Materials, ShelfItem } from '@climber/contract'
import { topicFinder } from '../exam/topics'
import { asNumber, readTable, type TableProblem, writeTable } from './cells'
import { slugOf } from '../exam/slug'

export const shelfColumns = [
  'id',
  'kind',
  'title',
  'chapter',
  'pages',
  'topics',
  'questions',
  'per_day',
  'minutes',
  'minutes_each',
  'in_order',
  'source',
  'form',
  'offset',
  'reserved',
  'errors',
]

/** The shelf as a table: a row for each thing, and one for each chapter of a book. */
export const writeShelf = ({ items }: Materials): string =>
  writeTable(
    shelfColumns,
    items.flatMap((item) => {
      const row = (chapter?: NonNullable<ShelfItem['chapters']>[number]) => [
        item.id,
        item.kind,
        item.title,
        chapter?.title,
        chapter?.pages,
        (chapter?.topics ?? item.topics)?.join(' '),
        item.questions,
        item.perDay,
        item.minutes,
        item.minutesEach,
        item.inOrder ? 'yes' : '',
        item.source,
        item.form,
        item.offset,
        item.reserved ? 'yes' : '',
        item.errors,
      ]
      return item.chapters?.length ? item.chapters.map(row) : [row()]
    }),
  )

const kinds = ['book', 'bank', 'recording', 'test'] as const
type Numeric = 'questions' | 'perDay' | 'minutes' | 'minutesEach' | 'offset'
const numbers: [string, Numeric, whole: boolean][] = [
  ['questions', 'questions', true],
  ['per_day', 'perDay', true],
  ['minutes', 'minutes', true],
  ['minutes_each', 'minutesEach', false],
  ['offset', 'offset', false],
]

/** A shelf from a table; every fault with its row, and nothing taken where there is one. */
export function readShelf(
  text: string,
  exam: Pick<ExamFormat, 'topics' | 'forms'>,
): { items: ShelfItem[]; problems: TableProblem[] } {
  const { lines, problems } = readTable(text, ['kind', 'title'])
  const topicOf = topicFinder(exam)
  const items = new Map<string, ShelfItem>()
  for (const { row, cells } of lines) {
    const say = (column: string, message: string) => void problems.push({ row, column, message })
    const kind = kinds.find((one) => one === cells.kind)
    const title = cells.title ?? ''
    if (!kind) say('kind', `"${cells.kind ?? ''}" is none of ${kinds.join(', ')}`)
    if (!title) say('title', 'write its title')
    if (!kind || !title) continue
    const id =
      cells.id ||
      [...items.values()].find((one) => one.title === title && one.kind === kind)?.id ||
      slugOf(title, items.keys())
    const own = (cells.topics ?? '').split(cells.topics?.includes(';') ? ';' : ' ').flatMap((word) => {
      const name = word.trim()
      if (!name) return []
      const topic = topicOf(name)
      if (!topic) say('topics', `the exam has no topic "${name}"`)
      return topic ?? []
    })
    const item: ShelfItem = items.get(id) ?? { id, kind, title }
    items.set(id, item)
    for (const [column, field, whole] of numbers) {
      if (!cells[column]) continue
      const value = asNumber(cells[column])
      if (value === undefined || (whole && !Number.isInteger(value)) || (field !== 'offset' && value <= 0))
        say(column, `"${cells[column]}" is not ${whole ? 'a whole number above 0' : 'a number'}`)
      else item[field] = value
    }
    if (kind === 'book') {
      const pages = cells.pages ? asNumber(cells.pages) : undefined
      if (pages === undefined || pages < 0) say('pages', `"${cells.pages ?? ''}" is not a number of pages`)
      else (item.chapters ??= []).push({ title: cells.chapter ?? '', pages, topics: own })
    } else if (own.length) item.topics = own
    if (cells.in_order === 'yes') item.inOrder = true
    if (cells.reserved === 'yes') item.reserved = true
    if (cells.errors) item.errors = cells.errors
    if (cells.source === 'publisher' || cells.source === 'other') item.source = cells.source
    else if (cells.source) say('source', `"${cells.source}" is neither publisher nor other`)
    if (cells.form && !exam.forms.some(({ id: form }) => form === cells.form))
      say('form', `the exam has no form "${cells.form}"`)
    else if (cells.form) item.form = cells.form
  }
  return { items: problems.length ? [] : [...items.values()], problems }
}
