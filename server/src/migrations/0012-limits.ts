import type { Sequelize } from 'sequelize'

const uuid = 'CHAR(36) CHARACTER SET ascii COLLATE ascii_bin'
const engine = 'ENGINE=InnoDB DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_unicode_ci'

/**
 * Limits that several servers keep together; what was deleted and by whom, so that a delete sent again is answered as the
 * first time and a save that comes late does not bring it back; versions of templates.
 */
export const up = async (sequelize: Sequelize): Promise<void> => {
  await sequelize.query(`CREATE TABLE IF NOT EXISTS limits (
    name CHAR(64) CHARACTER SET ascii COLLATE ascii_bin NOT NULL PRIMARY KEY,
    hits INT NOT NULL,
    resets_at DATETIME(3) NOT NULL,
    KEY limits_resets (resets_at)
  ) ${engine}`)
  await sequelize.query(`CREATE TABLE IF NOT EXISTS deletions (
    id ${uuid} NOT NULL PRIMARY KEY,
    user_id ${uuid} NOT NULL,
    deleted_at DATETIME(3) NOT NULL,
    KEY deletions_deleted (deleted_at),
    CONSTRAINT deletions_user FOREIGN KEY (user_id) REFERENCES users (id) ON DELETE CASCADE
  ) ${engine}`)
  await sequelize.query('ALTER TABLE templates ADD COLUMN IF NOT EXISTS version INT NOT NULL DEFAULT 1')
  // Visitors who never signed in had a row each.
  await sequelize.query('DELETE FROM web_sessions WHERE user_id IS NULL')
}
