import { Op, type Transaction } from 'sequelize'
import type { Context } from './context'

/** A request that was done is remembered so long; nothing waits longer to be sent again. */
const rememberedDays = 60

/** Whether a change was done before: its answer was lost, and it was sent again. */
const alreadyDone = async (
  { models }: Context,
  candidateId: string,
  id: string | undefined,
  transaction: Transaction,
): Promise<boolean> =>
  id !== undefined && (await models.requests.findOne({ where: { candidateId, id }, transaction })) !== null

/** Remembers that a change was done, and forgets those of long ago. */
async function noteDone(
  { models, clock }: Context,
  candidateId: string,
  id: string | undefined,
  transaction: Transaction,
): Promise<void> {
  if (id === undefined) return
  const now = Date.parse(clock.now())
  await models.requests.create({ candidateId, id, doneAt: new Date(now) }, { transaction })
  const old = new Date(now - rememberedDays * 86_400_000)
  await models.requests.destroy({ where: { candidateId, doneAt: { [Op.lt]: old } }, transaction })
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
  { work, again }: { work: () => Promise<T>; again: () => Promise<T> },
): Promise<T> {
  if (await alreadyDone(context, candidateId, request, transaction)) return again()
  const answer = await work()
  await noteDone(context, candidateId, request, transaction)
  return answer
}
