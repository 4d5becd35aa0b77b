import { QueryTypes, type Sequelize, type Transaction } from 'sequelize'

/** What migrations do to stored documents, one candidate at a time, so that one cut short loses nothing. */
export type Json = Record<string, unknown>

export async function eachCandidate(
  sequelize: Sequelize,
  work: (candidateId: string, transaction: Transaction) => Promise<void>,
): Promise<void> {
  const candidates = await sequelize.query<{ id: string }>('SELECT id FROM candidates', {
    type: QueryTypes.SELECT,
  })
  for (const { id } of candidates) await sequelize.transaction((transaction) => work(id, transaction))
}

const rowsAtOnce = 1000

/** Attempts as rows, their items in rows of their own; those that are there already stay. */
export async function insertAttempts(
  sequelize: Sequelize,
  candidateId: string,
  attempts: Json[],
  transaction: Transaction,
  version = 1,
): Promise<void> {
  for (const attempt of attempts) {
    const { items, ...document } = attempt
    const date = typeof attempt['date'] === 'string' ? attempt['date'] : null
    await sequelize.query(
      `INSERT IGNORE INTO attempts (candidate_id, id, kind, date, document, version, created_at, updated_at)
       VALUES (?, ?, ?, ?, ?, ?, UTC_TIMESTAMP(3), UTC_TIMESTAMP(3))`,
      {
        replacements: [candidateId, attempt['id'], attempt['kind'], date, JSON.stringify(document), version],
        transaction,
      },
    )
    const rows = (Array.isArray(items) ? (items as Json[]) : []).map((item) => [
      candidateId,
      attempt['id'],
      item['item'],
      item['id'] ?? null,
      item['topic'] ?? null,
      JSON.stringify(item),
    ])
    for (let at = 0; at < rows.length; at += rowsAtOnce)
      await sequelize.query(
        'INSERT IGNORE INTO attempt_items (candidate_id, attempt_id, item, item_id, topic, document) VALUES ?',
        { replacements: [rows.slice(at, at + rowsAtOnce)], transaction },
      )
  }
}
