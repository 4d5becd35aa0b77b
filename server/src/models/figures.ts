import { DataTypes, type Sequelize } from 'sequelize'
import type { CandidateRow as RosterRow } from '@climber/contract'
import { plain, reference, type Row, text } from './columns'
import { jsonColumn } from './json'

/** What lists show of a candidate, but for whose it is. */
export type Figures = Omit<RosterRow, 'mine'>

export interface FiguresRow extends Row<FiguresRow> {
  candidateId: string
  /** A hash of the versions of all that it was worked out from. */
  rests: string
  /** The candidate's time zone, and the day there of which it speaks. */
  zone: string
  date: string
  document: Figures
}

export const defineFigures = (sequelize: Sequelize) => ({
  figures: sequelize.define<FiguresRow>(
    'candidateFigures',
    {
      candidateId: { ...reference(), primaryKey: true },
      rests: text(64),
      zone: text(60),
      date: { type: DataTypes.DATEONLY, allowNull: false },
      document: jsonColumn('document'),
    },
    { ...plain, tableName: 'candidate_figures' },
  ),
})
