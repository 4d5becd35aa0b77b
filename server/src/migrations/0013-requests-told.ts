import type { Sequelize } from 'sequelize'

/**
 * Of a change that was done: what it changed and to which version, so that whoever is in conflict with a save of their own whose
 * answer was lost hears which it was; and what its answer told, so that it is answered as the first time.
 */
export const up = async (sequelize: Sequelize): Promise<void> => {
  await sequelize.query('ALTER TABLE requests ADD COLUMN IF NOT EXISTS what VARCHAR(140) NULL')
  await sequelize.query('ALTER TABLE requests ADD COLUMN IF NOT EXISTS version INT NULL')
  await sequelize.query("ALTER TABLE requests ADD COLUMN IF NOT EXISTS told LONGTEXT NOT NULL DEFAULT '{}'")
}
