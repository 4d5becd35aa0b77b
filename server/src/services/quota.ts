import { QueryTypes, type Transaction } from 'sequelize'
import { invalid } from '../refusal'
import type { Context } from './context'

/** How much one workspace, and one candidate, may have; far more than any person's work. */
export const quota = {
  candidates: 2000,
  exams: 500,
  templates: 300,
  attempts: 3000,
  /** Stored text of a workspace, in bytes. */
  bytes: 400_000_000,
}
/** A document that is larger has the whole workspace counted before it is stored, in characters. */
const large = 50_000

const names = {
  candidates: 'candidates',
  exams: 'exam formats',
  templates: 'templates',
}

/** Refuses one more of something that a workspace has enough of. The workspace is held until the transaction ends. */
export async function refuseMoreThan(
  { models }: Context,
  what: keyof typeof names,
  workspaceId: string,
  transaction: Transaction,
): Promise<void> {
  await models.workspaces.findByPk(workspaceId, { transaction, lock: true })
  const where = { workspaceId }
  const there =
    what === 'candidates'
      ? await models.candidates.count({ where, transaction })
      : what === 'exams'
        ? await models.exams.count({ where, transaction })
        : await models.templates.count({ where, transaction })
  if (there >= quota[what])
    throw invalid([
      { field: '', message: `there are ${quota[what]} ${names[what]} already; delete one first` },
    ])
}

/** Refuses a large document where the workspace holds more than it may. */
export async function refuseLarge(
  { sequelize }: Context,
  workspaceId: string,
  characters: number,
  transaction: Transaction,
): Promise<void> {
  if (characters <= large) return
  const ofCandidates = [
    'parts',
    'plans',
    'plan_sessions',
    'plan_steps',
    'attempts',
    'attempt_items',
    'review_notes',
    'recall_cards',
    'recall_answers',
    'rooms',
    'room_events',
    'simulations',
  ]
    .map(
      (table) =>
        `(SELECT COALESCE(SUM(LENGTH(${table === 'plan_steps' ? 'back) + LENGTH(forth' : 'document'})), 0)
          FROM ${table} JOIN candidates ON candidates.id = ${table}.candidate_id
          WHERE candidates.workspace_id = :workspaceId)`,
    )
    .join(' + ')
  const [row] = await sequelize.query<{ bytes: string }>(
    `SELECT ${ofCandidates}
       + (SELECT COALESCE(SUM(LENGTH(document)), 0) FROM exams WHERE workspace_id = :workspaceId)
       + (SELECT COALESCE(SUM(LENGTH(extra)), 0) FROM candidates WHERE workspace_id = :workspaceId) AS bytes`,
    { replacements: { workspaceId }, type: QueryTypes.SELECT, transaction },
  )
  if (Number(row?.bytes ?? 0) + characters > quota.bytes)
    throw invalid([
      {
        field: '',
        message: `all plans together are larger than ${quota.bytes / 1_000_000} MB; delete some first`,
      },
    ])
}

/** Most characters of one stored document, as JSON. */
export const longest = { part: 300_000, commitments: 3_000_000, exam: 3_000_000, extra: 300_000 }

/** Refuses a document that is longer than any honest one. */
export function refuseLonger(field: string, document: unknown, most: number): number {
  const { length } = JSON.stringify(document) ?? ''
  if (length > most)
    throw invalid([{ field, message: `this is ${length} characters long as JSON; at most ${most} are kept` }])
  return length
}
