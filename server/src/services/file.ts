import { randomUUID } from 'node:crypto'
import type { Transaction } from 'sequelize'
import {
  type ClimberFile,
  ClimberFileShape,
  climberFileVersion,
  partFrom,
  type PartName,
  partNames,
  type Plan,
  type PlanSession,
  type WrittenFile,
} from '@climber/contract'
import type { CandidateRow, PlanRow, SessionRow } from '../models'
import { notFound } from '../refusal'
import { forgetDeleted, homeWorkspace, refuseDeleted } from './access'
import { createAttempts } from './attempt'
import { type Context, together } from './context'
import { sameExam } from './exam'
import { storePlan } from './plan'
import { createRecall, writtenRecall } from './recall'
import { createNotes } from './review'
import { longest, refuseLarge, refuseLonger, refuseMoreThan } from './quota'
import { load, type Loaded } from './record'

/** A file may go to anyone: the private addresses of calendars stay here. */
const withoutAddresses = (document: Record<string, unknown>): Record<string, unknown> => ({
  ...document,
  calendars: partFrom('commitments', document).calendars.map(({ address: _, ...calendar }) => calendar),
})

/** A plan as it was written. */
const writtenPlan = (plan: PlanRow, sessions: SessionRow[]): Plan => ({
  ...plan.document,
  sessions: sessions.map(({ document }) => document),
})

const writtenAttempts = ({ attempts, items }: Loaded) =>
  attempts.map(({ id, document }) => {
    const own = items.get(id)
    return own?.length ? { ...document, items: own.map((item) => item.document) } : document
  })

/**
 * Everything about one candidate as a Climber file, in the order of docs/formats.md. Stored documents go out as they came in,
 * defaults that were absent still absent, so that a file that goes in and out again is the same to the byte.
 */
export async function exportFile(context: Context, candidate: CandidateRow): Promise<ClimberFile> {
  const loaded = await load(context, candidate)
  const { exam, plan, sessions, pastPlans } = loaded
  const part = (name: PartName) => {
    const document = loaded.parts.get(name)?.document
    return name === 'commitments' && document ? withoutAddresses(document) : document
  }
  const stored = Object.fromEntries(partNames.flatMap((name) => (part(name) ? [[name, part(name)]] : [])))
  const attempts = writtenAttempts(loaded)
  const recall = await writtenRecall(context, candidate)
  const written = {
    climber: climberFileVersion,
    exam: exam.document,
    ...stored,
    ...(plan && { plan: writtenPlan(plan, sessions) }),
    ...(pastPlans.length && {
      pastPlans: pastPlans.map((past) => writtenPlan(past.plan, past.sessions)),
    }),
    ...(attempts.length && { attempts }),
    ...(loaded.notes.length && { review: loaded.notes.map(({ document }) => document) }),
    ...(recall && { recall }),
    ...candidate.extra,
  }
  return written as ClimberFile
}

const known = new Set<string>(Object.keys(ClimberFileShape.shape))

/** Plans of a file, each for its sitting; sessions of past ones whose ids a later plan has are that plan's. */
async function storePlans(
  context: Context,
  candidateId: string,
  lineage: string,
  plans: Plan[],
  transaction: Transaction,
): Promise<void> {
  const taken = new Set<string>()
  for (const plan of [...plans].reverse()) {
    const sessions = plan.sessions.filter(({ id }: PlanSession) => !taken.has(id))
    sessions.forEach(({ id }) => taken.add(id))
    const row = await context.models.plans.findOne({
      where: { candidateId, lineage, sitting: plan.sitting },
      transaction,
    })
    if (!row)
      await storePlan(context, { candidateId, lineage }, { ...plan, sessions }, undefined, transaction)
  }
}

/** Refuses what of a file is longer than any honest one; answers how long all of it is. */
function refuseOverlong(written: Record<string, unknown>, extra: Record<string, unknown>): number {
  for (const part of partNames)
    if (written[part] !== undefined)
      refuseLonger(`file.${part}`, written[part], part === 'commitments' ? longest.commitments : longest.part)
  refuseLonger('file.exam', written['exam'], longest.exam)
  refuseLonger('file', extra, longest.extra)
  return JSON.stringify(written).length
}

/**
 * A new candidate under the client's id from a Climber file, and its exam where the workspace has no equal one. All or
 * nothing; the same request sent twice is stored once.
 */
export async function importFile(
  context: Context,
  userId: string,
  id: string,
  { file, written }: WrittenFile,
  { self, again = false }: { self: boolean; again?: boolean },
): Promise<CandidateRow> {
  const workspaceId = await homeWorkspace(context, userId)
  const extra = Object.fromEntries(Object.entries(written).filter(([key]) => !known.has(key)))
  const length = refuseOverlong(written, extra)
  const candidate = await together(context, async (transaction) => {
    await refuseMoreThan(context, 'candidates', workspaceId, transaction)
    const stored = await context.models.candidates.findByPk(id, { transaction, lock: true })
    if (stored) return stored
    if (!again || !(await forgetDeleted(context, userId, id, transaction)))
      await refuseDeleted(context, id, transaction)
    await refuseLarge(context, workspaceId, length, transaction)
    return store(transaction)
  })
  if (candidate.workspaceId !== workspaceId) throw notFound()
  return candidate

  async function store(transaction: Transaction): Promise<CandidateRow> {
    // The written form has passed the schema: only its defaults are missing.
    const asWritten = written as unknown as ClimberFile
    const exam = await sameExam(context, workspaceId, file.exam, asWritten.exam, randomUUID(), transaction)
    const candidate = await context.models.candidates.create(
      { id, workspaceId, examId: exam.id, userId: self ? userId : null, extra },
      { transaction },
    )
    const documents: Partial<Record<PartName, unknown>> = { candidate: { name: 'Candidate' }, ...written }
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
    await createAttempts(context, id, asWritten.attempts ?? [], transaction)
    await createNotes(context, id, asWritten.review ?? [], transaction)
    await createRecall(context, id, asWritten.recall ?? {}, transaction)
    const plans = [...(asWritten.pastPlans ?? []), ...(asWritten.plan ? [asWritten.plan] : [])]
    await storePlans(context, id, exam.lineage, plans, transaction)
    return candidate
  }
}
