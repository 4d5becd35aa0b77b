import { isDeepStrictEqual } from 'node:util'
import type { Transaction } from 'sequelize'
import type { Plan, PlanSession, StoredPlan } from '@climber/contract'
import type { PlanDelta, PlanRow } from '../models'
import type { Context } from './context'

/** Steps kept for each plan. */
const mostSteps = 40

const delta = (from: Plan, to: Plan, daysOff?: string[]): PlanDelta => {
  const before = new Map(from.sessions.map((session) => [session.id, session]))
  const after = new Set(to.sessions.map(({ id }) => id))
  const { sessions: _, ...head } = to
  return {
    put: to.sessions.filter((session) => !isDeepStrictEqual(before.get(session.id), session)),
    drop: from.sessions.flatMap(({ id }) => (after.has(id) ? [] : [id])),
    head,
    ...(daysOff && { daysOff }),
  }
}

/** Notes a change of a plan; what had been undone before cannot be done again after it. */
export async function recordStep(
  { models }: Context,
  { id: planId, candidateId }: Pick<PlanRow, 'id' | 'candidateId'>,
  what: string,
  before: { plan: Plan; daysOff?: string[] },
  after: { plan: Plan; daysOff?: string[] },
  transaction: Transaction,
): Promise<void> {
  await models.steps.destroy({ where: { planId, undone: true }, transaction })
  await models.steps.create(
    {
      candidateId,
      planId,
      what: what.slice(0, 200),
      forth: delta(before.plan, after.plan, after.daysOff),
      back: delta(after.plan, before.plan, before.daysOff),
      undone: false,
    },
    { transaction },
  )
  const old = await models.steps.findAll({
    where: { planId },
    attributes: ['id'],
    order: [['id', 'DESC']],
    offset: mostSteps,
    limit: 100,
    transaction,
  })
  if (old.length) await models.steps.destroy({ where: { id: old.map(({ id }) => id) }, transaction })
}

/** The step that undo takes back, or that redo does again. */
export const nextStep = ({ models }: Context, planId: string, redo: boolean, transaction?: Transaction) =>
  models.steps.findOne({
    where: { planId, undone: redo },
    order: [['id', redo ? 'ASC' : 'DESC']],
    transaction,
  })

export async function stepsOf(
  context: Context,
  planId: string,
  transaction?: Transaction,
): Promise<NonNullable<StoredPlan['steps']>> {
  const undo = await nextStep(context, planId, false, transaction)
  const redo = await nextStep(context, planId, true, transaction)
  return { undo: undo?.what ?? null, redo: redo?.what ?? null }
}

/** The plan after a delta. What was done, begun or logged since stays as it is. */
export function applied(plan: Plan, { put, drop, head }: PlanDelta, from: PlanDelta): Plan {
  const was = new Map(from.put.map((session) => [session.id, session]))
  const lived = ({ id, status, minutesDone }: PlanSession) =>
    status !== 'planned' && (was.get(id)?.status !== status || was.get(id)?.minutesDone !== minutesDone)
  const sessions = new Map(plan.sessions.map((session) => [session.id, session]))
  for (const id of drop) {
    const own = sessions.get(id)
    if (own && !lived(own)) sessions.delete(id)
  }
  for (const session of put) {
    const own = sessions.get(session.id)
    if (!own || !lived(own)) sessions.set(session.id, session)
  }
  return { ...head, sessions: [...sessions.values()] }
}
