import { randomUUID } from 'node:crypto'
import { mkdtempSync, readFileSync, rmSync } from 'node:fs'
import os from 'node:os'
import path from 'node:path'
import pino from 'pino'
import { ClimberFile } from '@climber/contract'
import { scenario } from '../demo/scenario'
import { Clock } from '../server/src/clock'
import { connect, migrate } from '../server/src/database'
import { signUp } from '../server/src/services/account'
import { rosterOf } from '../server/src/services/figures'
import { importFile } from '../server/src/services/file'
import { median, table } from './table'

// A tutor's roster from the database: records loaded, worked through, odds and all.
const { startDatabase } = await import(path.join(process.cwd(), 'scripts/database.mjs'))
const folder = mkdtempSync(path.join(os.tmpdir(), 'climber-bench-db-'))
const server = await startDatabase(folder, { quick: true })
const today = '2030-01-15'
const database = connect(server.url, pino({ level: 'silent' }))
await migrate(database)
const context = { ...database, clock: new Clock(`${today}T16:00:00Z`), demo: false }
const tutor = await signUp(context, { email: 'tutor@mail.example', password: 'long enough', name: 'Tutor' })
const files = await scenario(today, async (name) =>
  ClimberFile.parse(JSON.parse(readFileSync(path.join(process.cwd(), 'demo', name), 'utf8'))),
)
const writtenAs = (file: ClimberFile) => ({ file, written: { ...file } })
const rows: (string | number)[][] = []
let made = 0
for (const wanted of [3, 30, 60]) {
  for (; made < wanted; made++)
    await importFile(context, tutor.id, randomUUID(), writtenAs(files[made % 3]!.file), { self: false })
  // As on the first look of a day: nothing is stored yet.
  await context.models.figures.destroy({ where: {} })
  const morning = performance.now()
  await rosterOf(context, tutor.id)
  const first = performance.now() - morning
  const bare: number[] = []
  const ids = await context.models.candidates.findAll({ attributes: ['id'], raw: true })
  for (let run = 0; run < 5; run++) {
    const begun = performance.now()
    for (const { id } of ids) await context.models.figures.findAll({ where: { candidateId: id }, raw: true })
    bare.push(performance.now() - begun)
  }
  const times: number[] = []
  for (let run = 0; run < 5; run++) {
    const begun = performance.now()
    await rosterOf(context, tutor.id)
    times.push(performance.now() - begun)
  }
  rows.push([wanted, median(times).toFixed(0), median(bare).toFixed(0), first.toFixed(0)])
}
table(
  'The roster, from the database to its rows (median of 5)',
  ['candidates', 'ms', 'bare selects', 'first of a day'],
  rows,
)
await database.sequelize.close()
await server.stop()
rmSync(folder, { recursive: true })
