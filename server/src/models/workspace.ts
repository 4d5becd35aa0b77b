import { type CreationOptional, DataTypes, type Sequelize } from 'sequelize'
import type { Role, Settings, User } from '@climber/contract'
import { dated, id, plain, reference, type Row, text, version } from './columns'
import { jsonColumn } from './json'

export interface UserRow extends Row<UserRow> {
  id: string
  email: string
  name: string
  passwordHash: string
  locale: CreationOptional<User['locale']>
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

export interface TemplateRow extends Row<TemplateRow> {
  id: string
  workspaceId: string
  title: string
  version: CreationOptional<number>
  document: Settings
}

/** Something that was deleted for good. */
export interface DeletionRow extends Row<DeletionRow> {
  id: string
  userId: string
  deletedAt: Date
}

/** Who works together, and what they share. */
export const defineWorkspaces = (sequelize: Sequelize) => ({
  users: sequelize.define<UserRow>(
    'user',
    {
      id: id(),
      email: text(254),
      name: text(200),
      passwordHash: text(255),
      locale: { ...text(5), defaultValue: 'en-GB' },
    },
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
  templates: sequelize.define<TemplateRow>(
    'template',
    {
      id: id(),
      workspaceId: reference(),
      title: text(200),
      version: { ...version(), defaultValue: 1 },
      document: jsonColumn('document'),
    },
    { ...plain, tableName: 'templates' },
  ),
  deletions: sequelize.define<DeletionRow>(
    'deletion',
    { id: id(), userId: reference(), deletedAt: { type: DataTypes.DATE(3), allowNull: false } },
    { ...plain, tableName: 'deletions' },
  ),
})
