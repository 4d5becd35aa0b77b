import { QueryTypes, type Sequelize } from 'sequelize'
import { type Card, type CardHistory, nothingRecalled } from '@climber/contract'
import { countedCard, recalledFrom } from '@climber/core'
import { eachCandidate } from './stored'

/**
 * What answers from memory say of each candidate, in short, so that a record is read without them. It follows from cards and answers, and
 * is written anew here by the rules of today.
 */
export const up = async (sequelize: Sequelize): Promise<void> => {
  await sequelize.query(`CREATE TABLE IF NOT EXISTS recall_told (
    candidate_id CHAR(36) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
    document LONGTEXT NOT NULL CHECK (JSON_VALID(document)),
    PRIMARY KEY (candidate_id),
    CONSTRAINT recall_told_candidate FOREIGN KEY (candidate_id) REFERENCES candidates (id) ON DELETE CASCADE
  ) ENGINE=InnoDB DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_unicode_ci`)
  await eachCandidate(sequelize, async (id, transaction) => {
    const rows = await sequelize.query<{ document: string; answers: string | null }>(
      `SELECT c.document, h.document AS answers FROM recall_cards c
         LEFT JOIN recall_histories h ON h.candidate_id = c.candidate_id AND h.card = c.id
        WHERE c.candidate_id = :id`,
      { replacements: { id }, type: QueryTypes.SELECT, transaction },
    )
    if (!rows.length) return
    const counted = rows.map(({ document, answers }) =>
      countedCard(
        JSON.parse(document) as Card,
        answers === null ? [] : (JSON.parse(answers) as CardHistory['answers']),
      ),
    )
    await sequelize.query('REPLACE INTO recall_told (candidate_id, document) VALUES (:id, :document)', {
      replacements: { id, document: JSON.stringify(recalledFrom(nothingRecalled, counted)) },
      transaction,
    })
  })
}
