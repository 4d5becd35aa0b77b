import type { Sequelize } from 'sequelize'

/**
 * An exam format that candidates use is not changed under them: a change makes a new edition of the same lineage.
 * `version` tells two people apart who edit one edition that nobody uses yet.
 * Every migration can be begun again where it was cut short: statements on tables are kept one by one.
 */
export const up = async (sequelize: Sequelize): Promise<void> => {
  await sequelize.query(`ALTER TABLE exams
    ADD COLUMN IF NOT EXISTS lineage CHAR(36) CHARACTER SET ascii COLLATE ascii_bin NULL AFTER workspace_id,
    ADD COLUMN IF NOT EXISTS edition INT NOT NULL DEFAULT 1 AFTER lineage,
    ADD COLUMN IF NOT EXISTS version INT NOT NULL DEFAULT 1 AFTER edition,
    ADD COLUMN IF NOT EXISTS changed_by CHAR(36) CHARACTER SET ascii COLLATE ascii_bin NULL AFTER version,
    ADD CONSTRAINT exams_changed_by FOREIGN KEY IF NOT EXISTS (changed_by) REFERENCES users (id) ON DELETE SET NULL`)
  await sequelize.query('UPDATE exams SET lineage = id WHERE lineage IS NULL')
  await sequelize.query(`ALTER TABLE exams
    MODIFY COLUMN lineage CHAR(36) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
    ADD UNIQUE KEY IF NOT EXISTS exams_edition (workspace_id, lineage, edition)`)
}
