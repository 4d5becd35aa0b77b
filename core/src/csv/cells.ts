import Papa from 'papaparse'

/** Something wrong in a table that was read: `row` counts from 1, the header included, as a spreadsheet does. */
export interface TableProblem {
  row: number
  column?: string
  message: string
}

/** The cells of one line with the row it stands in. */
export interface Line {
  row: number
  cells: Record<string, string>
}

export interface Table {
  lines: Line[]
  problems: TableProblem[]
}

/** Lines of a table that are read; no learner's table has as many. */
const mostLines = 200_000

const number = /^[+-]?(\d+\.?\d*|\.\d+)(e[+-]?\d+)?$/i
/**
 * What a spreadsheet would run instead of show: = + - @, their full-width forms too, at the start of what is not a number, or
 * after blanks and line ends, which some programs strip first.
 */
const runs = (cell: string): boolean =>
  /^[\s\u0000-\u001f\u200b\ufeff]*[=+\-@\uff1d\uff0b\uff0d\uff20]|^[\t\r\n]/.test(cell) &&
  !number.test(cell.trim())

/** Writes rows as RFC 4180; a cell that a spreadsheet would run gets an apostrophe in front. */
export const writeTable = (columns: string[], rows: (string | number | undefined)[][]): string =>
  `${Papa.unparse(
    [
      columns,
      ...rows.map((row) =>
        row.map((cell) => {
          const text = cell === undefined ? '' : String(cell)
          return runs(text) || text.startsWith("'") ? `'${text}` : text
        }),
      ),
    ],
    { newline: '\r\n' },
  )}\r\n`

/** A column's name as it is known, however it was typed. */
const columnName = (cell: string): string => cell.trim().toLowerCase().replace(/ /g, '_')

/**
 * What divides the cells: that by which the header has the columns that are needed. The lines below tell less, since a text may have
 * more semicolons in it than the table has commas. Empty where none does: then the parser guesses.
 */
function delimiterOf(text: string, needed: readonly string[]): string {
  const [header = ''] = text.trimStart().split(/\r\n|\r|\n/, 1)
  const fits = (delimiter: string): boolean => {
    const names = header.split(delimiter).map((cell) => columnName(cell.replace(/"/g, '')))
    return needed.every((column) => names.includes(column))
  }
  return [',', ';', '\t', '|'].find(fits) ?? ''
}

/**
 * Reads a table with a header row. Every problem comes back with its row: a missing column, a line of another length, a
 * formula, but in columns of prose, where a text may begin as it likes. `progress` hears the share read, now and then.
 */
export function readTable(
  text: string,
  needed: string[],
  progress: (share: number) => void = () => undefined,
  prose: (column: string) => boolean = () => false,
): Table {
  const problems: TableProblem[] = []
  const lines: Line[] = []
  let header: string[] | undefined
  let row = 0
  const bare = text.replace(/^\uFEFF/, '')
  Papa.parse<string[]>(bare, {
    delimiter: delimiterOf(bare, needed),
    step: ({ data, errors, meta }, parser) => {
      row += 1
      if (row > mostLines) {
        problems.push({ row, message: `more than ${mostLines} lines` })
        parser.abort()
        return
      }
      if (row % 5000 === 0) progress(Math.min(1, meta.cursor / text.length))
      if (data.length === 1 && data[0] === '') return
      for (const error of errors)
        if (error.type === 'Quotes') problems.push({ row, message: 'a quotation mark is not closed' })
      if (!header) {
        header = data.map(columnName)
        const missing = needed.filter((column) => !header!.includes(column))
        if (!missing.length) return
        problems.push({ row, message: `the header lacks ${missing.map((name) => `"${name}"`).join(', ')}` })
        parser.abort()
        return
      }
      if (data.length > header.length)
        problems.push({ row, message: `${data.length} cells, where the header has ${header.length}` })
      const cells: Record<string, string> = {}
      header.forEach((column, at) => {
        const cell = (data[at] ?? '').trim()
        if (!prose(column) && runs(cell))
          problems.push({ row, column, message: `a formula (${cell}); write its value` })
        cells[column] = cell.startsWith("'") ? cell.slice(1) : cell
      })
      lines.push({ row, cells })
    },
  })
  if (!header) problems.push({ row: 1, message: 'the table is empty' })
  return { lines, problems }
}

export const asNumber = (cell: string | undefined): number | undefined =>
  cell !== undefined && number.test(cell) ? Number(cell) : undefined
