import { DataTypes, type Model, type ModelAttributeColumnOptions } from 'sequelize'

/** A LONGTEXT column that holds JSON and reads as the value itself. */
export const jsonColumn = (name: string): ModelAttributeColumnOptions => ({
  type: DataTypes.TEXT('long'),
  allowNull: false,
  get(this: Model) {
    const text = this.getDataValue(name) as string | undefined
    return text === undefined ? undefined : JSON.parse(text)
  },
  set(this: Model, value: unknown) {
    this.setDataValue(name, JSON.stringify(value))
  },
})
