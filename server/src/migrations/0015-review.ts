import type { Sequelize } from 'sequelize'

const uuid = 'CHAR(36) CHARACTER SET ascii COLLATE ascii_bin'
const engine = 'ENGINE=InnoDB DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_unicode_ci'

/**
 * What was found in review, one note for an item. It outlives what was sat, so that this can be put back with its
 * notes. And the addresses at which single reviews are read by others. */
export const up = async (sequelize: Sequelize): Promise<void> => {
  await sequelize.query(`CREATE TABLE IF NOT EXISTS review_notes (
    candidate_id ${uuid} NOT NULL,
    attempt_id ${uuid} NOT NULL,
    item INT NOT NULL,
    document LONGTEXT NOT NULL CHECK (JSON_VALID(document)),
    version INT NOT NULL,
    PRIMARY KEY (candidate_id, attempt_id, item),
    CONSTRAINT review_notes_candidate FOREIGN KEY (candidate_id) REFERENCES candidates (id) ON DELETE CASCADE
  ) ${engine}`)
  await sequelize.query(`CREATE TABLE IF NOT EXISTS review_shares (
    candidate_id ${uuid} NOT NULL,
    attempt_id ${uuid} NOT NULL,
    token_hash CHAR(64) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
    mode VARCHAR(10) NOT NULL,
    made_at DATETIME(3) NOT NULL,
    PRIMARY KEY (candidate_id, attempt_id),
    UNIQUE KEY review_shares_token (token_hash),
    CONSTRAINT review_shares_candidate FOREIGN KEY (candidate_id) REFERENCES candidates (id) ON DELETE CASCADE
  ) ${engine}`)
}
