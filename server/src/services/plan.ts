import { isDeepStrictEqual } from 'node:util'
import type { Transaction } from 'sequelize'
import type { Plan, PlanSession, StoredPlan, StoredSession } from '@climber/contract'
import { assess, makePlan as workOut, planInput, PlanProblem } from '@climber/core'
import type { CandidateRow } from '../models'
import { conflict, invalid, notFound } from '../refusal'
import { type Context, together } from './context'
import { load, recordOf, storedPlan } from './record'

/** Writes a plan over the stored one: sessions are added, changed and removed by id. */
export async function storePlan(
  context: Context,
  candidateId: string,
  plan: Plan,
  version: number,
  transaction: Transaction,
): Promise<void> {
  const { models } = context
  const { sessions, ...document } = plan
  await models.plans.upsert({ candidateId, version, document }, { transaction })
  const before = new Map(
    (await models.sessions.findAll({ where: { candidateId }, transaction })).map((row) => [row.id, row]),
  )
  const wanted = new Set(sessions.map(({ id }) => id))
  const gone = [...before.keys()].filter((id) => !wanted.has(id))
  if (gone.length) await models.sessions.destroy({ where: { candidateId, id: gone }, transaction })
  const changed = sessions.filter((session) => !isDeepStrictEqual(before.get(session.id)?.document, session))
  await models.sessions.bulkCreate(
    changed.map((session) => ({
      candidateId,
      id: session.id,
      date: session.date,
      start: session.start,
      status: session.status,
      document: session,
      version: (before.get(session.id)?.version ?? 0) + 1,
    })),
    { transaction, updateOnDuplicate: ['date', 'start', 'status', 'document', 'version', 'updatedAt'] },
  )
}

/** Makes the plan again from today and stores it in place of version `version`. */
export async function makePlan(
  context: Context,
  candidate: CandidateRow,
  version: number,
  seed: number,
): Promise<StoredPlan> {
  return together(context, async (transaction) => {
    await context.models.candidates.findByPk(candidate.id, { transaction, lock: true })
    const loaded = await load(context, candidate, transaction)
    const record = recordOf(loaded)
    const stored = loaded.plan?.version ?? 0
    if (stored !== version) throw conflict(storedPlan(loaded))
    const assessment = assess(record, context.clock.at(record.availability.zone))
    if (!assessment.sitting)
      throw invalid([
        {
          field: 'target.sitting',
          message: 'no sitting of this exam is still to come; add one to the exam format',
        },
      ])
    try {
      const plan = workOut(planInput(assessment, assessment.sitting, seed))
      await storePlan(
        context,
        candidate.id,
        JSON.parse(JSON.stringify(plan)) as Plan,
        version + 1,
        transaction,
      )
    } catch (error) {
      if (error instanceof PlanProblem) throw invalid([{ field: error.field, message: error.message }])
      throw error
    }
    return storedPlan(await load(context, candidate, transaction))!
  })
}

/** Marks what became of a session. The same change sent twice is stored once. */
export async function saveSession(
  context: Context,
  candidate: CandidateRow,
  id: string,
  input: { version: number } & Pick<PlanSession, 'status' | 'minutesDone' | 'startedAt'>,
): Promise<StoredSession> {
  return together(context, async (transaction) => {
    const row = await context.models.sessions.findOne({
      where: { candidateId: candidate.id, id },
      transaction,
      lock: true,
    })
    if (!row) throw notFound()
    const { version, ...change } = input
    const document = JSON.parse(
      JSON.stringify({ ...row.document, minutesDone: undefined, startedAt: undefined, ...change }),
    ) as PlanSession
    if (isDeepStrictEqual(row.document, document)) return { ...row.document, version: row.version }
    if (row.version !== version) throw conflict({ ...row.document, version: row.version })
    await row.update({ document, status: document.status, version: version + 1 }, { transaction })
    return { ...document, version: version + 1 }
  })
}
