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
import { startBare, startClimber } from './shared/servers'
import { table } from './table'

// The roster of 500 as a browser gets it, beside a bare route with one select of the same rows and nothing else: turn by turn, same run.
const many = Number(process.env.CLIMBER_CANDIDATES ?? 500)
const times = Number(process.env.CLIMBER_TIMES ?? 200)
const from = (name: string) => import(path.join(process.cwd(), 'scripts', name))
const { startDatabase } = await from('database.mjs')
const folder = mkdtempSync(path.join(os.tmpdir(), 'climber-bench-db-'))
const server = await startDatabase(folder, { quick: true })
const today = '2030-01-15'
const now = `${today}T16:00:00Z`
const database = connect(server.url, pino({ level: 'silent' }))
await migrate(database)
const context = { ...database, clock: new Clock(now), demo: false }
const person = { email: 'tutor@mail.example', password: 'long enough for anyone' }
const tutor = await signUp(context, { ...person, name: 'Tutor' })
const files = await scenario(today, async (name) =>
  ClimberFile.parse(JSON.parse(readFileSync(path.join('demo', name), 'utf8'))),
)
for (let made = 0; made < many; made++) {
  const { file } = files[made % files.length]!
  await importFile(context, tutor.id, randomUUID(), { file, written: { ...file } }, { self: false })
}
await rosterOf(context, tutor.id)

const climber = await startClimber(server.url, { CLIMBER_NOW: now })
const bare = await startBare(server.url)

const cookies = new Map<string, string>()
const take = (response: Response) => {
  for (const set of response.headers.getSetCookie()) cookies.set(set.split('=')[0]!, set.split(';')[0]!)
}
const cookie = () => [...cookies.values()].join('; ')
const arrived = await fetch(`${climber.url}/api/session`)
take(arrived)
const { csrf } = (await arrived.json()) as { csrf: string }
take(
  await fetch(`${climber.url}/api/sign-in`, {
    method: 'POST',
    headers: { cookie: cookie(), 'x-csrf-token': csrf, 'content-type': 'application/json' },
    body: JSON.stringify(person),
  }),
)
const asks = {
  'the roster': () => fetch(`${climber.url}/api/candidates`, { headers: { cookie: cookie() } }),
  'a bare route with one select of the same rows': () => fetch(`${bare.url}/figures`),
  'who is signed in': () => fetch(`${climber.url}/api/session`, { headers: { cookie: cookie() } }),
}
const took = new Map<string, number[]>(Object.keys(asks).map((name) => [name, []]))
let bytes = 0
for (let turn = -20; turn < times; turn++)
  for (const [name, ask] of Object.entries(asks)) {
    const begun = performance.now()
    const text = await (await ask()).text()
    if (turn >= 0) took.get(name)!.push(performance.now() - begun)
    if (name === 'the roster') {
      bytes = text.length
      const rows = (JSON.parse(text) as unknown[]).length
      if (rows !== many) throw new Error(`${rows} rows for ${many} candidates`)
    }
  }
const share = (list: number[], part: number) =>
  [...list].sort((a, b) => a - b)[Math.floor(part * list.length)]!
table(
  `The roster of ${many}, ${(bytes / 1000).toFixed(0)} kB, over HTTP (${times} turns)`,
  ['asked', 'p50 ms', 'p95 ms'],
  [...took].map(([name, list]) => [name, share(list, 0.5).toFixed(1), share(list, 0.95).toFixed(1)]),
)
for (const { child } of [climber, bare]) child.kill('SIGTERM')
await database.sequelize.close()
await server.stop()
rmSync(folder, { recursive: true })
process.exit(0)
