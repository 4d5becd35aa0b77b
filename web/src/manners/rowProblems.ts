import type { TableProblem } from '@climber/core'
import type { Problem } from '../stores/autosave'

/** What is wrong in a table, each with the row and column it stands in. */
export const rowProblems = (problems: TableProblem[]): Problem[] =>
  problems.map(({ row, column, message }) => ({
    field: `row ${row}${column ? `, ${column}` : ''}`,
    message,
  }))
