import type { TableProblem } from '@climber/core'
import type { Problem } from '../kit/problems'
import { mostBytes, textOf } from './file'
import { rowProblems } from './rowProblems'

/** Reads a small table from a file; `found` only where every row of it is good. */
export async function readTableFile<T extends { problems: TableProblem[] }>(
  file: File,
  read: (text: string) => T,
): Promise<{ found?: T; problems: Problem[] }> {
  let text: string
  try {
    text = await textOf(file, mostBytes.table)
  } catch (error) {
    return { problems: [{ field: file.name, message: (error as Error).message }] }
  }
  const found = read(text)
  return found.problems.length ? { problems: rowProblems(found.problems) } : { found, problems: [] }
}
