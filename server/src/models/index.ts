import type { Sequelize } from 'sequelize'
import { defineAttempts } from './attempt'
import { defineCandidates } from './candidate'
import { defineExams } from './exam'
import { defineFigures } from './figures'
import { definePlans } from './plan'
import { defineRecall } from './recall'
import { defineReview } from './review'
import { defineRooms } from './room'
import { defineWorkspaces } from './workspace'

export * from './attempt'
export * from './candidate'
export * from './exam'
export * from './figures'
export * from './plan'
export * from './recall'
export * from './review'
export * from './room'
export * from './workspace'

/** Sequelize models over the tables that migrations/ made. */
export const defineModels = (sequelize: Sequelize) => ({
  ...defineWorkspaces(sequelize),
  ...defineExams(sequelize),
  ...defineCandidates(sequelize),
  ...definePlans(sequelize),
  ...defineAttempts(sequelize),
  ...defineReview(sequelize),
  ...defineRecall(sequelize),
  ...defineRooms(sequelize),
  ...defineFigures(sequelize),
})

export type Models = ReturnType<typeof defineModels>
