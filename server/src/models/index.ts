import {
  type CreationOptional,
  DataTypes,
  type InferAttributes,
  type InferCreationAttributes,
  type Model,
  type Sequelize,
} from 'sequelize'
import type {
  Attempt,
  ExamFormat,
  ItemResponse,
  PartName,
  PlanHead,
  PlanSession,
  Role,
  Settings,
  SimulationResult,
} from '@climber/contract'
import { jsonColumn } from './json'

type Row<M extends Model> = Model<InferAttributes<M>, InferCreationAttributes<M>>

export interface UserRow extends Row<UserRow> {
  id: string
  email: string
  name: string
  passwordHash: string
}
export interface WorkspaceRow extends Row<WorkspaceRow> {
  id: string
  name: string
}
export interface MembershipRow extends Row<MembershipRow> {
  workspaceId: string
  userId: string
  role: CreationOptional<Role>
}
/** One record that was granted to somebody outside its workspace. */
export interface GrantRow extends Row<GrantRow> {
  candidateId: string
  userId: string
  role: Role
}
export interface ExamRow extends Row<ExamRow> {
  id: string
  workspaceId: string
  /** The id of the first edition. */
  lineage: string
  edition: CreationOptional<number>
  version: CreationOptional<number>
  changedBy: string | null
  title: string
  digest: string
  /** As it was written; services/stored.ts reads it with its defaults. */
  document: ExamFormat
}
export interface CandidateRow extends Row<CandidateRow> {
  id: string
  workspaceId: string
  examId: string
  userId: string | null
  /** Keys of the Climber file that this version does not know. */
  extra: Record<string, unknown>
}
export interface PartRow extends Row<PartRow> {
  candidateId: string
  part: PartName
  document: Record<string, unknown>
  version: number
  changedBy: string | null
  updatedAt: CreationOptional<Date>
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
export interface AttemptRow extends Row<AttemptRow> {
  candidateId: string
  id: string
  kind: string
  date: string | null
  /** Without its items, which are rows of their own. */
  document: Attempt
  version: number
}
export interface AttemptItemRow extends Row<AttemptItemRow> {
  candidateId: string
  attemptId: string
  item: number
  itemId: string | null
  topic: string | null
  document: ItemResponse
}
/** A change of a plan that was done, by the id of its request. */
export interface RequestRow extends Row<RequestRow> {
  candidateId: string
  id: string
  doneAt: Date
}

export interface InvitationRow extends Row<InvitationRow> {
  codeHash: string
  candidateId: string
  expires: Date
}

export interface FeedRow extends Row<FeedRow> {
  candidateId: string
  tokenHash: string
  madeAt: Date
  readAt: Date | null
}

/** A change of a plan: sessions put in place of those of the same id, sessions gone, the rest of the plan, days off. */
export interface PlanDelta {
  put: PlanSession[]
  drop: string[]
  head: PlanHead
  daysOff?: string[]
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

export interface TemplateRow extends Row<TemplateRow> {
  id: string
  workspaceId: string
  title: string
  document: Settings
}

export interface SimulationRow extends Row<SimulationRow> {
  candidateId: string
  id: string
  madeAt: Date
  document: SimulationResult
}

// Sequelize writes into the definitions it is given, so each column gets its own.
const id = () => ({ type: DataTypes.UUID, primaryKey: true })
const reference = () => ({ type: DataTypes.UUID, allowNull: false })
const text = (length: number) => ({ type: DataTypes.STRING(length), allowNull: false })
const version = () => ({ type: DataTypes.INTEGER, allowNull: false })

/** Sequelize models over the tables that migrations/ made. */
export function defineModels(sequelize: Sequelize) {
  const plain = { underscored: true, timestamps: false }
  const dated = { underscored: true, timestamps: true }
  return {
    users: sequelize.define<UserRow>(
      'user',
      { id: id(), email: text(254), name: text(200), passwordHash: text(255) },
      { ...dated, tableName: 'users' },
    ),
    workspaces: sequelize.define<WorkspaceRow>(
      'workspace',
      { id: id(), name: text(200) },
      { ...dated, tableName: 'workspaces' },
    ),
    memberships: sequelize.define<MembershipRow>(
      'membership',
      {
        workspaceId: { ...reference(), primaryKey: true },
        userId: { ...reference(), primaryKey: true },
        role: { ...text(12), defaultValue: 'owner' },
      },
      { ...plain, tableName: 'memberships' },
    ),
    grants: sequelize.define<GrantRow>(
      'grant',
      {
        candidateId: { ...reference(), primaryKey: true },
        userId: { ...reference(), primaryKey: true },
        role: text(12),
      },
      { ...plain, tableName: 'grants' },
    ),
    exams: sequelize.define<ExamRow>(
      'exam',
      {
        id: id(),
        workspaceId: reference(),
        lineage: reference(),
        edition: { ...version(), defaultValue: 1 },
        version: { ...version(), defaultValue: 1 },
        changedBy: { type: DataTypes.UUID, allowNull: true },
        title: text(200),
        digest: text(64),
        document: jsonColumn('document'),
      },
      { ...dated, tableName: 'exams' },
    ),
    candidates: sequelize.define<CandidateRow>(
      'candidate',
      {
        id: id(),
        workspaceId: reference(),
        examId: reference(),
        userId: { type: DataTypes.UUID, allowNull: true },
        extra: jsonColumn('extra'),
      },
      { ...dated, tableName: 'candidates' },
    ),
    parts: sequelize.define<PartRow>(
      'part',
      {
        candidateId: { ...reference(), primaryKey: true },
        part: { ...text(30), primaryKey: true },
        document: jsonColumn('document'),
        version: version(),
        changedBy: { type: DataTypes.UUID, allowNull: true },
        updatedAt: DataTypes.DATE(3),
      },
      { ...dated, tableName: 'parts', createdAt: false },
    ),
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
    invitations: sequelize.define<InvitationRow>(
      'invitation',
      {
        codeHash: { ...text(64), primaryKey: true },
        candidateId: reference(),
        expires: { type: DataTypes.DATE, allowNull: false },
      },
      { ...plain, tableName: 'invitations' },
    ),
    feeds: sequelize.define<FeedRow>(
      'feed',
      {
        candidateId: { ...reference(), primaryKey: true },
        tokenHash: text(64),
        madeAt: { type: DataTypes.DATE, allowNull: false },
        readAt: { type: DataTypes.DATE, allowNull: true },
      },
      { ...plain, tableName: 'feeds' },
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
    templates: sequelize.define<TemplateRow>(
      'template',
      { id: id(), workspaceId: reference(), title: text(200), document: jsonColumn('document') },
      { ...plain, tableName: 'templates' },
    ),
    simulations: sequelize.define<SimulationRow>(
      'simulation',
      {
        candidateId: { ...reference(), primaryKey: true },
        id: id(),
        madeAt: { type: DataTypes.DATE(3), allowNull: false },
        document: jsonColumn('document'),
      },
      { ...plain, tableName: 'simulations' },
    ),
    attempts: sequelize.define<AttemptRow>(
      'attempt',
      {
        candidateId: { ...reference(), primaryKey: true },
        id: id(),
        kind: text(12),
        date: { type: DataTypes.DATEONLY, allowNull: true },
        document: jsonColumn('document'),
        version: version(),
      },
      { ...dated, tableName: 'attempts' },
    ),
    attemptItems: sequelize.define<AttemptItemRow>(
      'attemptItem',
      {
        candidateId: { ...reference(), primaryKey: true },
        attemptId: { ...reference(), primaryKey: true },
        item: { type: DataTypes.INTEGER, primaryKey: true },
        itemId: { type: DataTypes.STRING(120), allowNull: true },
        topic: { type: DataTypes.STRING(60), allowNull: true },
        document: jsonColumn('document'),
      },
      { ...plain, tableName: 'attempt_items' },
    ),
    requests: sequelize.define<RequestRow>(
      'request',
      {
        candidateId: { ...reference(), primaryKey: true },
        id: id(),
        doneAt: { type: DataTypes.DATE(3), allowNull: false },
      },
      { ...plain, tableName: 'requests' },
    ),
  }
}

export type Models = ReturnType<typeof defineModels>
