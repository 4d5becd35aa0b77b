import type { Sequelize } from 'sequelize'

/** A private address under which a calendar program reads the plan; only its hash is kept, and a new one ends the old. */
export const up = async (sequelize: Sequelize): Promise<void> => {
  await sequelize.query(`CREATE TABLE IF NOT EXISTS feeds (
    candidate_id CHAR(36) CHARACTER SET ascii COLLATE ascii_bin NOT NULL PRIMARY KEY,
    token_hash CHAR(64) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
    made_at DATETIME NOT NULL,
    read_at DATETIME NULL,
    UNIQUE KEY feeds_token (token_hash),
    CONSTRAINT feeds_candidate FOREIGN KEY (candidate_id) REFERENCES candidates (id) ON DELETE CASCADE
  ) ENGINE=InnoDB DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_unicode_ci`)
}
