import { DataTypes, type Sequelize } from 'sequelize'
import type { Attempt, ItemResponse } from '@climber/contract'
import { dated, id, plain, reference, type Row, text, version } from './columns'
import { jsonColumn } from './json'

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

/** What was sat, and the items of it. */
export const defineAttempts = (sequelize: Sequelize) => ({
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
})
