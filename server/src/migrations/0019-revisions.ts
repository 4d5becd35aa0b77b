import type { Sequelize } from 'sequelize'

/** How often a record was written: what rests on all of it is looked up by one number. */
export const up = async (sequelize: Sequelize): Promise<void> => {
  await sequelize.query(
    'ALTER TABLE candidates ADD COLUMN IF NOT EXISTS revision INT UNSIGNED NOT NULL DEFAULT 0',
  )
}
