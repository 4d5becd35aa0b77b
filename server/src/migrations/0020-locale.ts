import type { Sequelize } from 'sequelize'

/** How an account writes days. */
export const up = async (sequelize: Sequelize): Promise<void> => {
  await sequelize.query(
    "ALTER TABLE users ADD COLUMN IF NOT EXISTS locale VARCHAR(5) NOT NULL DEFAULT 'en-GB'",
  )
}
