import { isDeepStrictEqual } from 'node:util'
import type { Transaction } from 'sequelize'
import { issuesOf, partFrom, type PartName, partIssues, parts, type StoredPart } from '@climber/contract'
import type { CandidateRow, PartRow } from '../models'
import { conflictWith, invalid, notFound } from '../refusal'
import { deletedBy, homeWorkspace, noteDeleted, openExam, refuseDeleted } from './access'
import { type Context, together } from './context'
import { longest, refuseLarge, refuseLonger, refuseMoreThan } from './quota'
import { type Loaded, loadLocked, momentOf } from './record'
import { doneOnce } from './request'
import { formatOf, plainly } from './stored'

/** Stores a new candidate under the client's id; the same request sent twice is stored once. */
export async function createCandidate(
  context: Context,
  userId: string,
  id: string,
  input: { name: string; examId: string; self: boolean },
): Promise<CandidateRow> {
  const { models } = context
  const exam = await openExam(context, userId, input.examId, 'read')
  const workspaceId = await homeWorkspace(context, userId)
  if (exam.workspaceId !== workspaceId) throw notFound()
  const candidate = await together(context, async (transaction) => {
    await refuseMoreThan(context, 'candidates', workspaceId, transaction)
    // The format stays as it is, and there, until somebody is on it.
    if (!(await models.exams.findByPk(exam.id, { transaction, lock: true }))) throw notFound()
    const stored = await models.candidates.findByPk(id, { transaction, lock: true })
    if (stored) return stored
    await refuseDeleted(context, id, transaction)
    const made = await models.candidates.create(
      { id, workspaceId, examId: exam.id, userId: input.self ? userId : null, extra: {} },
      { transaction },
    )
    await models.parts.create(
      {
        candidateId: id,
        part: 'candidate',
        document: { name: input.name, note: '' },
        version: 1,
        changedBy: userId,
      },
      { transaction },
    )
    return made
  })
  if (candidate.workspaceId !== workspaceId || candidate.examId !== exam.id) throw notFound()
  return candidate
}

/** Deletes a record for good, and remembers who did. */
export const deleteCandidate = (context: Context, userId: string, candidate: CandidateRow): Promise<void> =>
  together(context, async (transaction) => {
    const row = await context.models.candidates.findByPk(candidate.id, { transaction, lock: true })
    // Deleted by the same person at the same moment: once is enough.
    if (!row && (await deletedBy(context, userId, candidate.id, transaction))) return
    if (!row) throw notFound()
    await noteDeleted(context, userId, row.id, transaction)
    await row.destroy({ transaction })
  })

/**
 * Saves one part if it is still at `version`. A save that arrives again (same document) is answered as it was the first
 * time; one that would overwrite somebody's change is refused with what is stored.
 */
export async function savePart(
  context: Context,
  userId: string,
  candidate: CandidateRow,
  part: PartName,
  { version, request, document: input }: { version: number; request?: string; document: unknown },
): Promise<StoredPart> {
  const parsed = parts[part].safeParse(input)
  if (!parsed.success) throw invalid(issuesOf(parsed.error))
  const document = plainly<Record<string, unknown>>({ ...parsed.data })
  const length = refuseLonger('', document, part === 'commitments' ? longest.commitments : longest.part)
  const write = async (loaded: Loaded, row: PartRow | undefined, transaction: Transaction) => {
    const { date: today } = momentOf(context, loaded)
    const issues = partIssues(formatOf(loaded.exam), part, partFrom(part, document), today)
    if (issues.length) throw invalid(issuesOf({ issues }))
    if (!row)
      return context.models.parts.create(
        { candidateId: candidate.id, part, document, version: 1, changedBy: userId },
        { transaction },
      )
    if (isDeepStrictEqual(row.document, document)) return row
    if (row.version !== version) {
      const by = row.changedBy && (await context.models.users.findByPk(row.changedBy, { transaction }))
      throw conflictWith({ document: row.document, version: row.version }, by || null, userId)
    }
    return row.update({ document, version: version + 1, changedBy: userId }, { transaction })
  }
  const stored = await together(context, async (transaction) => {
    const loaded = await loadLocked(context, candidate, transaction)
    const row = loaded.parts.get(part)
    const work = async () => {
      await refuseLarge(context, loaded.candidate.workspaceId, length, transaction)
      return write(loaded, row, transaction)
    }
    return doneOnce(context, candidate.id, request, transaction, {
      what: `part ${part}`,
      work,
      left: ({ version }) => ({ version }),
      again: () => (row ? Promise.resolve(row) : work()),
    })
  })
  const by = stored.changedBy && (await context.models.users.findByPk(stored.changedBy))
  return {
    document: stored.document,
    version: stored.version,
    changedBy: by ? by.name : null,
    changedAt: stored.updatedAt.toISOString(),
  }
}
