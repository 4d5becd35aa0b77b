import { DataTypes, type Sequelize } from 'sequelize'
import type { RoomEvent, RoomHeard, RoomSetup } from '@climber/contract'
import { id, plain, reference, type Row, text } from './columns'
import { jsonColumn } from './json'

export interface RoomRow extends Row<RoomRow> {
  candidateId: string
  id: string
  document: RoomSetup
  /** The page that carries it on, and its device. */
  holder: string | null
  device: string
  /** When that page was last heard. */
  heardAt: Date
  stands: RoomHeard['stands']
  events: number
  createdAt: Date
}

export interface RoomEventRow extends Row<RoomEventRow> {
  candidateId: string
  roomId: string
  life: string
  n: number
  document: RoomEvent
}

/** Tests that are being sat, and what was pressed in them. */
export const defineRooms = (sequelize: Sequelize) => ({
  rooms: sequelize.define<RoomRow>(
    'room',
    {
      candidateId: { ...reference(), primaryKey: true },
      id: id(),
      document: jsonColumn('document'),
      holder: { type: DataTypes.UUID, allowNull: true },
      device: text(60),
      heardAt: { type: DataTypes.DATE(3), allowNull: false },
      stands: { ...text(10), defaultValue: 'open' },
      events: { type: DataTypes.INTEGER, allowNull: false, defaultValue: 0 },
      createdAt: { type: DataTypes.DATE(3), allowNull: false },
    },
    { ...plain, tableName: 'rooms' },
  ),
  roomEvents: sequelize.define<RoomEventRow>(
    'roomEvent',
    {
      candidateId: { ...reference(), primaryKey: true },
      roomId: { ...reference(), primaryKey: true },
      life: { ...reference(), primaryKey: true },
      n: { type: DataTypes.INTEGER, primaryKey: true },
      document: jsonColumn('document'),
    },
    { ...plain, tableName: 'room_events' },
  ),
})
