import { randomUUID } from 'node:crypto'
import { type Candidate } from '@climber/contract'
import { type Database } from '../src/database'
import { candidateFile, databaseUrl, freshDatabase } from './harness'
import { Server, Visitor } from './hostile/world'

let database: Database
let server: Server | undefined

beforeAll(async () => {
  database = await freshDatabase()
})
afterAll(async () => {
  await server?.end('SIGKILL')
  await database.sequelize.close()
})

it('a killed server loses no save that it had answered, and one sent again is stored once', async () => {
  server = await Server.start(databaseUrl())
  const visitor = await Visitor.signedUp(server.url)
  const send = (method: string, address: string, body?: object) => visitor.good(method, address, body)
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
        server!.child.kill('SIGKILL')
      }
    }),
  )
  expect(killed).toBe(true)
  expect(answered.size).toBeGreaterThanOrEqual(7)
  expect(answered.size).toBeLessThan(20)

  server = await Server.start(databaseUrl())
  visitor.base = server.url
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
