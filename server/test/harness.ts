import { randomUUID } from 'node:crypto'
import path from 'node:path'
import { readFileSync } from 'node:fs'
import pino from 'pino'
import request, { type Agent } from 'supertest'
import { QueryTypes } from 'sequelize'
import type { z } from 'zod'
import {
  type Candidate,
  ClimberFile,
  type ClimberFileShape,
  diagnosticId,
  type RoomDeed,
  type RoomEvent,
  type RoomSetup,
  type SessionAnswer,
} from '@climber/contract'
import { createApp } from '../src/app'
import { configFrom } from '../src/config'
import { connect, type Database, migrate } from '../src/database'

export const now = '2030-01-15T10:00:00Z'
const root = path.resolve(process.cwd())

export const sample = (): ClimberFile =>
  ClimberFile.parse(
    JSON.parse(readFileSync(path.join(root, 'demo/tidal-pilotage.exam.climber.json'), 'utf8')),
  )

/** What a test changes of a file: as it is written, defaults left out. */
export type FileChange = Partial<z.input<typeof ClimberFileShape>> & Record<string, unknown>

/** A whole candidate as a file, on the sample exam, dated about `now`; every default is written out. */
export function candidateFile(change: FileChange = {}): ClimberFile {
  const { exam } = sample()
  const gone = { ...exam.sittings[0]!, id: 'gone', date: '2029-12-01' }
  return ClimberFile.parse({
    climber: 2,
    exam: { ...exam, sittings: [gone, ...exam.sittings] },
    candidate: { name: 'Orla Venn', note: '' },
    availability: {
      zone: 'Etc/UTC',
      windows: [1, 2, 3, 4, 6].map((weekday) => ({ weekday, from: '14:00', to: '18:00' })),
    },
    attempts: [
      {
        id: diagnosticId,
        kind: 'diagnostic',
        date: '2030-01-10',
        counts: {
          groups: {
            'streams-items': { right: 17, wrong: 15, blank: 8, notReached: 3 },
            'passage-items': { right: 11, wrong: 12, blank: 7 },
            'signals-items': { right: 25, wrong: 14, blank: 6 },
          },
        },
      },
    ],
    target: { scaled: 300, sitting: 'second' },
    ...change,
  })
}

/** A practice test on the sample exam, dated before `now`. */
export const practiceTest = (id: string, more: object = {}) => ({
  id,
  kind: 'practice',
  date: '2030-01-12',
  form: 'tidewise-1',
  counts: {
    groups: {
      'streams-items': { right: 20, wrong: 12, blank: 8, notReached: 0 },
      'passage-items': { right: 12, wrong: 12, blank: 6, notReached: 0 },
      'signals-items': { right: 25, wrong: 15, blank: 5, notReached: 0 },
    },
  },
  ...more,
})

/** A section of the sample exam, to be sat on a screen. */
export const roomSetup = (id: string, more: Partial<RoomSetup> = {}): RoomSetup => ({
  id,
  date: '2030-01-15',
  start: '10:00',
  form: 'tidewise-1',
  whole: false,
  medium: 'screen',
  pressing: 'items',
  strict: true,
  parts: [{ id: 'streams', seconds: 3600, timed: true, breakSeconds: 0 }],
  sound: false,
  seen: false,
  ...more,
})
/** One event of a page, a second after the one before. */
export const roomEvent = (life: string, n: number, deed: RoomDeed): RoomEvent =>
  ({ ...deed, n, life, at: n * 1000, wall: 1_900_000_000_000 + n * 1000 }) as RoomEvent

/** Where this worker's tests keep their tables: a schema of its own, so that test files run side by side. */
export const databaseUrl = () => `${process.env.CLIMBER_TEST_DATABASE}_${process.env.JEST_WORKER_ID ?? '1'}`
const silent = () => pino({ level: 'silent' })

/** This worker's database, migrated and empty. Emptied where it is there already: that is far quicker than made anew. */
export async function freshDatabase(): Promise<Database> {
  const url = new URL(databaseUrl())
  const server = connect(process.env.CLIMBER_TEST_DATABASE!, silent())
  await server.sequelize.query(`CREATE DATABASE IF NOT EXISTS ${url.pathname.slice(1)} CHARACTER SET utf8mb4`)
  await server.sequelize.close()
  const fresh = connect(databaseUrl(), silent())
  await migrate(fresh)
  await emptyEverything(fresh)
  return fresh
}

async function tablesOf({ sequelize }: Database): Promise<string[]> {
  const rows = await sequelize.query<{ name: string }>(
    'SELECT table_name AS name FROM information_schema.tables WHERE table_schema = DATABASE()',
    { type: QueryTypes.SELECT },
  )
  return rows.map(({ name }) => name)
}

/** Runs statements on one connection that does not mind what refers to what. */
const unchecked = ({ sequelize }: Database, statements: string[]): Promise<void> =>
  sequelize.transaction(async (transaction) => {
    for (const sql of ['SET FOREIGN_KEY_CHECKS = 0', ...statements, 'SET FOREIGN_KEY_CHECKS = 1'])
      await sequelize.query(sql, { transaction })
  })

export async function emptyEverything(database: Database): Promise<void> {
  const tables = (await tablesOf(database)).filter((name) => name !== 'migrations')
  await unchecked(
    database,
    tables.map((name) => `DELETE FROM ${name}`),
  )
}

/** Drops every table, for tests of the migrations themselves. */
export async function dropEverything(database: Database): Promise<void> {
  await unchecked(
    database,
    (await tablesOf(database)).map((name) => `DROP TABLE IF EXISTS ${name}`),
  )
}

export function appOn(database: Database, more: Record<string, string> = {}) {
  const config = configFrom({
    DATABASE_URL: databaseUrl(),
    SESSION_SECRET: 'a secret for the tests only',
    CLIMBER_NOW: now,
    CLIMBER_SAMPLES: path.join(root, 'demo'),
    ...more,
  })
  return createApp(config, database, pino({ level: 'silent' }))
}
export type App = ReturnType<typeof appOn>

/** A browser: keeps its cookies and sends the CSRF token. */
export class Browser {
  private readonly agent: Agent
  csrf = ''

  constructor(app: App) {
    this.agent = request.agent(app)
  }

  async send(method: 'get' | 'put' | 'post' | 'delete', address: string, body?: object) {
    const call = this.agent[method](address).set('x-csrf-token', this.csrf)
    return method === 'get' ? call : call.send(body ?? {})
  }
  /** A body that is not JSON, or is said to be something else. */
  async sendText(
    method: 'put' | 'post' | 'delete',
    address: string,
    body: string | Buffer,
    headers: Record<string, string> = {},
  ) {
    return this.agent[method](address)
      .set({ 'x-csrf-token': this.csrf, 'content-type': 'application/json', ...headers })
      .send(body)
  }
  private take(answer: SessionAnswer): SessionAnswer {
    this.csrf = answer.csrf
    return answer
  }
  async arrive(): Promise<SessionAnswer> {
    return this.take((await this.send('get', '/api/session')).body as SessionAnswer)
  }
  async signUp(
    email = `${randomUUID()}@mail.example`,
    password = 'long enough for anyone',
  ): Promise<SessionAnswer> {
    await this.arrive()
    const answer = await this.send('post', '/api/sign-up', { email, password, name: 'Someone' })
    if (answer.status !== 200) throw new Error(`sign-up answered ${answer.status} ${answer.text}`)
    return this.take(answer.body as SessionAnswer)
  }
  async signIn(email: string, password: string) {
    await this.arrive()
    const answer = await this.send('post', '/api/sign-in', { email, password })
    if (answer.status === 200) this.take(answer.body as SessionAnswer)
    return answer
  }
  async importCandidate(file: ClimberFile = candidateFile(), id: string = randomUUID()): Promise<Candidate> {
    const answer = await this.send('put', `/api/candidates/${id}/file`, { file })
    if (answer.status !== 200) throw new Error(`import answered ${answer.status} ${answer.text}`)
    return answer.body as Candidate
  }
}
