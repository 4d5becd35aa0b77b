import { proxy, transfer } from 'comlink'
import type { ExamFormat, Form, ItemResponse } from '@climber/contract'
import type { ReadResponses } from '@climber/core'
import { inOwnWorker, plain } from '../workers/core'
import { mostBytes, mostSeconds, refuseLarger } from './file'
import { rowProblems } from './rowProblems'

type Read = Pick<ReadResponses, 'rows' | 'problems' | 'counted'> & {
  responses: ItemResponse[]
  more: number
}

async function readIt(
  file: File,
  exam: ExamFormat,
  form: Form | undefined,
  progress: (share: number) => void,
): Promise<Read> {
  refuseLarger(file, mostBytes.large)
  const bytes = await file.arrayBuffer()
  return inOwnWorker(
    (worker) =>
      worker.readResponsesFile(transfer(bytes, [bytes]), plain(exam), form && plain(form), proxy(progress)),
    undefined,
    mostSeconds,
  )
}

/** Item responses from a CSV, read in a worker of its own; `progress` hears the share read. */
export async function readResponseFile(
  file: File,
  exam: ExamFormat,
  form: Form | undefined,
  progress: (share: number) => void,
) {
  const read = await readIt(file, exam, form, progress).catch((error: unknown): Read => {
    const message = error instanceof Error ? error.message : String(error)
    return { rows: 0, problems: [{ row: 1, message }], counted: undefined, responses: [], more: 0 }
  })
  return {
    ...read,
    found: {
      rows: read.rows,
      used: !read.problems.length,
      more: read.more,
      problems: rowProblems(read.problems),
    },
  }
}
