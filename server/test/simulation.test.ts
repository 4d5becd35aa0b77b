import { randomUUID } from 'node:crypto'
import type { Candidate, StoredSimulation } from '@climber/contract'
import { simulation } from '@climber/core'
import type { Database } from '../src/database'
import { load, recordOf } from '../src/services/record'
import { Clock } from '../src/clock'
import { type App, appOn, Browser, freshDatabase, now } from './harness'

let database: Database
let app: App
let owner: Browser
let candidate: Candidate
const path = (rest: string) => `/api/candidates/${candidate.id}/${rest}`
const request = { section: 'signals', sittings: 600, seed: 3, asOf: 'today' as const }

beforeAll(async () => {
  database = await freshDatabase()
  app = appOn(database)
  owner = new Browser(app)
  await owner.signUp()
  candidate = await owner.importCandidate()
})
afterAll(() => database.sequelize.close())

const row = async () => (await database.models.candidates.findByPk(candidate.id))!
const context = () => ({ ...database, clock: new Clock(now), demo: false })

describe('a comparison that is kept', () => {
  it('is what the core works out from the same record, is kept once, and goes when it is deleted', async () => {
    const id = randomUUID()
    const first = await owner.send('put', path(`simulations/${id}`), request)
    expect(first.status).toBe(200)
    const run = simulation(
      recordOf(await load(context(), await row())),
      context().clock.at('Etc/UTC'),
      request,
    )
    let step = run.next()
    while (!step.done) step = run.next()
    expect((first.body as StoredSimulation).result).toEqual(JSON.parse(JSON.stringify(step.value)))
    const again = await owner.send('put', path(`simulations/${id}`), request)
    expect(again.body).toEqual(first.body)
    const other = await owner.send('put', path(`simulations/${id}`), { ...request, seed: 4 })
    expect(other.status).toBe(409)
    const kept = (await owner.send('get', path('simulations'))).body as StoredSimulation[]
    expect(kept.map((one) => one.id)).toEqual([id])
    await owner.send('delete', path(`simulations/${id}`))
    expect((await owner.send('get', path('simulations'))).body).toEqual([])
  })
  it.each([
    ['sittings', { sittings: 1_000_000 }],
    ['sittings', { sittings: 0 }],
    ['seed', { seed: -1 }],
    ['section', { section: 'cellars' }],
  ])('is refused at %s, naming it', async (field, more) => {
    const answer = await owner.send('put', path(`simulations/${randomUUID()}`), { ...request, ...more })
    expect(answer.status).toBe(422)
    expect(answer.body.issues[0].field).toBe(field)
  })
  it('names the wish that does not fit the section', async () => {
    await owner.send('put', path('parts/pacing'), {
      version: 0,
      document: { sections: { signals: { reserveMinutes: 35 } } },
    })
    const answer = await owner.send('put', path(`simulations/${randomUUID()}`), request)
    expect(answer.status).toBe(422)
    expect(answer.body.issues[0].field).toBe('pacing.sections.signals.reserveMinutes')
    await owner.send('put', path('parts/pacing'), { version: 1, document: { sections: {} } })
  })
  it('is kept with twenty others; the oldest beyond go', async () => {
    for (let at = 0; at < 21; at++)
      await owner.send('put', path(`simulations/${randomUUID()}`), { ...request, sittings: 100, seed: at })
    expect((await owner.send('get', path('simulations'))).body).toHaveLength(20)
  })
})

describe('a practice test with its answers', () => {
  const responses = Array.from({ length: 115 }, (_, at) => ({
    item: at + 1,
    answer: at % 3 ? 'A' : 'B',
    key: 'A',
    seconds: 40,
    confidence: 'sure' as const,
  }))
  const counts = (items: number, from: number) => {
    const right = responses.slice(from, from + items).filter(({ answer }) => answer === 'A').length
    return { right, wrong: items - right, blank: 0, notReached: 0 }
  }
  const test = (id: string) => ({
    id,
    kind: 'practice',
    date: '2030-01-12',
    form: 'board-1',
    counts: {
      groups: {
        'streams-items': counts(40, 0),
        'passage-items': counts(30, 40),
        'signals-items': counts(45, 70),
      },
    },
    items: responses,
  })
  it('is kept with them, and refused where they come to other counts', async () => {
    const id = randomUUID()
    const stored = await owner.send('put', path(`attempts/${id}`), { version: 0, attempt: test(id) })
    expect(stored.status).toBe(200)
    expect(stored.body.attempt.items).toHaveLength(115)
    const wrong = test(randomUUID())
    wrong.counts.groups['signals-items'] = { right: 45, wrong: 0, blank: 0, notReached: 0 }
    const refused = await owner.send('put', path(`attempts/${wrong.id}`), { version: 0, attempt: wrong })
    expect(refused.status).toBe(422)
    expect(refused.body.issues[0].field).toBe('items')
  })
})
