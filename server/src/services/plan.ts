import { isDeepStrictEqual } from 'node:util'
import type { Transaction } from 'sequelize'
import type {
  ChangedPlan,
  Move,
  Plan,
  PlanChange,
  PlanSession,
  StoredPart,
  StoredPlan,
  StoredSession,
} from '@climber/contract'
import {
  arrange,
  assess,
  type CandidateRecord,
  makePlan as workOut,
  planInput,
  PlanProblem,
  replan,
} from '@climber/core'
import type { CandidateRow } from '../models'
import { conflict, invalid, notFound } from '../refusal'
import { type Context, together } from './context'
import { load, type Loaded, recordOf, storedPlan } from './record'
import { applied, nextStep, recordStep, stepsOf } from './steps'

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
    const { sitting } = assessment
    const plan = plainly(asked(() => workOut(planInput(assessment, sitting, seed))))
    await storePlan(context, candidate.id, plan, version + 1, transaction)
    if (record.plan)
      await recordStep(
        context,
        candidate.id,
        'the plan made anew',
        { plan: record.plan },
        { plan },
        transaction,
      )
    return planNow(context, candidate, transaction)
  })
}

/** As it is stored: without what is undefined. */
const plainly = <T>(value: T): T => JSON.parse(JSON.stringify(value)) as T

/** Runs the core; where it names a field that stands against a plan, that is the answer. */
function asked<T>(work: () => T): T {
  try {
    return work()
  } catch (error) {
    if (error instanceof PlanProblem) throw invalid([{ field: error.field, message: error.message }])
    throw error
  }
}

async function planNow(
  context: Context,
  candidate: CandidateRow,
  transaction: Transaction,
): Promise<StoredPlan> {
  const stored = storedPlan(await load(context, candidate, transaction))!
  return { ...stored, steps: await stepsOf(context, candidate.id, transaction) }
}

/** Opens the plan to be changed: locked, and still at the version that the change was made on. */
async function openPlan(
  context: Context,
  candidate: CandidateRow,
  version: number,
  transaction: Transaction,
): Promise<{ loaded: Loaded; record: CandidateRecord & { plan: Plan } }> {
  await context.models.candidates.findByPk(candidate.id, { transaction, lock: true })
  const loaded = await load(context, candidate, transaction)
  const record = recordOf(loaded)
  const { plan } = record
  if (!plan) throw notFound()
  if (loaded.plan!.version !== version) throw conflict(storedPlan(loaded))
  return { loaded, record: { ...record, plan } }
}

async function saveDaysOff(
  userId: string,
  loaded: Loaded,
  daysOff: string[],
  transaction: Transaction,
): Promise<StoredPart | null> {
  const row = loaded.parts.get('availability')
  if (!row || isDeepStrictEqual((row.document as { daysOff?: string[] }).daysOff ?? [], daysOff)) return null
  const stored = await row.update(
    { document: { ...row.document, daysOff }, version: row.version + 1, changedBy: userId },
    { transaction },
  )
  return {
    document: stored.document,
    version: stored.version,
    changedBy: null,
    changedAt: stored.updatedAt.toISOString(),
  }
}

/** Mends the plan after a change, or makes it anew, and keeps it with the change. */
export async function replanCandidate(
  context: Context,
  userId: string,
  candidate: CandidateRow,
  input: { version: number; seed: number; change: PlanChange; mode: 'mend' | 'anew' },
): Promise<ChangedPlan> {
  return together(context, async (transaction) => {
    const { loaded, record } = await openPlan(context, candidate, input.version, transaction)
    const now = context.clock.at(record.availability.zone)
    const { change, mode, seed, version } = input
    if (change.kind === 'off' && change.from < now.date)
      throw invalid([
        { field: 'change.from', message: `${change.from} is over; call off days from ${now.date} on` },
      ])
    const found = asked(() => replan(record, now, seed, change, mode))
    if (!found)
      throw invalid([
        {
          field: 'target.sitting',
          message: 'no sitting of this exam is still to come; add one to the exam format',
        },
      ])
    const plan = plainly(found.plan)
    await storePlan(context, candidate.id, plan, version + 1, transaction)
    const { daysOff } = record.availability
    const availability = await saveDaysOff(userId, loaded, found.daysOff, transaction)
    const what =
      change.kind === 'none'
        ? mode === 'anew'
          ? 'the plan made anew'
          : 'the plan mended'
        : change.from === change.to
          ? `${change.from} called off`
          : `${change.from} to ${change.to} called off`
    await recordStep(
      context,
      candidate.id,
      what,
      { plan: record.plan, ...(availability && { daysOff }) },
      { plan, ...(availability && { daysOff: found.daysOff }) },
      transaction,
    )
    return { plan: await planNow(context, candidate, transaction), availability }
  })
}

/** Moves sessions by hand. All of it or nothing; refused with the rule that stands against a move. */
export async function arrangePlan(
  context: Context,
  candidate: CandidateRow,
  version: number,
  moves: Move[],
): Promise<ChangedPlan> {
  return together(context, async (transaction) => {
    const { record } = await openPlan(context, candidate, version, transaction)
    const found = asked(() => arrange(record, context.clock.at(record.availability.zone), moves))
    if (found.refusals.length)
      throw invalid(found.refusals.map(({ at, message }) => ({ field: `moves.${at}`, message })))
    const plan = plainly(found.plan)
    await storePlan(context, candidate.id, plan, version + 1, transaction)
    await recordStep(context, candidate.id, found.what, { plan: record.plan }, { plan }, transaction)
    return { plan: await planNow(context, candidate, transaction), availability: null }
  })
}

/** Takes the last change of the plan back, or does it again. What was done since stays done. */
export async function undoPlan(
  context: Context,
  userId: string,
  candidate: CandidateRow,
  version: number,
  redo: boolean,
): Promise<ChangedPlan> {
  return together(context, async (transaction) => {
    const { loaded, record } = await openPlan(context, candidate, version, transaction)
    const step = await nextStep(context, candidate.id, redo, transaction)
    if (!step)
      throw invalid([
        { field: '', message: redo ? 'There is nothing to do again.' : 'There is nothing to undo.' },
      ])
    const [to, from] = redo ? [step.forth, step.back] : [step.back, step.forth]
    await storePlan(context, candidate.id, applied(record.plan, to, from), version + 1, transaction)
    const availability = to.daysOff ? await saveDaysOff(userId, loaded, to.daysOff, transaction) : null
    await step.update({ undone: !redo }, { transaction })
    return { plan: await planNow(context, candidate, transaction), availability }
  })
}

/** Marks what became of a session. The same change sent twice is stored once. */
export async function saveSession(
  context: Context,
  candidate: CandidateRow,
  id: string,
  input: { version: number } & Pick<PlanSession, 'status' | 'minutesDone' | 'startedAt' | 'feeling'>,
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
      JSON.stringify({
        ...row.document,
        minutesDone: undefined,
        startedAt: undefined,
        feeling: undefined,
        ...change,
      }),
    ) as PlanSession
    if (isDeepStrictEqual(row.document, document)) return { ...row.document, version: row.version }
    if (row.version !== version) throw conflict({ ...row.document, version: row.version })
    await row.update({ document, status: document.status, version: version + 1 }, { transaction })
    return { ...document, version: version + 1 }
  })
}
