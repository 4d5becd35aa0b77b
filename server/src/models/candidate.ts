import { type CreationOptional, DataTypes, type Sequelize } from 'sequelize'
import type { PartName, Role, SimulationResult } from '@climber/contract'
import { dated, id, plain, reference, type Row, text, version } from './columns'
import { jsonColumn } from './json'

export interface CandidateRow extends Row<CandidateRow> {
  id: string
  workspaceId: string
  examId: string
  userId: string | null
  /** Keys of the Climber file that this version does not know. */
  extra: Record<string, unknown>
  /** How often the record was written. */
  revision: CreationOptional<number>
}

export interface PartRow extends Row<PartRow> {
  candidateId: string
  part: PartName
  document: Record<string, unknown>
  version: number
  changedBy: string | null
  updatedAt: CreationOptional<Date>
}

/** One record that was granted to somebody outside its workspace. */
export interface GrantRow extends Row<GrantRow> {
  candidateId: string
  userId: string
  role: Role
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

export interface SimulationRow extends Row<SimulationRow> {
  candidateId: string
  id: string
  madeAt: Date
  document: SimulationResult
}

/** A candidate, the parts of its record, who else may see it, and what else hangs on it. */
export const defineCandidates = (sequelize: Sequelize) => ({
  candidates: sequelize.define<CandidateRow>(
    'candidate',
    {
      id: id(),
      workspaceId: reference(),
      examId: reference(),
      userId: { type: DataTypes.UUID, allowNull: true },
      extra: jsonColumn('extra'),
      revision: { type: DataTypes.INTEGER.UNSIGNED, allowNull: false, defaultValue: 0 },
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
  grants: sequelize.define<GrantRow>(
    'grant',
    {
      candidateId: { ...reference(), primaryKey: true },
      userId: { ...reference(), primaryKey: true },
      role: text(12),
    },
    { ...plain, tableName: 'grants' },
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
})
