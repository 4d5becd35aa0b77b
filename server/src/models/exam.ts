import { type CreationOptional, DataTypes, type Sequelize } from 'sequelize'
import type { ExamFormat } from '@climber/contract'
import { dated, id, reference, type Row, text, version } from './columns'
import { jsonColumn } from './json'

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

/** Exam formats by edition. */
export const defineExams = (sequelize: Sequelize) => ({
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
})
