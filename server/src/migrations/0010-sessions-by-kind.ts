import { QueryTypes, type Sequelize, type Transaction } from 'sequelize'
import { planFrom1, sessionFrom1 } from '@climber/contract'
import { eachCandidate, type Json } from './stored'

interface Row {
  id: string
  document: string
}

/** A step of undo, whose sessions become those of version 2. */
const deltaFrom1 = (text: string, all: unknown[], settings: unknown): string => {
  const { put, head, ...rest } = JSON.parse(text) as { put?: unknown[]; head?: unknown }
  const sessions = put ?? []
  return JSON.stringify({
    ...rest,
    put: sessions.map((session) => sessionFrom1(session, [...sessions, ...all])),
    head: planFrom1(head, settings),
  })
}

/** Sessions have the facts of their kind in place of a sentence; plans and steps of undo likewise. */
export const up = async (sequelize: Sequelize): Promise<void> => {
  const select = <T extends object>(sql: string, candidateId: string, transaction: Transaction) =>
    sequelize.query<T>(sql, { replacements: [candidateId], type: QueryTypes.SELECT, transaction })
  const update = (sql: string, replacements: unknown[], transaction: Transaction) =>
    sequelize.query(sql, { replacements, transaction })
  await eachCandidate(sequelize, async (candidateId, transaction) => {
    const [settings] = await select<{ document: string }>(
      "SELECT document FROM parts WHERE candidate_id = ? AND part = 'settings'",
      candidateId,
      transaction,
    )
    const own = settings && (JSON.parse(settings.document) as Json)
    const plans = await select<Row>(
      'SELECT id, document FROM plans WHERE candidate_id = ?',
      candidateId,
      transaction,
    )
    for (const { id, document } of plans)
      await update(
        'UPDATE plans SET document = ? WHERE id = ?',
        [JSON.stringify(planFrom1(JSON.parse(document), own)), id],
        transaction,
      )
    const rows = await select<Row>(
      'SELECT id, document FROM plan_sessions WHERE candidate_id = ?',
      candidateId,
      transaction,
    )
    const all = rows.map(({ document }) => JSON.parse(document) as unknown)
    for (const [at, { id }] of rows.entries())
      await update(
        'UPDATE plan_sessions SET document = ? WHERE candidate_id = ? AND id = ?',
        [JSON.stringify(sessionFrom1(all[at], all)), candidateId, id],
        transaction,
      )
    const steps = await select<{ id: number; back: string; forth: string }>(
      'SELECT id, back, forth FROM plan_steps WHERE candidate_id = ?',
      candidateId,
      transaction,
    )
    for (const { id, back, forth } of steps)
      await update(
        'UPDATE plan_steps SET back = ?, forth = ? WHERE id = ?',
        [deltaFrom1(back, all, own), deltaFrom1(forth, all, own), id],
        transaction,
      )
  })
}
