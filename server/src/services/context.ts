import { type Sequelize, type Transaction, UniqueConstraintError } from 'sequelize'
import type { Clock } from '../clock'
import type { CandidateRow, Models } from '../models'
import { errnoOf } from '../failures'
import { notFound } from '../refusal'

/** What every service works with. */
export interface Context {
  sequelize: Sequelize
  models: Models
  clock: Clock
  demo: boolean
  /** Calendars may be read at addresses inside the server's own network. */
  readsInside?: boolean
  samples?: string
}

/** How often what met somebody else's change in the middle is begun again. */
const mostTries = 5

/** The database undid a transaction because two stood in each other's way; begun again it finds its way. */
const stoodInTheWay = (error: unknown): boolean => [1213, 1205, 1020].includes(errnoOf(error))

/**
 * Runs `work` in one transaction, so that either all of it is stored or none. It may run more than once: where the database
 * undid it for the sake of another, and where what it was to create was created meanwhile.
 */
export async function together<T>(
  { sequelize }: Context,
  work: (transaction: Transaction) => Promise<T>,
): Promise<T> {
  for (let tries = 1; ; tries++)
    try {
      return await sequelize.transaction(work)
    } catch (error) {
      const again = stoodInTheWay(error) || error instanceof UniqueConstraintError
      if (!again || tries >= mostTries) throw error
    }
}

/** Rows in one statement. */
const rowsAtOnce = 1000
/** Does something with many rows, a thousand at a time, one after the other. */
export async function inParts<R>(rows: readonly R[], work: (part: R[]) => Promise<unknown>): Promise<void> {
  for (let at = 0; at < rows.length; at += rowsAtOnce) await work(rows.slice(at, at + rowsAtOnce))
}

/** The row of a candidate, held until the transaction ends: every change of a record begins with it, and is counted by it. */
export async function lockCandidate(
  { models }: Context,
  { id }: { id: string },
  transaction: Transaction,
): Promise<CandidateRow> {
  const row = await models.candidates.findByPk(id, { transaction, lock: true })
  // Deleted since the right was asked for.
  if (!row) throw notFound()
  return row.increment('revision', { silent: true, transaction })
}
