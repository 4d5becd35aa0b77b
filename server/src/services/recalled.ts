import { QueryTypes, type Transaction } from 'sequelize'
import { type Card, type CardHistory, nothingRecalled, type Recalled } from '@climber/contract'
import { type AskedThing, countedCard, recalledAfter, recalledChange } from '@climber/core'
import type { Context } from './context'

/** Cards with what was answered to them, as they count. Pictures and texts stay where they are. */
async function countedCards(
  { sequelize }: Context,
  candidateId: string,
  ids: readonly string[],
  transaction: Transaction,
): Promise<AskedThing[]> {
  if (!ids.length) return []
  const rows = await sequelize.query<{
    id: string
    kind: Card['kind']
    topic: string | null
    suspended: string | null
    answers: string | null
  }>(
    `SELECT c.id, JSON_VALUE(c.document, '$.kind') AS kind, JSON_VALUE(c.document, '$.topic') AS topic,
            JSON_VALUE(c.document, '$.suspended') AS suspended, h.document AS answers
       FROM recall_cards c
       LEFT JOIN recall_histories h ON h.candidate_id = c.candidate_id AND h.card = c.id
      WHERE c.candidate_id = :candidateId AND c.id IN (:ids)`,
    { replacements: { candidateId, ids: [...ids] }, type: QueryTypes.SELECT, transaction },
  )
  return rows.map(({ topic, suspended, answers, ...card }) =>
    countedCard(
      // JSON_VALUE writes true as 1.
      { ...card, topic: topic ?? undefined, suspended: suspended === '1' || suspended === 'true' },
      answers === null ? [] : (JSON.parse(answers) as CardHistory['answers']),
    ),
  )
}

/**
 * To be called before cards or answers to them change, of a candidate who is locked; what it answers is called afterwards, brings what
 * they say of the candidate into step with them, and answers what changed of that. `items` are the missed items that were answered.
 */
export async function recalledBefore(
  context: Context,
  candidateId: string,
  cards: readonly string[],
  transaction: Transaction,
): Promise<(items?: readonly AskedThing[]) => Promise<Recalled>> {
  const row = await context.models.recalled.findByPk(candidateId, { transaction })
  const recalled = row?.document ?? nothingRecalled
  const before = await countedCards(context, candidateId, cards, transaction)
  return async (items = []) => {
    const known = new Map(recalled.items.map((one) => [one.card, one]))
    const itemsBefore = items.flatMap(({ card }): AskedThing[] => {
      const old = known.get(card)
      return old ? [{ ...old, kind: 'item' }] : []
    })
    const after = await countedCards(context, candidateId, cards, transaction)
    const change = recalledChange(recalled, [...before, ...itemsBefore], [...after, ...items])
    await storeRecalled(context, candidateId, recalledAfter(recalled, change), transaction)
    return change
  }
}

export const storeRecalled = async (
  { models }: Context,
  candidateId: string,
  document: Recalled,
  transaction: Transaction,
): Promise<void> => void (await models.recalled.upsert({ candidateId, document }, { transaction }))
