import type { Sequelize } from 'sequelize'

/** What lists show of each candidate, with what it rests on: worked out again where that has changed. */
export const up = async (sequelize: Sequelize): Promise<void> => {
  await sequelize.query(`CREATE TABLE IF NOT EXISTS candidate_figures (
    candidate_id CHAR(36) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
    rests CHAR(64) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
    zone VARCHAR(60) NOT NULL,
    date DATE NOT NULL,
    document LONGTEXT NOT NULL CHECK (JSON_VALID(document)),
    PRIMARY KEY (candidate_id),
    CONSTRAINT candidate_figures_candidate FOREIGN KEY (candidate_id) REFERENCES candidates (id) ON DELETE CASCADE
  ) ENGINE=InnoDB DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_unicode_ci`)
}
