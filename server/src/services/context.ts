import { type Sequelize, type Transaction, UniqueConstraintError } from 'sequelize'
import type { Clock } from '../clock'
import type { Models } from '../models'

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

/** Runs `work` in one transaction, so that either all of it is stored or none. */
export const together = <T>(
  { sequelize }: Context,
  work: (transaction: Transaction) => Promise<T>,
): Promise<T> => sequelize.transaction(work)

/** What is stored, or what `create` stores; of two requests at the same moment one creates and both get the same. */
export async function onceOnly<T>(find: () => Promise<T | null>, create: () => Promise<T>): Promise<T> {
  const stored = await find()
  if (stored) return stored
  try {
    return await create()
  } catch (error) {
    const other = error instanceof UniqueConstraintError ? await find() : null
    if (!other) throw error
    return other
  }
}
