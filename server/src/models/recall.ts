import { DataTypes, type Sequelize } from 'sequelize'
import type { Card, CardHistory, RecallAnswer, Recalled } from '@climber/contract'
import { plain, reference, type Row, text, version } from './columns'
import { jsonColumn } from './json'

export interface CardRow extends Row<CardRow> {
  candidateId: string
  id: string
  document: Card
  version: number
}

export interface RecallAnswerRow extends Row<RecallAnswerRow> {
  candidateId: string
  id: string
  card: string
  answeredOn: string
  undone: boolean
  document: RecallAnswer
}

export interface HistoryRow extends Row<HistoryRow> {
  candidateId: string
  card: string
  document: CardHistory['answers']
}

export interface RecalledRow extends Row<RecalledRow> {
  candidateId: string
  document: Recalled
}

/** What is to be brought back from memory, and what came back. */
export const defineRecall = (sequelize: Sequelize) => ({
  cards: sequelize.define<CardRow>(
    'recallCard',
    {
      candidateId: { ...reference(), primaryKey: true },
      id: { ...reference(), primaryKey: true },
      document: jsonColumn('document'),
      version: version(),
    },
    { ...plain, tableName: 'recall_cards' },
  ),
  recallAnswers: sequelize.define<RecallAnswerRow>(
    'recallAnswer',
    {
      candidateId: { ...reference(), primaryKey: true },
      id: { ...reference(), primaryKey: true },
      card: text(60),
      answeredOn: { type: DataTypes.DATEONLY, allowNull: false },
      undone: { type: DataTypes.BOOLEAN, allowNull: false },
      document: jsonColumn('document'),
    },
    { ...plain, tableName: 'recall_answers' },
  ),
  histories: sequelize.define<HistoryRow>(
    'recallHistory',
    {
      candidateId: { ...reference(), primaryKey: true },
      card: { ...text(60), primaryKey: true },
      document: jsonColumn('document'),
    },
    { ...plain, tableName: 'recall_histories' },
  ),
  recalled: sequelize.define<RecalledRow>(
    'recalled',
    { candidateId: { ...reference(), primaryKey: true }, document: jsonColumn('document') },
    { ...plain, tableName: 'recall_told' },
  ),
})
