import type { Conversion, ExamFormat, Form } from '@climber/contract'
import { asNumber, readTable, type TableProblem, writeTable } from './cells'
import { slugOf } from '../exam/slug'

export const formColumns = ['form', 'title', 'source', 'table', 'step', 'raw', 'scaled']

/** Two points of a table that do not rise, named by their rows. */
function falls(before: [number, number], [raw, scaled]: [number, number]): string | undefined {
  if (raw <= before[0]) return `raw scores must rise: ${raw} comes after ${before[0]}`
  return scaled < before[1] ? `scaled scores must not fall: ${scaled} comes after ${before[1]}` : undefined
}

/** Two columns that tabs, semicolons or blanks part: a comma in them is a decimal comma. */
const isParted = (line: string): boolean =>
  /[\t;]/.test(line) || /^\s*-?\d+([.,]\d+)?\s+-?\d+([.,]\d+)?\s*$/.test(line)

function whatIsWrong(cells: string[], parted: boolean): string {
  if (cells.some((cell) => asNumber(cell) === undefined)) return 'is not a raw and a scaled score'
  if (parted && cells.length === 2)
    return 'has a comma where a point, or two columns like those of the other lines, were expected'
  return cells.length === 1
    ? 'is one number; a raw and a scaled score were expected, such as "12 140"'
    : `is ${cells.length} numbers, and two were expected; a decimal comma needs a semicolon between the columns, such as "0,5; 100"`
}

/**
 * A conversion table as it is pasted from a spreadsheet: a raw and a scaled score a line, divided by a tab, semicolon,
 * comma or spaces; a heading line and a table that runs downwards are taken too. Decimal commas are read where tabs,
 * semicolons or blanks divide; a line that only a comma parts is then told, since it may be one number.
 */
export function readConversion(text: string): { points: [number, number][]; problems: TableProblem[] } {
  const problems: TableProblem[] = []
  const points: { row: number; point: [number, number] }[] = []
  const lines = text.split(/\r?\n/)
  const parted = lines.some(isParted)
  lines.forEach((line, at) => {
    const row = at + 1
    if (!line.trim()) return
    const wide = isParted(line)
    const cells = line
      .trim()
      .split(wide ? /\s*[\t;]\s*|\s+/ : /\s*,\s*|\s+/)
      .map((cell) => (wide ? cell.replace(',', '.') : cell))
    const [raw, scaled] = cells.map(asNumber)
    if (raw !== undefined && scaled !== undefined && cells.length === 2 && wide === parted)
      points.push({ row, point: [raw, scaled] })
    else if (points.length || row > 1)
      problems.push({ row, message: `"${line.trim()}" ${whatIsWrong(cells, parted)}` })
  })
  if (points.length > 1 && points[0]!.point[0] > points[points.length - 1]!.point[0]) points.reverse()
  points.forEach(({ row, point }, at) => {
    const problem = at > 0 && falls(points[at - 1]!.point, point)
    if (problem) problems.push({ row, message: problem })
  })
  if (points.length < 2 && !problems.length)
    problems.push({ row: 1, message: 'a conversion table needs two rows or more' })
  return { points: points.map(({ point }) => point), problems }
}

export const writeConversion = ({ points }: Conversion): string =>
  points.map(([raw, scaled]) => `${raw}\t${scaled}`).join('\n')

/** All forms with their own tables; a form without one has a row with its name alone. */
export const writeForms = ({ forms }: Pick<ExamFormat, 'forms'>): string =>
  writeTable(
    formColumns,
    forms.flatMap(({ id, title, source, conversions }) => {
      const rows = Object.entries(conversions).flatMap(([table, { step, points }]) =>
        points.map(([raw, scaled]) => [id, title, source, table, step, raw, scaled]),
      )
      return rows.length ? rows : [[id, title, source, '', '', '', '']]
    }),
  )

/** Forms from a table; tables belong to sections or second stages, by id or title. */
export function readForms(
  text: string,
  exam: Pick<ExamFormat, 'sections'>,
): { forms: Form[]; problems: TableProblem[] } {
  const { lines, problems } = readTable(text, ['title', 'source', 'table', 'raw', 'scaled'])
  const tables = new Map(
    exam.sections
      .flatMap((section): { id: string; title: string }[] => section.stages ?? [section])
      .flatMap(({ id, title }) => [
        [id, id],
        [title.toLowerCase(), id],
      ]),
  )
  const forms = new Map<string, Form>()
  for (const { row, cells } of lines) {
    const say = (column: string, message: string) => problems.push({ row, column, message })
    const id = cells.form || slugOf(cells.title ?? '')
    const { source } = cells
    if (!cells.title) say('title', 'write the title of the form')
    if (source !== 'publisher' && source !== 'other') {
      say('source', `"${source ?? ''}" is neither publisher nor other`)
      continue
    }
    const form = forms.get(id) ?? { id, title: cells.title ?? '', source, conversions: {} }
    forms.set(id, form)
    if (!cells.table && !cells.raw && !cells.scaled) continue
    const table = tables.get(cells.table ?? '') ?? tables.get((cells.table ?? '').toLowerCase())
    if (!table) {
      say('table', `the exam has no section or stage "${cells.table ?? ''}"`)
      continue
    }
    const raw = asNumber(cells.raw)
    const scaled = asNumber(cells.scaled)
    const step = cells.step ? asNumber(cells.step) : 1
    if (raw === undefined) say('raw', `"${cells.raw ?? ''}" is not a number`)
    if (scaled === undefined) say('scaled', `"${cells.scaled ?? ''}" is not a number`)
    if (step === undefined || step <= 0) say('step', `"${cells.step}" is not a number above 0`)
    if (raw === undefined || scaled === undefined || !step) continue
    const conversion = (form.conversions[table] ??= { step, points: [] })
    const before = conversion.points[conversion.points.length - 1]
    const problem = before && falls(before, [raw, scaled])
    if (problem) say('raw', problem)
    conversion.points.push([raw, scaled])
  }
  return { forms: problems.length ? [] : [...forms.values()], problems }
}
