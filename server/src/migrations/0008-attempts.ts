import { QueryTypes, type Sequelize } from 'sequelize'
import { diagnosisToAttempts, drillToAttempt, testToAttempt } from '@climber/contract'
import { eachCandidate, insertAttempts, type Json } from './stored'

const uuid = 'CHAR(36) CHARACTER SET ascii COLLATE ascii_bin'
const engine = 'ENGINE=InnoDB DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_unicode_ci'

/**
 * Whatever was sat is an attempt: the diagnostic and the tests before it, practice tests, pace drills. What the diagnosis says
 * besides is the candidate's own ratings. Each step can be begun again where it was cut short.
 */
export const up = async (sequelize: Sequelize): Promise<void> => {
  await sequelize.query(`CREATE TABLE IF NOT EXISTS attempts (
    candidate_id ${uuid} NOT NULL,
    id ${uuid} NOT NULL,
    kind VARCHAR(12) NOT NULL,
    date DATE NULL,
    document LONGTEXT NOT NULL CHECK (JSON_VALID(document)),
    version INT NOT NULL,
    created_at DATETIME(3) NOT NULL,
    updated_at DATETIME(3) NOT NULL,
    PRIMARY KEY (candidate_id, id),
    KEY attempts_date (candidate_id, date, id),
    CONSTRAINT attempts_candidate FOREIGN KEY (candidate_id) REFERENCES candidates (id) ON DELETE CASCADE
  ) ${engine}`)
  await sequelize.query(`CREATE TABLE IF NOT EXISTS attempt_items (
    candidate_id ${uuid} NOT NULL,
    attempt_id ${uuid} NOT NULL,
    item INT NOT NULL,
    item_id VARCHAR(120) CHARACTER SET utf8mb4 COLLATE utf8mb4_bin NULL,
    topic VARCHAR(60) CHARACTER SET ascii COLLATE ascii_bin NULL,
    document LONGTEXT NOT NULL CHECK (JSON_VALID(document)),
    PRIMARY KEY (candidate_id, attempt_id, item),
    KEY attempt_items_item (candidate_id, item_id),
    CONSTRAINT attempt_items_attempt FOREIGN KEY (candidate_id, attempt_id)
      REFERENCES attempts (candidate_id, id) ON DELETE CASCADE
  ) ${engine}`)
  const old = await sequelize.query("SHOW TABLES LIKE 'practice_tests'", { type: QueryTypes.SELECT })
  await eachCandidate(sequelize, async (candidateId, transaction) => {
    const parts = await sequelize.query<{ part: string; document: string; version: number }>(
      "SELECT part, document, version FROM parts WHERE candidate_id = ? AND part IN ('diagnosis', 'drills')",
      { replacements: [candidateId], type: QueryTypes.SELECT, transaction },
    )
    for (const { part, document } of parts) {
      const stored = JSON.parse(document) as Json
      if (part === 'drills') {
        const rounds = Array.isArray(stored['rounds']) ? stored['rounds'] : []
        await insertAttempts(sequelize, candidateId, rounds.map(drillToAttempt), transaction)
        continue
      }
      const { ratings, attempts } = diagnosisToAttempts(stored)
      await insertAttempts(sequelize, candidateId, attempts, transaction)
      await sequelize.query(
        `INSERT IGNORE INTO parts (candidate_id, part, document, version, changed_by, updated_at)
         SELECT candidate_id, 'ratings', ?, version, changed_by, updated_at FROM parts
         WHERE candidate_id = ? AND part = 'diagnosis'`,
        { replacements: [JSON.stringify(ratings), candidateId], transaction },
      )
    }
    await sequelize.query("DELETE FROM parts WHERE candidate_id = ? AND part IN ('diagnosis', 'drills')", {
      replacements: [candidateId],
      transaction,
    })
    if (!old.length) return
    const tests = await sequelize.query<{ document: string; version: number }>(
      'SELECT document, version FROM practice_tests WHERE candidate_id = ?',
      { replacements: [candidateId], type: QueryTypes.SELECT, transaction },
    )
    for (const { document, version } of tests)
      await insertAttempts(
        sequelize,
        candidateId,
        [testToAttempt(JSON.parse(document))],
        transaction,
        version,
      )
  })
  await sequelize.query('DROP TABLE IF EXISTS practice_tests')
}
