import { Op, type Transaction } from 'sequelize'
import type { RequestRow, Told } from '../models'
import { Refusal } from '../refusal'
import type { Context } from './context'

/** A request that was done is remembered so long; nothing waits longer to be sent again. */
const rememberedDays = 60

/** A change of something in a candidate's record. */
interface Change<T> {
  /** What is changed, by a name that it has alone in the record: `plan`, `part target`. */
  what: string
  work: () => Promise<T>
  /** The answer as it is now to a change that was done before and told this. */
  again: (told: Told) => Promise<T>
  /** The version that the change left, and what its answer told that is not found again. */
  left: (answer: T) => { version?: number; told?: Told }
}

/** A change that was done before: its answer was lost, and it was sent again. */
const doneBefore = async (
  { models }: Context,
  candidateId: string,
  id: string | undefined,
  transaction: Transaction,
): Promise<RequestRow | null> =>
  id === undefined ? null : models.requests.findOne({ where: { candidateId, id }, transaction })

/** Remembers that a change was done, and forgets those of long ago. */
async function noteDone(
  { models, clock }: Context,
  done: { candidateId: string; id: string; what: string; version?: number; told?: Told },
  transaction: Transaction,
): Promise<void> {
  const now = Date.parse(clock.now())
  const { version = null, told = {} } = done
  await models.requests.create({ ...done, version, told, doneAt: new Date(now) }, { transaction })
  const old = new Date(now - rememberedDays * 86_400_000)
  const { candidateId } = done
  await models.requests.destroy({ where: { candidateId, doneAt: { [Op.lt]: old } }, transaction })
}

/** Names in a conflict the request under which what is stored now was saved, if there is one. */
async function nameRequest(
  { models }: Context,
  candidateId: string,
  what: string,
  { failure }: Refusal,
  transaction: Transaction,
): Promise<void> {
  const { version } = (failure.current ?? {}) as { version?: number }
  if (failure.code !== 'conflict' || version === undefined) return
  const where = { candidateId, what, version }
  const row = await models.requests.findOne({ where, order: [['doneAt', 'DESC']], transaction })
  if (row) failure.changedUnder = row.id
}

/**
 * Does a change of a candidate's record once, however often it is sent under the same `request`: the first time `work`, then
 * `again`, which answers with what is stored now. The candidate is locked by whoever asks.
 */
export async function doneOnce<T>(
  context: Context,
  candidateId: string,
  request: string | undefined,
  transaction: Transaction,
  { what, work, again, left }: Change<T>,
): Promise<T> {
  const before = await doneBefore(context, candidateId, request, transaction)
  if (before) return again(before.told)
  const answer = await work().catch(async (error: unknown) => {
    if (error instanceof Refusal) await nameRequest(context, candidateId, what, error, transaction)
    throw error
  })
  if (request) await noteDone(context, { candidateId, id: request, what, ...left(answer) }, transaction)
  return answer
}
