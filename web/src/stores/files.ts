import { ClimberFile, issuesOf } from '@climber/contract'
import { call } from '../api'
import type { Problem } from './autosave'

/** Reads a Climber file; every problem comes back with its path, and nothing is stored. */
export async function readClimberFile(file: File): Promise<{ file?: ClimberFile; problems: Problem[] }> {
  let json: unknown
  try {
    json = JSON.parse(await file.text())
  } catch (error) {
    return { problems: [{ field: file.name, message: `this is not JSON: ${(error as Error).message}` }] }
  }
  const parsed = ClimberFile.safeParse(json)
  return parsed.success ? { file: parsed.data, problems: [] } : { problems: issuesOf(parsed.error) }
}

/** A file with more in it than the exam format is a candidate's. */
export const isCandidate = (file: ClimberFile): boolean =>
  file.candidate !== undefined || file.diagnosis !== undefined || file.plan !== undefined

/** Stores a file's candidate under a new id and returns it. */
export async function importCandidate(file: ClimberFile, self: boolean) {
  return call('importFile', { candidateId: crypto.randomUUID() }, { file, self })
}

export async function importExam(file: ClimberFile) {
  return call('createExam', { examId: crypto.randomUUID() }, { file })
}
