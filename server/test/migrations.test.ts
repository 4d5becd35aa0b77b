import { QueryTypes } from 'sequelize'
import { type Database, migrate, migrations } from '../src/database'
import { dropEverything, freshDatabase } from './harness'

let database: Database
beforeAll(async () => {
  database = await freshDatabase()
})
afterAll(() => database.sequelize.close())

const tables = () =>
  database.sequelize.query<{ name: string }>(
    'SELECT table_name AS name FROM information_schema.tables WHERE table_schema = DATABASE()',
    {
      type: QueryTypes.SELECT,
    },
  )

describe('migrations', () => {
  it('run once, and not again on a database that is up to date', async () => {
    expect(await migrate(database)).toEqual([])
  })
  it('bring a database of every earlier version to the newest, its rows kept', async () => {
    for (const { name } of migrations) {
      await dropEverything(database)
      await migrate(database, name)
      await database.sequelize.query("REPLACE INTO facts (name, value) VALUES ('kept', 'yes')")
      await migrate(database)
      const [row] = await database.sequelize.query<{ value: string }>(
        "SELECT value FROM facts WHERE name = 'kept'",
        { type: QueryTypes.SELECT },
      )
      expect(row?.value).toBe('yes')
    }
  })
  it('make the tables that the models name, in utf8mb4', async () => {
    const found = new Set((await tables()).map(({ name }) => name))
    for (const model of Object.values(database.models)) expect(found).toContain(model.getTableName())
    const [charset] = await database.sequelize.query<{ n: number }>(
      "SELECT COUNT(*) AS n FROM information_schema.tables WHERE table_schema = DATABASE() AND table_collation NOT LIKE 'utf8mb4%' AND table_name <> 'migrations'",
      { type: QueryTypes.SELECT },
    )
    expect(Number(charset!.n)).toBe(0)
  })
})
