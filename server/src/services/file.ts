import { randomUUID } from 'node:crypto'
import type { Transaction } from 'sequelize'
import { ClimberFile, climberFileVersion, type PartName, parts } from '@climber/contract'
import type { CandidateRow } from '../models'
import { notFound } from '../refusal'
import { homeWorkspace } from './access'
import { type Context, onceOnly, together } from './context'
import { sameExam } from './exam'
import { storePlan } from './plan'
import { load } from './record'

const partNames = Object.keys(parts) as PartName[]

/** A file may go to anyone: the private addresses of calendars stay here. */
const withoutAddresses = (document: Record<string, unknown>): Record<string, unknown> => ({
  ...document,
  calendars: parts.commitments.parse(document).calendars.map(({ address: _, ...calendar }) => calendar),
})

/** Everything about one candidate as a Climber file, in the order of docs/formats.md. */
export async function exportFile(context: Context, candidate: CandidateRow): Promise<ClimberFile> {
  const loaded = await load(context, candidate)
  const part = (name: PartName) => {
    const document = loaded.parts.get(name)?.document
    return name === 'commitments' && document ? withoutAddresses(document) : document
  }
  const stored = Object.fromEntries(partNames.flatMap((name) => (part(name) ? [[name, part(name)]] : [])))
  // Parsed, so that keys stand in the schema's order and a file that goes in and out again is the same to the byte.
  return ClimberFile.parse({
    climber: climberFileVersion,
    exam: loaded.exam.document,
    ...stored,
    ...(loaded.plan && {
      plan: { ...loaded.plan.document, sessions: loaded.sessions.map(({ document }) => document) },
    }),
    ...(loaded.tests.length && { tests: loaded.tests.map(({ document }) => document) }),
    ...candidate.extra,
  })
}

const known = new Set<string>(Object.keys(ClimberFile.shape))

/**
 * A new candidate under the client's id from a Climber file, and its exam where the workspace has no equal one. All or
 * nothing; the same request sent twice is stored once.
 */
export async function importFile(
  context: Context,
  userId: string,
  id: string,
  file: ClimberFile,
  owner: { self: boolean },
): Promise<CandidateRow> {
  const workspaceId = await homeWorkspace(context, userId)
  const extra = Object.fromEntries(Object.entries(file).filter(([key]) => !known.has(key)))
  const candidate = await onceOnly(
    () => context.models.candidates.findByPk(id),
    () => together(context, store),
  )
  if (candidate.workspaceId !== workspaceId) throw notFound()
  return candidate

  async function store(transaction: Transaction): Promise<CandidateRow> {
    const exam = await sameExam(context, workspaceId, file.exam, randomUUID(), transaction)
    const candidate = await context.models.candidates.create(
      { id, workspaceId, examId: exam.id, userId: owner.self ? userId : null, extra },
      { transaction },
    )
    const documents: Partial<Record<PartName, unknown>> = {
      candidate: { name: 'Candidate', note: '' },
      ...file,
    }
    for (const part of partNames) {
      const document = documents[part]
      if (document === undefined) continue
      await context.models.parts.create(
        {
          candidateId: id,
          part,
          document: document as Record<string, unknown>,
          version: 1,
          changedBy: userId,
        },
        { transaction },
      )
    }
    if (file.tests?.length)
      await context.models.tests.bulkCreate(
        file.tests.map((test) => ({
          id: test.id,
          candidateId: id,
          date: test.date,
          document: test,
          version: 1,
        })),
        { transaction },
      )
    if (file.plan) await storePlan(context, id, file.plan, 1, transaction)
    return candidate
  }
}
