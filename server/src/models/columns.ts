import { DataTypes, type InferAttributes, type InferCreationAttributes, type Model } from 'sequelize'

export type Row<M extends Model> = Model<InferAttributes<M>, InferCreationAttributes<M>>

// Sequelize writes into the definitions it is given, so each column gets its own.
export const id = () => ({ type: DataTypes.UUID, primaryKey: true })
export const reference = () => ({ type: DataTypes.UUID, allowNull: false })
export const text = (length: number) => ({ type: DataTypes.STRING(length), allowNull: false })
export const version = () => ({ type: DataTypes.INTEGER, allowNull: false })

/** Tables without and with the moments of making and changing. */
export const plain = { underscored: true, timestamps: false }
export const dated = { underscored: true, timestamps: true }
