import type { Sequelize } from 'sequelize'

const uuid = 'CHAR(36) CHARACTER SET ascii COLLATE ascii_bin'
const engine = 'ENGINE=InnoDB DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_unicode_ci'

/**
 * Members of a workspace have a role; a single record can be granted to somebody outside it. And changes of a plan that were
 * done, by the id of their request: sent again they are not done again.
 */
export const up = async (sequelize: Sequelize): Promise<void> => {
  await sequelize.query(
    "ALTER TABLE memberships ADD COLUMN IF NOT EXISTS role VARCHAR(12) NOT NULL DEFAULT 'owner'",
  )
  await sequelize.query(`CREATE TABLE IF NOT EXISTS grants (
    candidate_id ${uuid} NOT NULL,
    user_id ${uuid} NOT NULL,
    role VARCHAR(12) NOT NULL,
    PRIMARY KEY (candidate_id, user_id),
    KEY grants_user (user_id),
    CONSTRAINT grants_candidate FOREIGN KEY (candidate_id) REFERENCES candidates (id) ON DELETE CASCADE,
    CONSTRAINT grants_user FOREIGN KEY (user_id) REFERENCES users (id) ON DELETE CASCADE
  ) ${engine}`)
  await sequelize.query(`CREATE TABLE IF NOT EXISTS requests (
    candidate_id ${uuid} NOT NULL,
    id ${uuid} NOT NULL,
    done_at DATETIME(3) NOT NULL,
    PRIMARY KEY (candidate_id, id),
    KEY requests_done (done_at),
    CONSTRAINT requests_candidate FOREIGN KEY (candidate_id) REFERENCES candidates (id) ON DELETE CASCADE
  ) ${engine}`)
}
