import type { Transaction } from 'sequelize'
import {
  type Candidate,
  type CandidateRecord,
  nothingRecalled,
  type PartDocument,
  partFrom,
  type PartName,
  type Plan,
  type PlanSession,
  type Recalled,
  recordFrom,
  type Role,
  type StoredAttempt,
  type StoredPlan,
} from '@climber/contract'
import { livedOf, type Moment, planFor, tells } from '@climber/core'
import type {
  AttemptItemRow,
  AttemptRow,
  CandidateRow,
  ExamRow,
  NoteRow,
  PartRow,
  PlanRow,
  SessionRow,
} from '../models'
import { type Context, lockCandidate } from './context'
import { storedNote } from './review'
import { stepsOf } from './steps'
import { attemptOf, formatOf, sessionOf } from './stored'

export interface Loaded {
  candidate: CandidateRow
  exam: ExamRow
  parts: Map<PartName, PartRow>
  /** For the sitting aimed at, or else the newest. */
  plan: PlanRow | null
  /** Of that plan. */
  sessions: SessionRow[]
  /** For other sittings of this exam, and for other exams. */
  pastPlans: { plan: PlanRow; sessions: SessionRow[] }[]
  attempts: AttemptRow[]
  /** By attempt; empty where they were not asked for. */
  items: Map<string, AttemptItemRow[]>
  /** Of reviews; none where items were not asked for. */
  notes: NoteRow[]
  recalled: Recalled
}

export function grouped<T>(rows: T[], keyOf: (row: T) => string): Map<string, T[]> {
  const groups = new Map<string, T[]>()
  for (const row of rows) {
    const key = keyOf(row)
    const group = groups.get(key)
    if (group) group.push(row)
    else groups.set(key, [row])
  }
  return groups
}

const ofCandidate = ({ candidateId }: { candidateId: string }) => candidateId

/** The plan of one candidate that counts now, and the others. */
function sortPlans(
  plans: PlanRow[],
  { lineage }: ExamRow,
  target: PartRow | undefined,
): { current: PlanRow | null; others: PlanRow[] } {
  const own = plans.filter((plan) => plan.lineage === lineage)
  const { sitting } = partFrom('target', target?.document)
  const heads = own.map((row) => ({ sitting: row.sitting, madeOn: row.document.madeOn, row }))
  const current = planFor(heads, sitting)?.row ?? null
  return { current, others: plans.filter((plan) => plan !== current) }
}

/**
 * Everything stored of several candidates, in as many queries however many they are. The items of what was sat, and what reviews found of them, only where they are
 * asked for: a list of candidates does not need them.
 */
export async function loadAll(
  { models }: Context,
  candidates: CandidateRow[],
  { transaction, items = false }: { transaction?: Transaction; items?: boolean } = {},
): Promise<Loaded[]> {
  const where = { candidateId: candidates.map(({ id }) => id) }
  const examIds = [...new Set(candidates.map(({ examId }) => examId))]
  const exams = await models.exams.findAll({ where: { id: examIds }, transaction })
  const partRows = grouped(await models.parts.findAll({ where, transaction }), ofCandidate)
  const plans = grouped(
    await models.plans.findAll({ where, order: [['createdAt', 'ASC']], transaction }),
    ofCandidate,
  )
  const sessions = grouped(
    await models.sessions.findAll({
      where,
      order: [
        ['date', 'ASC'],
        ['start', 'ASC'],
        ['id', 'ASC'],
      ],
      transaction,
    }),
    ({ planId }) => planId,
  )
  const attempts = grouped(
    await models.attempts.findAll({
      where,
      order: [
        ['date', 'ASC'],
        ['id', 'ASC'],
      ],
      transaction,
    }),
    ofCandidate,
  )
  const itemRows = items
    ? await models.attemptItems.findAll({ where, order: [['item', 'ASC']], transaction })
    : []
  const itemsOf = grouped(itemRows, ofCandidate)
  const order: [string, string][] = [
    ['attemptId', 'ASC'],
    ['item', 'ASC'],
  ]
  const notes = grouped(items ? await models.notes.findAll({ where, order, transaction }) : [], ofCandidate)
  const recalled = new Map(
    (await models.recalled.findAll({ where, transaction })).map(({ candidateId, document }) => [
      candidateId,
      // Days that say nothing are kept for what comes to them, and are nothing to a record.
      { ...document, days: document.days.filter(tells) },
    ]),
  )
  const examById = new Map(exams.map((exam) => [exam.id, exam]))
  return candidates.map((candidate): Loaded => {
    const exam = examById.get(candidate.examId)
    if (!exam) throw new Error(`candidate ${candidate.id} is on an exam that is not there`)
    const parts = new Map((partRows.get(candidate.id) ?? []).map((row) => [row.part, row]))
    const { current, others } = sortPlans(plans.get(candidate.id) ?? [], exam, parts.get('target'))
    return {
      candidate,
      exam,
      parts,
      plan: current,
      sessions: current ? (sessions.get(current.id) ?? []) : [],
      pastPlans: others.map((plan) => ({ plan, sessions: sessions.get(plan.id) ?? [] })),
      attempts: attempts.get(candidate.id) ?? [],
      items: grouped(itemsOf.get(candidate.id) ?? [], ({ attemptId }) => attemptId),
      notes: notes.get(candidate.id) ?? [],
      recalled: recalled.get(candidate.id) ?? nothingRecalled,
    }
  })
}

/** Everything stored of one candidate. */
export async function load(
  context: Context,
  candidate: CandidateRow,
  transaction?: Transaction,
): Promise<Loaded> {
  const [loaded] = await loadAll(context, [candidate], { transaction, items: true })
  if (!loaded) throw new Error(`candidate ${candidate.id} could not be loaded`)
  return loaded
}

/** Everything stored of one candidate, and nobody else changes it until the transaction ends. */
export async function loadLocked(
  context: Context,
  candidate: CandidateRow,
  transaction: Transaction,
): Promise<Loaded> {
  return load(context, await lockCandidate(context, candidate, transaction), transaction)
}

/** One part, with its defaults where it was never saved. */
export const documentOf = <P extends PartName>(loaded: Pick<Loaded, 'parts'>, part: P): PartDocument<P> =>
  partFrom(part, loaded.parts.get(part)?.document)

/** What the clock shows where the candidate is. */
export const momentOf = ({ clock }: Context, loaded: Pick<Loaded, 'parts'>): Moment =>
  clock.at(documentOf(loaded, 'availability').zone)

const lastLived = (pastPlans: Loaded['pastPlans']): PlanSession[] =>
  pastPlans.flatMap(({ sessions }) => livedOf(sessions.map(sessionOf)))
const takenIn = (pastPlans: Loaded['pastPlans']): string[] =>
  pastPlans.flatMap(({ sessions }) => sessions.map(({ id }) => id))

/** A stored plan with its sessions. */
export const planOf = (plan: PlanRow, sessions: SessionRow[]): Plan => ({
  ...plan.document,
  sessions: sessions.map(sessionOf),
})

/** The stored candidate as the core sees it. */
export function recordOf(loaded: Loaded): CandidateRecord {
  const { exam, plan, sessions, pastPlans, attempts, items } = loaded
  return recordFrom({
    exam: formatOf(exam),
    parts: Object.fromEntries([...loaded.parts].map(([part, { document }]) => [part, document])),
    attempts: attempts.map((row) => attemptOf(row, items.get(row.id))),
    review: loaded.notes.map(({ document }) => document),
    recalled: loaded.recalled,
    plan: plan ? planOf(plan, sessions) : undefined,
    before: lastLived(pastPlans),
    taken: takenIn(pastPlans),
  })
}

export function storedPlan({ plan, sessions }: Pick<Loaded, 'plan' | 'sessions'>): StoredPlan | null {
  if (!plan) return null
  return {
    ...plan.document,
    version: plan.version,
    sessions: sessions.map((row) => ({ ...sessionOf(row), version: row.version })),
  }
}

export const storedAttempts = ({ attempts, items }: Pick<Loaded, 'attempts' | 'items'>): StoredAttempt[] =>
  attempts.map((row) => ({ ...attemptOf(row, items.get(row.id)), version: row.version }))

/** The stored candidate as the browser gets it. */
export async function answerOf(
  context: Context,
  loaded: Loaded,
  userId: string,
  role: Role,
): Promise<Candidate> {
  const changers = [...loaded.parts.values()].flatMap(({ changedBy }) => changedBy ?? [])
  const names = new Map(
    (await context.models.users.findAll({ where: { id: [...new Set(changers)] } })).map(({ id, name }) => [
      id,
      name,
    ]),
  )
  const partsStored: Candidate['parts'] = {}
  for (const [part, { document, version, changedBy, updatedAt }] of loaded.parts)
    partsStored[part] = {
      document,
      version,
      changedBy: changedBy ? (names.get(changedBy) ?? null) : null,
      changedAt: updatedAt.toISOString(),
    }
  const stored = storedPlan(loaded)
  return {
    id: loaded.candidate.id,
    examId: loaded.exam.id,
    exam: formatOf(loaded.exam),
    parts: partsStored,
    plan: stored && loaded.plan && { ...stored, steps: await stepsOf(context, loaded.plan.id) },
    attempts: storedAttempts(loaded),
    review: loaded.notes.map(storedNote),
    recalled: loaded.recalled,
    before: lastLived(loaded.pastPlans),
    taken: takenIn(loaded.pastPlans),
    mine: loaded.candidate.userId === userId,
    role,
  }
}
