import { randomUUID } from 'node:crypto'
import { isDeepStrictEqual } from 'node:util'
import type { Transaction } from 'sequelize'
import {
  type Basis,
  type CandidateRecord,
  changedSince,
  type ChangedPlan,
  type Move,
  type Plan,
  type PlanSession,
  type PlanChange,
  type StoredPart,
  type StoredPlan,
  versionsOf,
} from '@climber/contract'
import {
  arrange,
  isOpen,
  minuteOf,
  type Moment,
  PlanProblem,
  previewPlan,
  replan,
  withChanges,
} from '@climber/core'
import type { CandidateRow, PlanRow } from '../models'
import { conflict, invalid, notFound } from '../refusal'
import { type Context, together } from './context'
import { load, loadLocked, type Loaded, momentOf, recordOf, storedPlan } from './record'
import { doneOnce } from './request'
import { applied, nextStep, recordStep, stepsOf } from './steps'
import { plainly } from './stored'

/** Minutes for which a preview holds, if nothing that it rested on has changed. */
const previewHolds = 60

/** What comes with every change of a plan. */
interface Requested {
  version: number
  request?: string
}
interface Acceptance extends Requested {
  seed: number
  basis?: Basis
}

/** Writes a plan over the stored one of its sitting: sessions are added, changed and removed by id. */
export async function storePlan(
  { models }: Context,
  { candidateId, lineage }: { candidateId: string; lineage: string },
  plan: Plan,
  stored: PlanRow | undefined,
  transaction: Transaction,
): Promise<PlanRow> {
  const { sessions, ...document } = plan
  const row = stored
    ? await stored.update({ document, version: stored.version + 1 }, { transaction })
    : await models.plans.create(
        { id: randomUUID(), candidateId, lineage, sitting: plan.sitting, version: 1, document },
        { transaction },
      )
  // Ids are the candidate's, whatever plan a session belongs to: one that was pinned moves from plan to plan.
  const wanted = new Set(sessions.map(({ id }) => id))
  const rows = await models.sessions.findAll({ where: { candidateId }, transaction })
  const before = new Map(rows.map((one) => [one.id, one]))
  const gone = rows.filter((one) => one.planId === row.id && !wanted.has(one.id)).map(({ id }) => id)
  if (gone.length) await models.sessions.destroy({ where: { candidateId, id: gone }, transaction })
  const changed = sessions.filter((session) => {
    const old = before.get(session.id)
    return old?.planId !== row.id || !isDeepStrictEqual(old.document, session)
  })
  await models.sessions.bulkCreate(
    changed.map((session) => ({
      candidateId,
      id: session.id,
      planId: row.id,
      date: session.date,
      start: session.start,
      // A file may leave out what is so by default.
      status: (session.status as PlanSession['status'] | undefined) ?? 'planned',
      document: session,
      version: (before.get(session.id)?.version ?? 0) + 1,
    })),
    {
      transaction,
      updateOnDuplicate: ['planId', 'date', 'start', 'status', 'document', 'version', 'updatedAt'],
    },
  )
  return row
}

const noSitting = () =>
  invalid([
    {
      field: 'target.sitting',
      message: 'no sitting of this exam is still to come; add one to the exam format',
    },
  ])

/** Runs the core; where it names a field that stands against a plan, that is the answer. */
function asked<T>(work: () => T | undefined): T {
  try {
    const found = work()
    if (found === undefined) throw noSitting()
    return found
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
  const loaded = await load(context, candidate, transaction)
  const stored = storedPlan(loaded)
  if (!stored || !loaded.plan) throw notFound()
  return { ...stored, steps: await stepsOf(context, loaded.plan.id, transaction) }
}

const partNow = (loaded: Loaded): StoredPart | null => {
  const row = loaded.parts.get('availability')
  return row
    ? {
        document: row.document,
        version: row.version,
        changedBy: null,
        changedAt: row.updatedAt.toISOString(),
      }
    : null
}

/**
 * One change of the plan: the candidate locked, the plan still at the version that the change was made on, and done once,
 * however often it is sent. `work` writes it and says what of the free time changed with it.
 */
async function changePlan(
  context: Context,
  candidate: CandidateRow,
  { version, request }: Requested,
  work: (loaded: Loaded, record: CandidateRecord, transaction: Transaction) => Promise<StoredPart | null>,
): Promise<ChangedPlan> {
  return together(context, async (transaction) => {
    const loaded = await loadLocked(context, candidate, transaction)
    const answer = async (availability: StoredPart | null): Promise<ChangedPlan> => ({
      plan: await planNow(context, candidate, transaction),
      availability,
    })
    return doneOnce(context, candidate.id, request, transaction, {
      what: 'plan',
      left: ({ plan, availability }) => ({
        version: plan.version,
        ...(availability && { told: { availability: true } }),
      }),
      again: (told) => answer(told.availability ? partNow(loaded) : null),
      work: async () => {
        if ((loaded.plan?.version ?? 0) !== version) throw conflict(storedPlan(loaded))
        return answer(await work(loaded, recordOf(loaded), transaction))
      },
    })
  })
}

/**
 * The moment that an accepted preview was worked out at. It holds while nothing that it rested on was changed, and no more than
 * an hour has gone by; else it is refused with what there is now, and a fresh preview can be made of that.
 */
function momentOfBasis(loaded: Loaded, now: Moment, basis: Basis | undefined): Moment {
  if (!basis) return now
  const versions = versionsOf({
    parts: Object.fromEntries(loaded.parts),
    plan: loaded.plan && { version: loaded.plan.version, sessions: loaded.sessions },
    attempts: loaded.attempts,
    review: loaded.notes,
    recalled: loaded.recalled,
  })
  const changed = changedSince(basis.versions, versions)
  if (changed.length)
    throw conflict(
      storedPlan(loaded),
      undefined,
      `Since this preview, ${changed.join(', ')} changed. Look at a fresh one.`,
    )
  const passed = now.minute - basis.minute
  if (basis.date !== now.date || passed < -1 || passed > previewHolds)
    throw conflict(storedPlan(loaded), undefined, 'This preview is too old. Look at a fresh one.')
  return { date: basis.date, minute: basis.minute }
}

/** What a preview placed before now cannot be done any more. */
function refusePast(loaded: Loaded, plan: Plan, before: Plan | undefined, now: Moment): void {
  const stood = new Map((before?.sessions ?? []).map((session) => [session.id, session]))
  const late = plan.sessions.some((session) => {
    const old = stood.get(session.id)
    const fresh = !old || old.date !== session.date || old.start !== session.start
    return (
      fresh && isOpen(session, now.date) && session.date === now.date && minuteOf(session.start) < now.minute
    )
  })
  if (late)
    throw conflict(
      storedPlan(loaded),
      undefined,
      'A session of this preview would have begun by now. Look at a fresh one.',
    )
}

/** Stores a plan for the sitting that it is for, with a step that takes it back where it replaces one. */
async function keep(
  context: Context,
  loaded: Loaded,
  record: CandidateRecord,
  made: Plan,
  what: string,
  daysOff: { before: string[]; after: string[] } | undefined,
  transaction: Transaction,
): Promise<void> {
  const { candidate, exam } = loaded
  const all = [...(loaded.plan ? [loaded.plan] : []), ...loaded.pastPlans.map((past) => past.plan)]
  const own = all.find((row) => row.lineage === exam.lineage && row.sitting === made.sitting)
  const before = own === loaded.plan ? record.plan : undefined
  const plan = before ? withChanges(before, made, momentOf(context, loaded).date) : made
  const place = { candidateId: candidate.id, lineage: exam.lineage }
  const row = await storePlan(context, place, plan, own, transaction)
  if (before)
    await recordStep(
      context,
      row,
      what,
      { plan: before, ...(daysOff && { daysOff: daysOff.before }) },
      { plan, ...(daysOff && { daysOff: daysOff.after }) },
      transaction,
    )
}

/** Makes the plan again from today and stores it in place of version `version`. */
export const makePlan = async (
  context: Context,
  candidate: CandidateRow,
  input: Acceptance,
): Promise<StoredPlan> =>
  (
    await changePlan(context, candidate, input, async (loaded, record, transaction) => {
      const now = momentOf(context, loaded)
      const at = momentOfBasis(loaded, now, input.basis)
      const { plan } = plainly(asked(() => previewPlan(record, at, input.seed)))
      refusePast(loaded, plan, record.plan, now)
      await keep(context, loaded, record, plan, 'the plan made anew', undefined, transaction)
      return null
    })
  ).plan

async function saveDaysOff(
  userId: string,
  loaded: Loaded,
  daysOff: string[],
  transaction: Transaction,
): Promise<StoredPart | null> {
  const row = loaded.parts.get('availability')
  if (!row || isDeepStrictEqual(row.document['daysOff'] ?? [], daysOff)) return null
  await row.update(
    { document: { ...row.document, daysOff }, version: row.version + 1, changedBy: userId },
    { transaction },
  )
  return partNow(loaded)
}

const whatChanged = (change: PlanChange, mode: 'mend' | 'anew'): string => {
  if (change.kind === 'none') return mode === 'anew' ? 'the plan made anew' : 'the plan mended'
  return change.from === change.to ? `${change.from} called off` : `${change.from} to ${change.to} called off`
}

/** Mends the plan after a change, or makes it anew, and keeps it with the change. */
export const replanCandidate = (
  context: Context,
  userId: string,
  candidate: CandidateRow,
  input: Acceptance & { change: PlanChange; mode: 'mend' | 'anew' },
): Promise<ChangedPlan> =>
  changePlan(context, candidate, input, async (loaded, record, transaction) => {
    if (!record.plan) throw notFound()
    const now = momentOf(context, loaded)
    const { change, mode, seed, basis } = input
    if (change.kind === 'off' && change.from < now.date)
      throw invalid([
        { field: 'change.from', message: `${change.from} is over; call off days from ${now.date} on` },
      ])
    const at = momentOfBasis(loaded, now, basis)
    const found = asked(() => replan(record, at, seed, change, mode))
    const plan = plainly(found.plan)
    refusePast(loaded, plan, record.plan, now)
    const { daysOff } = record.availability
    const availability = await saveDaysOff(userId, loaded, found.daysOff, transaction)
    const days = availability ? { before: daysOff, after: found.daysOff } : undefined
    await keep(context, loaded, record, plan, whatChanged(change, mode), days, transaction)
    return availability
  })

/** Moves sessions by hand. All of it or nothing; refused with the rule that stands against a move. */
export const arrangePlan = (
  context: Context,
  candidate: CandidateRow,
  input: Requested & { moves: Move[] },
): Promise<ChangedPlan> =>
  changePlan(context, candidate, input, async (loaded, record, transaction) => {
    const { plan } = record
    if (!plan) throw notFound()
    const found = asked(() => arrange({ ...record, plan }, momentOf(context, loaded), input.moves))
    if (found.refusals.length)
      throw invalid(found.refusals.map(({ at, message }) => ({ field: `moves.${at}`, message })))
    await keep(context, loaded, record, plainly(found.plan), found.what, undefined, transaction)
    return null
  })

/** Takes the last change of the plan back, or does it again. What was done since stays done. */
export const undoPlan = (
  context: Context,
  userId: string,
  candidate: CandidateRow,
  input: Requested & { redo: boolean },
): Promise<ChangedPlan> =>
  changePlan(context, candidate, input, async (loaded, record, transaction) => {
    const { plan } = loaded
    if (!plan || !record.plan) throw notFound()
    const { redo } = input
    const step = await nextStep(context, plan.id, redo, transaction)
    if (!step)
      throw invalid([
        { field: '', message: redo ? 'There is nothing to do again.' : 'There is nothing to undo.' },
      ])
    const [to, from] = redo ? [step.forth, step.back] : [step.back, step.forth]
    const place = { candidateId: candidate.id, lineage: plan.lineage }
    await storePlan(context, place, applied(record.plan, to, from), plan, transaction)
    await step.update({ undone: !redo }, { transaction })
    return to.daysOff ? saveDaysOff(userId, loaded, to.daysOff, transaction) : null
  })
