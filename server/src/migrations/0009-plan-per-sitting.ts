import type { Sequelize } from 'sequelize'

const uuid = 'CHAR(36) CHARACTER SET ascii COLLATE ascii_bin'
const slug = 'VARCHAR(60) CHARACTER SET ascii COLLATE ascii_bin'

/** A candidate has a plan for each sitting; sessions and steps belong to one. The plan there was keeps the candidate's id. */
export const up = async (sequelize: Sequelize): Promise<void> => {
  await sequelize.query(`ALTER TABLE plans
    ADD COLUMN IF NOT EXISTS id ${uuid} NULL FIRST,
    ADD COLUMN IF NOT EXISTS lineage ${uuid} NULL AFTER candidate_id,
    ADD COLUMN IF NOT EXISTS sitting ${slug} NULL AFTER lineage`)
  await sequelize.query(`UPDATE plans
    JOIN candidates ON candidates.id = plans.candidate_id
    JOIN exams ON exams.id = candidates.exam_id
    SET plans.id = plans.candidate_id, plans.lineage = exams.lineage,
      plans.sitting = JSON_VALUE(plans.document, '$.sitting')
    WHERE plans.id IS NULL`)
  await sequelize.query(`ALTER TABLE plans
    DROP FOREIGN KEY IF EXISTS plans_candidate,
    MODIFY COLUMN id ${uuid} NOT NULL,
    MODIFY COLUMN lineage ${uuid} NOT NULL,
    MODIFY COLUMN sitting ${slug} NOT NULL,
    DROP PRIMARY KEY,
    ADD PRIMARY KEY (id),
    ADD UNIQUE KEY IF NOT EXISTS plans_sitting (candidate_id, lineage, sitting)`)
  await sequelize.query(`ALTER TABLE plans
    ADD CONSTRAINT plans_candidate FOREIGN KEY (candidate_id) REFERENCES candidates (id) ON DELETE CASCADE`)
  for (const table of ['plan_sessions', 'plan_steps']) {
    await sequelize.query(`ALTER TABLE ${table} ADD COLUMN IF NOT EXISTS plan_id ${uuid} NULL`)
    await sequelize.query(`UPDATE ${table} SET plan_id = candidate_id WHERE plan_id IS NULL`)
    // A session without a plan was never shown.
    await sequelize.query(`DELETE FROM ${table} WHERE plan_id NOT IN (SELECT id FROM plans)`)
    await sequelize.query(`ALTER TABLE ${table}
      MODIFY COLUMN plan_id ${uuid} NOT NULL,
      ADD KEY IF NOT EXISTS ${table}_plan (plan_id),
      ADD CONSTRAINT ${table}_plan FOREIGN KEY IF NOT EXISTS (plan_id) REFERENCES plans (id) ON DELETE CASCADE`)
  }
}
