import * as Comlink from 'comlink'
import type { ExamFormat, Form } from '@climber/contract'
import {
  analyse,
  explore,
  gap,
  previewPlan,
  readResponses,
  type ReadResponses,
  whereYouStand,
} from '@climber/core'
import { decode } from './decode'

/** Item responses from a file's bytes; `progress` hears the share read. */
function readResponsesFile(
  bytes: ArrayBuffer,
  exam: ExamFormat,
  form: Form | undefined,
  progress: (share: number) => void,
): ReadResponses {
  const { text, problems } = decode(new Uint8Array(bytes))
  const read = readResponses(text, exam, form, progress)
  if (!problems.length) return read
  const all = [...problems, ...(text ? read.problems : [])].sort((a, b) => a.row - b.row)
  return { responses: [], problems: all, rows: read.rows }
}

const core = { analyse, explore, gap, previewPlan, readResponsesFile, whereYouStand }
export type CoreWorker = typeof core
Comlink.expose(core)
