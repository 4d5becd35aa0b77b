import { Op, type Transaction } from 'sequelize'
import type { Context } from './context'

/** A request that was done is remembered so long; nothing waits longer to be sent again. */
const rememberedDays = 60

/** Whether a change was done before: its answer was lost, and it was sent again. */
export const alreadyDone = async (
  { models }: Context,
  candidateId: string,
  id: string | undefined,
  transaction: Transaction,
): Promise<boolean> =>
  id !== undefined && (await models.requests.findOne({ where: { candidateId, id }, transaction })) !== null

/** Remembers that a change was done, and forgets those of long ago. */
export async function noteDone(
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
