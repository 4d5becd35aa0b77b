import type { Sequelize } from 'sequelize'

/** What was done to a plan, forth and back, so that it can be undone and done again. */
export const up = async (sequelize: Sequelize): Promise<void> => {
  await sequelize.query(`CREATE TABLE IF NOT EXISTS plan_steps (
    id BIGINT NOT NULL AUTO_INCREMENT PRIMARY KEY,
    candidate_id CHAR(36) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
    what VARCHAR(200) NOT NULL,
    back LONGTEXT NOT NULL,
    forth LONGTEXT NOT NULL,
    undone BOOLEAN NOT NULL DEFAULT FALSE,
    KEY plan_steps_candidate (candidate_id, id),
    CONSTRAINT plan_steps_candidate FOREIGN KEY (candidate_id) REFERENCES candidates (id) ON DELETE CASCADE
  ) ENGINE=InnoDB DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_unicode_ci`)
}
