import { DataTypes, type Sequelize } from 'sequelize'
import type { ReviewNote, ShareMode } from '@climber/contract'
import { plain, reference, type Row, text, version } from './columns'
import { jsonColumn } from './json'

export interface NoteRow extends Row<NoteRow> {
  candidateId: string
  attemptId: string
  item: number
  document: ReviewNote
  version: number
}

export interface ShareRow extends Row<ShareRow> {
  candidateId: string
  attemptId: string
  tokenHash: string
  mode: ShareMode
  madeAt: Date
}

/** What was found in review, and what of it is shared. */
export const defineReview = (sequelize: Sequelize) => ({
  notes: sequelize.define<NoteRow>(
    'reviewNote',
    {
      candidateId: { ...reference(), primaryKey: true },
      attemptId: { ...reference(), primaryKey: true },
      item: { type: DataTypes.INTEGER, primaryKey: true },
      document: jsonColumn('document'),
      version: version(),
    },
    { ...plain, tableName: 'review_notes' },
  ),
  shares: sequelize.define<ShareRow>(
    'reviewShare',
    {
      candidateId: { ...reference(), primaryKey: true },
      attemptId: { ...reference(), primaryKey: true },
      tokenHash: text(64),
      mode: text(10),
      madeAt: { type: DataTypes.DATE(3), allowNull: false },
    },
    { ...plain, tableName: 'review_shares' },
  ),
})
