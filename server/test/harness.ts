import { randomUUID } from 'node:crypto'
import path from 'node:path'
import { readFileSync } from 'node:fs'
import pino from 'pino'
import request, { type Agent } from 'supertest'
import { ClimberFile, type Candidate, type SessionAnswer } from '@climber/contract'
import { createApp } from '../src/app'
import { configFrom } from '../src/config'
import { connect, type Database, migrate } from '../src/database'

export const now = '2030-01-15T10:00:00Z'
const root = path.resolve(process.cwd())

export const sample = (): ClimberFile =>
  ClimberFile.parse(
    JSON.parse(readFileSync(path.join(root, 'demo/tidal-pilotage.exam.climber.json'), 'utf8')),
  )

/** A whole candidate as a file, on the sample exam, dated about `now`. */
export function candidateFile(change: Partial<ClimberFile> = {}): ClimberFile {
  const { exam } = sample()
  const gone = { ...exam.sittings[0]!, id: 'gone', date: '2029-12-01' }
  return ClimberFile.parse({
    climber: 1,
    exam: { ...exam, sittings: [gone, ...exam.sittings] },
    candidate: { name: 'Orla Venn', note: '' },
    availability: {
      zone: 'Etc/UTC',
      windows: [1, 2, 3, 4, 6].map((weekday) => ({ weekday, from: '14:00', to: '18:00' })),
    },
    diagnosis: {
      date: '2030-01-10',
      sections: {
        'streams-items': { right: 17, wrong: 15, blank: 8, notReached: 3 },
        'passage-items': { right: 11, wrong: 12, blank: 7 },
        'signals-items': { right: 25, wrong: 14, blank: 6 },
      },
    },
    target: { scaled: 300, sitting: 'second' },
    ...change,
  })
}

/** The test server's database, emptied and migrated. */
export async function freshDatabase(): Promise<Database> {
  const fresh = connect(process.env.CLIMBER_TEST_DATABASE!, pino({ level: 'silent' }))
  await dropEverything(fresh)
  await migrate(fresh)
  return fresh
}

/** Drops every table, so that each test file begins on an empty database. */
export async function dropEverything({ sequelize }: Database): Promise<void> {
  for (const table of [
    'web_sessions',
    'practice_tests',
    'simulations',
    'invitations',
    'feeds',
    'plan_sessions',
    'plan_steps',
    'templates',
    'plans',
    'parts',
    'candidates',
    'exams',
    'memberships',
    'workspaces',
    'users',
    'facts',
    'migrations',
  ])
    await sequelize.query(`DROP TABLE IF EXISTS ${table}`)
}

export function appOn(database: Database, more: Record<string, string> = {}) {
  const config = configFrom({
    DATABASE_URL: process.env.CLIMBER_TEST_DATABASE!,
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
