import { mostBytes, refuseLarger } from '../manners/file'
import { shallowRef } from 'vue'
import { ClimberFile, issuesOf } from '@climber/contract'
import { call } from '../api'
import type { Problem } from './autosave'

/** Reads a Climber file; every problem comes back with its path, and nothing is stored. */
export async function readClimberFile(file: File): Promise<{ file?: ClimberFile; problems: Problem[] }> {
  let json: unknown
  try {
    refuseLarger(file, mostBytes.plan)
  } catch (error) {
    return { problems: [{ field: file.name, message: (error as Error).message }] }
  }
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
  file.candidate !== undefined || file.attempts !== undefined || file.plan !== undefined

/** Stores a file's candidate under a new id and returns it. */
export async function importCandidate(file: ClimberFile, self: boolean) {
  return call('importFile', { candidateId: crypto.randomUUID() }, { file, self })
}

export async function importExam(file: ClimberFile) {
  return call('createExam', { examId: crypto.randomUUID() }, { file })
}

/** The plan deleted last, kept here so that it can be put back. */
export const deleted = shallowRef<{ id: string; name: string; mine: boolean; file: ClimberFile }>()

export async function deletePlan(id: string, name: string, mine: boolean): Promise<void> {
  const file = await call('exportFile', { candidateId: id })
  await call('deleteCandidate', { candidateId: id })
  deleted.value = { id, name, mine, file }
}

/** Puts the plan deleted last back under its old address. */
export async function restorePlan(): Promise<void> {
  const last = deleted.value
  if (!last) return
  await call('importFile', { candidateId: last.id }, { file: last.file, self: last.mine, again: true })
  deleted.value = undefined
}
