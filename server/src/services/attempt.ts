import { isDeepStrictEqual } from 'node:util'
import type { Transaction } from 'sequelize'
import {
  Attempt,
  attemptIssues,
  issuesOf,
  type PlanSession,
  type SavedAttempt,
  type StoredSession,
} from '@climber/contract'
import { countIssuesOfItems, sessionsAfter, sessionsSat } from '@climber/core'
import type { AttemptRow, CandidateRow, Told } from '../models'
import { conflict, invalid, notFound } from '../refusal'
import { type Context, inParts, together } from './context'
import { type Loaded, loadLocked, momentOf, planOf, storedPlan } from './record'
import { quota, refuseLarge } from './quota'
import { doneOnce } from './request'
import { writeSessions } from './session'
import { attemptOf, formatOf, plainly } from './stored'

/** The rows of an attempt's items. */
const itemRows = (candidateId: string, { id, items = [] }: Pick<Attempt, 'id' | 'items'>) =>
  items.map((document) => ({
    candidateId,
    attemptId: id,
    item: document.item,
    itemId: document.id ?? null,
    topic: document.topic ?? null,
    document,
  }))

/** Stores the items of attempts that have none yet. */
async function createItems(
  { models }: Context,
  candidateId: string,
  attempts: Attempt[],
  transaction: Transaction,
): Promise<void> {
  const rows = attempts.flatMap((attempt) => itemRows(candidateId, attempt))
  await inParts(rows, (part) => models.attemptItems.bulkCreate(part, { transaction }))
}

/** Stores attempts, each with its items, as new ones. */
export async function createAttempts(
  context: Context,
  candidateId: string,
  attempts: Attempt[],
  transaction: Transaction,
): Promise<void> {
  await context.models.attempts.bulkCreate(
    attempts.map(({ items: _, ...document }) => ({
      candidateId,
      id: document.id,
      kind: document.kind,
      date: document.date ?? null,
      document,
      version: 1,
    })),
    { transaction },
  )
  await createItems(context, candidateId, attempts, transaction)
}

/** Puts the items of a stored attempt in place of those there are. */
async function replaceItems(
  context: Context,
  candidateId: string,
  attempt: Attempt,
  transaction: Transaction,
): Promise<void> {
  await context.models.attemptItems.destroy({ where: { candidateId, attemptId: attempt.id }, transaction })
  await createItems(context, candidateId, [attempt], transaction)
}

const storedVersion = (loaded: Loaded, id: string) => {
  const row = loaded.attempts.find((stored) => stored.id === id)
  return row && { row, attempt: attemptOf(row, loaded.items.get(id)) }
}

/**
 * Stores what was sat under the client's id; the same request sent twice is stored once. The planned test that it was is done
 * with it, on the day on which it was sat.
 */
export async function saveAttempt(
  context: Context,
  candidate: CandidateRow,
  id: string,
  { version, request, attempt: input }: { version: number; request?: string; attempt: Attempt },
): Promise<SavedAttempt> {
  const attempt = plainly({ ...input, id })
  return together(context, async (transaction) => {
    const loaded = await loadLocked(context, candidate, transaction)
    return doneOnce(context, candidate.id, request, transaction, {
      what: `attempt ${id}`,
      left: ({ attempt: { version }, sessions }) => ({ version, told: toldOf(sessions) }),
      work: () => writeAttempt(context, loaded, version, attempt, transaction),
      again: (told) => {
        const stored = storedVersion(loaded, id)
        if (!stored) throw notFound()
        return Promise.resolve(savedOf(stored, sessionsTold(loaded, told)))
      },
    })
  })
}

/** The sessions that an answer told of, to be told again as they are then. */
const toldOf = (sessions: PlanSession[]): Told => ({ sessions: sessions.map(({ id }) => id) })
const sessionsTold = (loaded: Loaded, { sessions = [] }: Told): StoredSession[] =>
  storedPlan(loaded)?.sessions.filter(({ id }) => sessions.includes(id)) ?? []

/** What is stored of an attempt, with sessions of the plan. */
const savedOf = (
  { row, attempt }: { row: AttemptRow; attempt: Attempt },
  sessions: StoredSession[],
): SavedAttempt => ({ attempt: { ...attempt, version: row.version }, sessions })

async function writeAttempt(
  context: Context,
  loaded: Loaded,
  version: number,
  attempt: Attempt,
  transaction: Transaction,
): Promise<SavedAttempt> {
  const { id } = attempt
  const exam = formatOf(loaded.exam)
  const { date: today } = momentOf(context, loaded)
  const issues = [
    ...attemptIssues(exam, attempt, { today, whole: true }),
    ...countIssuesOfItems(exam, attempt),
  ]
  if (issues.length) throw invalid(issuesOf({ issues }))
  const stored = storedVersion(loaded, id)
  const session = attempt.session ?? stored?.attempt.session
  const wanted: Attempt = { ...attempt, ...(session && { session }) }
  if (stored && isDeepStrictEqual(stored.attempt, Attempt.parse(wanted)))
    return savedOf(stored, sessionsTold(loaded, { sessions: session ? [session] : [] }))
  if (stored && stored.row.version !== version)
    throw conflict({ document: stored.attempt, version: stored.row.version })
  // What was said of a session since an attempt was first kept stays as it was said.
  const sat =
    loaded.plan && (!stored || !session) ? sessionsSat(planOf(loaded.plan, loaded.sessions), wanted) : []
  await refuseLarge(context, loaded.candidate.workspaceId, JSON.stringify(wanted).length, transaction)
  const linked: Attempt = sat[0] ? { ...wanted, session: sat[0].id } : wanted
  if (stored) {
    const { items: _, ...document } = linked
    const date = linked.date ?? null
    await stored.row.update({ kind: linked.kind, date, document, version: version + 1 }, { transaction })
    await replaceItems(context, loaded.candidate.id, linked, transaction)
  } else {
    if (loaded.attempts.length >= quota.attempts)
      throw invalid([
        { field: '', message: `${quota.attempts} sat tests are kept already; delete one first` },
      ])
    await createAttempts(context, loaded.candidate.id, [linked], transaction)
  }
  const sessions = await writeSessions(context, loaded, sat, transaction)
  return { attempt: { ...linked, version: stored ? version + 1 : 1 }, sessions }
}

/** Removes an attempt; the planned test that it was is open again. */
export async function deleteAttempt(
  context: Context,
  candidate: CandidateRow,
  id: string,
  request?: string,
): Promise<Pick<SavedAttempt, 'sessions'>> {
  return together(context, async (transaction) => {
    const loaded = await loadLocked(context, candidate, transaction)
    const stored = storedVersion(loaded, id)
    return doneOnce(context, candidate.id, request, transaction, {
      what: `attempt ${id}`,
      left: ({ sessions }) => ({ told: toldOf(sessions) }),
      again: (told) => Promise.resolve({ sessions: sessionsTold(loaded, told) }),
      work: async () => {
        if (!stored) return { sessions: [] }
        await stored.row.destroy({ transaction })
        const open: PlanSession[] = loaded.plan
          ? sessionsAfter(planOf(loaded.plan, loaded.sessions), stored.attempt)
          : []
        return { sessions: await writeSessions(context, loaded, open, transaction) }
      },
    })
  })
}
