import type { Sequelize } from 'sequelize'

/** Comparisons of ways through a section that a candidate keeps. */
export const up = async (sequelize: Sequelize): Promise<void> => {
  await sequelize.query(`CREATE TABLE IF NOT EXISTS simulations (
    candidate_id CHAR(36) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
    id CHAR(36) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
    made_at DATETIME(3) NOT NULL,
    document LONGTEXT NOT NULL,
    PRIMARY KEY (candidate_id, id),
    KEY simulations_made (candidate_id, made_at),
    CONSTRAINT simulations_candidate FOREIGN KEY (candidate_id) REFERENCES candidates (id) ON DELETE CASCADE
  ) ENGINE=InnoDB DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_unicode_ci`)
}
