import { type CreationOptional, DataTypes, type Sequelize } from 'sequelize'
import type { PlanHead, PlanSession } from '@climber/contract'
import { dated, id, plain, reference, type Row, text, version } from './columns'
import { jsonColumn } from './json'

/** A change of a plan: sessions put in place of those of the same id, sessions gone, the rest of the plan, days off. */
export interface PlanDelta {
  put: PlanSession[]
  drop: string[]
  head: PlanHead
  daysOff?: string[]
}

export interface PlanRow extends Row<PlanRow> {
  id: string
  candidateId: string
  /** Of the exam that the sitting is one of. */
  lineage: string
  sitting: string
  version: number
  document: PlanHead
}

export interface SessionRow extends Row<SessionRow> {
  candidateId: string
  id: string
  planId: string
  date: string
  start: string
  status: string
  document: PlanSession
  version: number
  updatedAt: CreationOptional<Date>
}

export interface StepRow extends Row<StepRow> {
  id: CreationOptional<number>
  candidateId: string
  planId: string
  what: string
  back: PlanDelta
  forth: PlanDelta
  undone: boolean
}

/** A change of a plan that was done, by the id of its request. */
export interface RequestRow extends Row<RequestRow> {
  candidateId: string
  id: string
  /** What was changed, and the version that it had then. */
  what: string | null
  version: number | null
  told: Told
  doneAt: Date
}
/** What the answer to a change told that cannot be seen from what is stored. */
export interface Told {
  /** That the free time was changed with it. */
  availability?: boolean
  /** The sessions that were changed with it. */
  sessions?: string[]
}

/** Plans by sitting, their sessions, the steps to undo, and the requests that were done. */
export const definePlans = (sequelize: Sequelize) => ({
  plans: sequelize.define<PlanRow>(
    'plan',
    {
      id: id(),
      candidateId: reference(),
      lineage: reference(),
      sitting: text(60),
      version: version(),
      document: jsonColumn('document'),
    },
    { ...dated, tableName: 'plans' },
  ),
  sessions: sequelize.define<SessionRow>(
    'planSession',
    {
      candidateId: { ...reference(), primaryKey: true },
      id: { ...text(120), primaryKey: true },
      planId: reference(),
      date: { type: DataTypes.DATEONLY, allowNull: false },
      start: text(5),
      status: text(12),
      document: jsonColumn('document'),
      version: version(),
      updatedAt: DataTypes.DATE(3),
    },
    { ...dated, tableName: 'plan_sessions' },
  ),
  steps: sequelize.define<StepRow>(
    'planStep',
    {
      id: { type: DataTypes.BIGINT, primaryKey: true, autoIncrement: true },
      candidateId: reference(),
      planId: reference(),
      what: text(200),
      back: jsonColumn('back'),
      forth: jsonColumn('forth'),
      undone: { type: DataTypes.BOOLEAN, allowNull: false },
    },
    { ...plain, tableName: 'plan_steps' },
  ),
  requests: sequelize.define<RequestRow>(
    'request',
    {
      candidateId: { ...reference(), primaryKey: true },
      id: id(),
      what: { type: DataTypes.STRING(140), allowNull: true },
      version: { type: DataTypes.INTEGER, allowNull: true },
      told: jsonColumn('told'),
      doneAt: { type: DataTypes.DATE(3), allowNull: false },
    },
    { ...plain, tableName: 'requests' },
  ),
})
