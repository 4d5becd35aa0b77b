import { mkdtempSync, rmSync } from 'node:fs'
import os from 'node:os'
import path from 'node:path'
import { randomUUID } from 'node:crypto'
import pino from 'pino'
import { connect, type Database, migrate } from '../src/database'
import { appOn, Browser, candidateFile } from './harness'

// A database of its own, because this one is made to fall silent.
let folder: string
let server: { url: string; pid: number; stop(): Promise<void> }
let database: Database
beforeAll(async () => {
  const { startDatabase } = await import('../../scripts/database.mjs')
  folder = mkdtempSync(path.join(os.tmpdir(), 'climber-outage-'))
  server = await startDatabase(folder, { quick: true })
  database = connect(server.url, pino({ level: 'silent' }))
  await migrate(database)
}, 60_000)
afterAll(async () => {
  await database.sequelize.close().catch(() => undefined)
  await server.stop()
  rmSync(folder, { recursive: true, force: true })
})

it('while the database is silent every answer is an honest 503, and afterwards all goes on', async () => {
  const browser = new Browser(appOn(database))
  await browser.signUp()
  const { id } = await browser.importCandidate(candidateFile(), randomUUID())
  const save = (scaled: number, version: number) =>
    browser.send('put', `/api/candidates/${id}/parts/target`, { version, document: { scaled } })
  expect((await save(310, 1)).status).toBe(200)

  process.kill(server.pid, 'SIGSTOP')
  const [during, health] = await Promise.all([save(320, 2), browser.send('get', '/api/health')])
  process.kill(server.pid, 'SIGCONT')
  expect([during.status, during.body.code]).toEqual([503, 'unavailable'])
  expect(health.status).toBe(503)

  let after = await save(320, 2)
  for (let tries = 0; after.status === 503 && tries < 10; tries++) {
    await new Promise((resolve) => setTimeout(resolve, 500))
    after = await save(320, 2)
  }
  expect(after.status).toBe(200)
  expect(after.body.document).toEqual({ scaled: 320 })
}, 90_000)
