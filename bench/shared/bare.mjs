import express from 'express'
import { DataTypes, QueryTypes, Sequelize } from 'sequelize'

/**
 * The least that could note a press, and the least that could answer a list: one route with one insert, one with one select; no person,
 * no check. `DATABASE_URL` says where; it prints its address.
 */
const sequelize = new Sequelize(process.env.DATABASE_URL, { logging: false, dialect: 'mariadb' })
const notes = sequelize.define(
  'note',
  { document: { type: DataTypes.TEXT, allowNull: false } },
  { tableName: 'bench_notes' },
)
await notes.sync({ force: true })
const app = express()
app.use(express.json())
app.post('/note', async (request, response) => {
  await notes.create({ document: JSON.stringify(request.body) })
  response.json({ kept: true })
})
app.get('/figures', async (_request, response) => {
  const rows = await sequelize.query('SELECT document FROM candidate_figures', { type: QueryTypes.SELECT })
  response.json(rows.map(({ document }) => (typeof document === 'string' ? JSON.parse(document) : document)))
})
const server = app.listen(0, '127.0.0.1', () => console.log(`http://127.0.0.1:${server.address().port}`))
