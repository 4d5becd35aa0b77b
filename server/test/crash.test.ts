import { type ChildProcess, spawn } from 'node:child_process'
import { randomUUID } from 'node:crypto'
import path from 'node:path'
import { createInterface } from 'node:readline'
import { type Candidate } from '@climber/contract'
import { type Database } from '../src/database'
import { candidateFile, databaseUrl, freshDatabase, now } from './harness'

let database: Database
let server: ChildProcess | undefined
const root = process.cwd()

/** The real server as a process of its own; resolves with its address. */
async function start(): Promise<string> {
  server = spawn(process.execPath, [path.join(root, 'server/dist/main.mjs')], {
    stdio: ['ignore', 'pipe', 'inherit'],
    env: {
      ...process.env,
      PORT: '0',
      NODE_OPTIONS: '',
      DATABASE_URL: databaseUrl(),
      SESSION_SECRET: 'a secret for the tests only',
      CLIMBER_NOW: now,
      CLIMBER_LOG: 'silent',
    },
  })
  for await (const line of createInterface({ input: server.stdout! })) {
    const found = /http:\S+/.exec(line)
    if (found) return found[0]
  }
  throw new Error('the server ended before it listened')
}

beforeAll(async () => {
  database = await freshDatabase()
})
afterAll(async () => {
  server?.kill('SIGKILL')
  await database.sequelize.close()
})

it('a killed server loses no save that it had answered, and one sent again is stored once', async () => {
  let base = await start()
  const cookies = new Map<string, string>()
  let csrf = ''
  const send = async (method: string, address: string, body?: object) => {
    const response = await fetch(base + address, {
      method,
      headers: {
        cookie: [...cookies.values()].join('; '),
        'x-csrf-token': csrf,
        'content-type': 'application/json',
      },
      body: body && JSON.stringify(body),
    })
    for (const set of response.headers.getSetCookie())
      cookies.set(set.split('=')[0] ?? '', set.split(';')[0] ?? '')
    const answer = (await response.json()) as { csrf?: string }
    if (answer.csrf) csrf = answer.csrf
    if (!response.ok) throw new Error(JSON.stringify(answer))
    return answer
  }
  await send('GET', '/api/session')
  await send('POST', '/api/sign-up', {
    email: `${randomUUID()}@mail.example`,
    password: 'long enough',
    name: 'S',
  })
  const id = randomUUID()
  await send('PUT', `/api/candidates/${id}/file`, { file: candidateFile() })

  const tests = Array.from({ length: 20 }, (_, at) => ({
    id: randomUUID(),
    date: '2030-01-12',
    kind: 'practice',
    title: `Paper ${at}`,
    source: 'other',
    counts: {
      groups: {
        'streams-items': { right: at, wrong: 40 - at, blank: 0, notReached: 0 },
        'passage-items': { right: at, wrong: 30 - at, blank: 0, notReached: 0 },
        'signals-items': { right: at, wrong: 45 - at, blank: 0, notReached: 0 },
      },
    },
  }))
  const answered = new Set<string>()
  let killed = false
  await Promise.allSettled(
    tests.map(async (test) => {
      await send('PUT', `/api/candidates/${id}/attempts/${test.id}`, { version: 0, attempt: test })
      answered.add(test.id)
      if (answered.size >= 7 && !killed) {
        killed = true
        server!.kill('SIGKILL')
      }
    }),
  )
  expect(killed).toBe(true)
  expect(answered.size).toBeGreaterThanOrEqual(7)
  expect(answered.size).toBeLessThan(20)

  base = await start()
  const found = (await send('GET', `/api/candidates/${id}`)) as unknown as Candidate
  const stored = new Set(found.attempts.map((attempt) => attempt.id))
  for (const one of answered) expect(stored).toContain(one)
  // The client does not know about the rest, so it sends all of them again.
  for (const test of tests)
    await send('PUT', `/api/candidates/${id}/attempts/${test.id}`, { version: 0, attempt: test })
  const after = (await send('GET', `/api/candidates/${id}`)) as unknown as Candidate
  expect(after.attempts).toHaveLength(21)
  expect(after.attempts.every(({ version }) => version === 1)).toBe(true)
}, 60_000)
