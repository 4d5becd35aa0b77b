import { randomUUID } from 'node:crypto'
import type { Database } from '../../src/database'
import { quota } from '../../src/services/quota'
import { type App, appOn, Browser, candidateFile, freshDatabase, practiceTest, sample } from '../harness'

/** What one workspace may have, with limits that a test can reach. */
let database: Database
let app: App
let owner: Browser
const usual = { ...quota }
beforeAll(async () => {
  database = await freshDatabase()
  app = appOn(database)
})
beforeEach(async () => {
  owner = new Browser(app)
  await owner.signUp()
})
afterEach(() => void Object.assign(quota, usual))
afterAll(() => database.sequelize.close())

const bring = (id = randomUUID()) =>
  owner.send('put', `/api/candidates/${id}/file`, { file: candidateFile() })

it('candidates are limited, begun or brought, also ten at once; what is there stays as it is', async () => {
  quota.candidates = 3
  const ids = Array.from({ length: 10 }, () => randomUUID())
  const statuses = (await Promise.all(ids.map(bring))).map(({ status }) => status)
  expect(statuses.filter((status) => status === 200)).toHaveLength(3)
  expect(statuses.filter((status) => status === 422)).toHaveLength(7)
  const roster = (await owner.send('get', '/api/candidates')).body as { id: string }[]
  expect(roster).toHaveLength(3)
  const { examId } = (await owner.send('get', `/api/candidates/${roster[0]!.id}`)).body as { examId: string }
  const more = await owner.send('put', `/api/candidates/${randomUUID()}`, { name: 'X', examId, self: false })
  expect([more.status, more.body.message]).toEqual([422, expect.stringContaining('3 candidates')])
  await owner.send('delete', `/api/candidates/${roster[0]!.id}`)
  expect((await bring()).status).toBe(200)
})
it('exam formats and templates are limited', async () => {
  quota.exams = quota.templates = 1
  const exam = () => owner.send('put', `/api/exams/${randomUUID()}`, { file: sample() })
  const template = () => owner.send('put', `/api/templates/${randomUUID()}`, { title: 'X', settings: {} })
  for (const one of [exam, template]) expect([(await one()).status, (await one()).status]).toEqual([200, 422])
})
it('sat tests of a candidate are limited', async () => {
  quota.attempts = 2
  const { id } = await owner.importCandidate()
  const sit = (at: string) =>
    owner.send('put', `/api/candidates/${id}/attempts/${at}`, { version: 0, attempt: practiceTest(at) })
  expect([(await sit(randomUUID())).status, (await sit(randomUUID())).status]).toEqual([200, 422])
})
it('all documents of a workspace together are limited', async () => {
  const { id } = await owner.importCandidate()
  quota.bytes = 150_000
  const note = (characters: number) =>
    owner.send('put', `/api/candidates/${id}/parts/settings`, {
      version: 0,
      document: { own: 'x'.repeat(characters) },
    })
  const refused = await note(180_000)
  expect([refused.status, refused.body.message]).toEqual([
    422,
    expect.stringContaining('larger than 0.15 MB'),
  ])
  expect((await note(90_000)).status).toBe(200)
})
