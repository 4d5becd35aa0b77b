import { proxy, transfer } from 'comlink'
import type { ExamFormat, Form } from '@climber/contract'
import { inOwnWorker, plain } from '../workers/core'
import { rowProblems } from './rowProblems'

/** Item responses from a CSV, read in a worker of its own; `progress` hears the share read. */
export async function readResponseFile(
  file: File,
  exam: ExamFormat,
  form: Form | undefined,
  progress: (share: number) => void,
) {
  const bytes = await file.arrayBuffer()
  const read = await inOwnWorker((worker) =>
    worker.readResponsesFile(transfer(bytes, [bytes]), plain(exam), form && plain(form), proxy(progress)),
  )
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
