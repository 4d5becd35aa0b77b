import type { Card, DrawnNumber, ExamFormat, NumbersQuestion, Slip, Tolerance } from '@climber/contract'
import { topicFinder } from '../exam/topics'
import { readQuestion } from '../recall/numbers'
import { asNumber, type Line, readTable, type TableProblem, writeTable } from './cells'
import { fromPercent, percentText } from './topics'

const cardColumns = [
  'kind',
  'topic',
  'front',
  'back',
  'section',
  'exact',
  'seconds',
  'formula',
  'numbers',
  'unit',
  'tolerance',
  'slips',
  'worked',
  'suspended',
]
const prose = new Set(['front', 'back', 'section', 'exact', 'formula', 'numbers', 'unit', 'slips', 'worked'])

const writeNumbers = (numbers: DrawnNumber[]): string =>
  numbers.map(({ name, low, high, step }) => `${name} ${low}..${high} step ${step}`).join('; ')
function writeTolerance(tolerance: Tolerance): string {
  switch (tolerance.kind) {
    case 'absolute':
      return String(tolerance.within)
    case 'relative': {
      const percent = percentText(tolerance.within)
      return fromPercent(percent) === tolerance.within ? `${percent}%` : `${tolerance.within} of it`
    }
    case 'figures':
      return `${tolerance.figures} figures`
  }
}
const writeSlips = (slips: Slip[] = []): string =>
  slips.map(({ formula, name }) => `${formula} => ${name}`).join('\n')

/** The cells of a card that its kind has. */
function cellsOf(card: Card): Record<string, string | number | undefined> {
  switch (card.kind) {
    case 'card':
      return { front: card.front, back: card.back }
    case 'place':
      return { front: card.front, section: card.section, exact: card.exact, seconds: card.seconds }
    case 'numbers': {
      const { text, formula, numbers, unit, tolerance, slips, worked } = card.question
      return {
        front: text,
        formula,
        numbers: writeNumbers(numbers),
        unit,
        tolerance: writeTolerance(tolerance),
        slips: writeSlips(slips),
        worked,
      }
    }
  }
}

/** Cards and questions as a table, a card a row; pictures stay where they are. */
export function writeCards({ topics }: Pick<ExamFormat, 'topics'>, cards: readonly Card[]): string {
  const titles = new Map(topics.map(({ id, title }) => [id, title]))
  return writeTable(
    cardColumns,
    cards.map((card) => {
      const cells: Record<string, string | number | undefined> = {
        kind: card.kind,
        topic: card.topic && (titles.get(card.topic) ?? card.topic),
        suspended: card.suspended ? 'yes' : undefined,
        ...cellsOf(card),
      }
      return cardColumns.map((column) => cells[column])
    }),
  )
}

const value = '([+-]?(?:\\d+\\.?\\d*|\\.\\d+)(?:e[+-]?\\d+)?)'
const drawn = new RegExp(
  `^([a-z]\\w*)\\s*[:=]?\\s*${value}\\s*(?:\\.\\.|to|\u2013)\\s*${value}(?:\\s*,?\\s*step\\s*${value})?$`,
  'i',
)

/** One cell that was read, or what would be right in it. */
type Read<T> = { value: T } | { wrong: string }
const wrong = (message: string): { wrong: string } => ({ wrong: message })

function readNumbers(cell: string): Read<DrawnNumber[]> {
  const found: DrawnNumber[] = []
  for (const piece of cell.split(/[;\n]/).map((one) => one.trim())) {
    if (!piece) continue
    const [, name, low, high, step = '1'] = drawn.exec(piece) ?? []
    if (!name) return wrong(`"${piece}" is no number with its range; write such as "p 40..100 step 5"`)
    found.push({ name, low: Number(low), high: Number(high), step: Number(step) })
  }
  return { value: found }
}

function readTolerance(cell: string): Read<Tolerance> {
  if (!cell) return { value: { kind: 'relative', within: 0.01 } }
  const [, figures] = /^(\d+) ?(?:significant )?figures?$/i.exec(cell) ?? []
  if (figures) return { value: { kind: 'figures', figures: Number(figures) } }
  const [, percent] = /^(.*\S)\s*%$/.exec(cell) ?? []
  if (percent && asNumber(percent) !== undefined)
    return { value: { kind: 'relative', within: fromPercent(percent) } }
  const [, share] = /^(.*\S) of it$/.exec(cell) ?? []
  if (share && asNumber(share) !== undefined) return { value: { kind: 'relative', within: Number(share) } }
  const within = asNumber(cell)
  if (within !== undefined) return { value: { kind: 'absolute', within } }
  return wrong(`"${cell}" is no tolerance; write such as 0.5, 2% or "3 figures"`)
}

function readSlips(cell: string): Read<Slip[]> {
  const found: Slip[] = []
  for (const piece of cell.split(/\n|;(?=[^;\n]*=>)/).map((one) => one.trim())) {
    if (!piece) continue
    const [formula = '', ...name] = piece.split('=>')
    if (!name.length) return wrong(`"${piece}" names no slip; write such as "p*h => thousands forgotten"`)
    found.push({ formula: formula.trim(), name: name.join('=>').trim() })
  }
  return { value: found }
}

/** Says whether something is a card, as the contract's schema does. */
type Check = (
  made: unknown,
) =>
  | { success: true; data: Card }
  | { success: false; error: { issues: readonly { path: readonly PropertyKey[]; message: string }[] } }

/** Columns of a card's fields, where they are called otherwise. */
const columnOf: Record<string, string> = { text: 'front' }

/** A row as a card, with everything that is wrong in it. */
function cardIn(
  { row, cells }: Line,
  topicOf: (cell: string) => string | undefined,
  id: string,
  check: Check,
): { card?: Card; problems: TableProblem[] } {
  const problems: TableProblem[] = []
  const say = (column: string, message: string) => void problems.push({ row, column, message })
  const cell = (column: string) => cells[column] ?? ''
  const read = <T>(column: string, reader: (text: string) => Read<T>): T | undefined => {
    const found = reader(cell(column))
    if ('value' in found) return found.value
    say(column, found.wrong)
    return undefined
  }
  const kind =
    cell('kind').toLowerCase() || (cell('formula') ? 'numbers' : cell('section') ? 'place' : 'card')
  if (!['card', 'place', 'numbers'].includes(kind)) {
    say('kind', `"${kind}" is no kind; there are card, place and numbers`)
    return { problems }
  }
  const topic = cell('topic') ? topicOf(cell('topic')) : undefined
  if (cell('topic') && !topic) say('topic', `the exam has no topic "${cell('topic')}"`)
  const seconds = asNumber(cell('seconds'))
  if (cell('seconds') && seconds === undefined) say('seconds', `"${cell('seconds')}" is no number of seconds`)
  const own = {
    id,
    kind,
    ...(topic && { topic }),
    ...(/^(yes|y|true|1|x)$/i.test(cell('suspended')) && { suspended: true }),
  }
  const optional = (column: string) => (cell(column) ? { [column]: cell(column) } : {})
  const made =
    kind === 'card'
      ? { ...own, front: cell('front'), back: cell('back') }
      : kind === 'place'
        ? {
            ...own,
            front: cell('front'),
            section: cell('section'),
            ...optional('exact'),
            ...(seconds !== undefined && { seconds }),
          }
        : { ...own, question: questionIn(cell, read, optional) }
  const card = check(made)
  if (card.success) {
    if (card.data.kind === 'numbers') problems.push(...questionProblems(row, card.data.question))
    return { card: card.data, problems }
  }
  for (const { path, message } of card.error.issues) {
    const [first, second] = path.map(String)
    const field = first === 'question' ? (second ?? '') : (first ?? '')
    const column = columnOf[field] ?? field
    if (!problems.some((one) => one.column === column)) say(column, message)
  }
  return { problems }
}

function questionIn(
  cell: (column: string) => string,
  read: <T>(column: string, reader: (text: string) => Read<T>) => T | undefined,
  optional: (column: string) => Record<string, string>,
): Partial<NumbersQuestion> {
  const numbers = read('numbers', readNumbers)
  const tolerance = read('tolerance', readTolerance)
  const slips = read('slips', readSlips)
  return {
    text: cell('front'),
    ...(numbers && { numbers }),
    formula: cell('formula'),
    ...optional('unit'),
    ...(tolerance && { tolerance }),
    ...(slips?.length && { slips }),
    ...optional('worked'),
  }
}

/** What of a question only shows when its formulas are read. */
function questionProblems(row: number, question: NumbersQuestion): TableProblem[] {
  const found = readQuestion(question)
  if (!('problems' in found)) return []
  return found.problems.map(({ field, message }) => {
    const [first = ''] = field.split('.')
    return { row, column: columnOf[first] ?? first, message }
  })
}

/** Heads of columns that were pasted without any: as people write them down. */
const heads: Record<number, string[]> = { 2: ['front', 'back'], 3: ['topic', 'front', 'back'] }

/**
 * What was pasted from a spreadsheet or a list has no heads: two columns are front and back, three have the topic before them. Answers
 * the table with them, and how many lines it has more.
 */
function withHeads(text: string): { text: string; more: number } {
  const lines = text.trim().split(/\r\n|\r|\n/)
  const names = lines[0]!.split(/[,;\t|]/).map((cell) => cell.replace(/"/g, '').trim().toLowerCase())
  if (names.includes('front')) return { text, more: 0 }
  for (const between of ['\t', ';']) {
    const columns = lines[0]!.split(between).length
    if (heads[columns] && lines.every((line) => !line.trim() || line.split(between).length === columns))
      return { text: `${heads[columns].join(between)}\n${text.trim()}`, more: 1 }
  }
  return { text, more: 0 }
}

/**
 * Reads a table of cards and questions, with every problem at its row and column; a row with one is left out. `newId` gives each card
 * its id, `check` is the schema of cards. A row says its kind, or it shows: with a formula it is a question with changed numbers, with a section a place to find.
 */
export function readCards(
  exam: Pick<ExamFormat, 'topics'>,
  text: string,
  newId: () => string,
  check: Check,
): { cards: Card[]; problems: TableProblem[] } {
  const headed = withHeads(text)
  const { lines, problems } = readTable(headed.text, ['front'], undefined, (column) => prose.has(column))
  const topicOf = topicFinder(exam)
  const cards: Card[] = []
  for (const line of lines) {
    const read = cardIn(line, topicOf, newId(), check)
    problems.push(...read.problems)
    if (read.card && !read.problems.length) cards.push(read.card)
  }
  return { cards, problems: problems.map((one) => ({ ...one, row: one.row - headed.more })) }
}
