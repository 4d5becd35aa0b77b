import { randomUUID } from 'node:crypto'
import type { Candidate } from '@climber/contract'
import { assess, planOdds } from '@climber/core'
import { Clock } from '../src/clock'
import { type Database } from '../src/database'
import { refreshFigures } from '../src/services/figures'
import { load, recordOf } from '../src/services/record'
import { appOn, Browser, freshDatabase, now, practiceTest } from './harness'

let database: Database
let browser: Browser
let candidate: Candidate
const roster = async () => (await browser.send('get', '/api/candidates')).body
const at = (rest: string) => `/api/candidates/${candidate.id}${rest}`
/** What the record itself says of today's odds. */
async function oddsOf(clock = new Clock(now)) {
  const context = { ...database, clock, demo: false }
  const row = await database.models.candidates.findByPk(candidate.id)
  const record = recordOf(await load(context, row!))
  return planOdds(assess(record, clock.at(record.availability.zone)))!
}
const storedOn = async () => (await database.models.figures.findByPk(candidate.id))!

beforeAll(async () => {
  database = await freshDatabase()
  browser = new Browser(appOn(database))
  await browser.signUp()
  candidate = await browser.importCandidate()
  await browser.send('put', at('/plan'), { version: 0, seed: 1 })
})
afterAll(() => database.sequelize.close())

describe('the figures of a list', () => {
  it('are those of the record, to the digit', async () => {
    const [row] = await roster()
    const odds = await oddsOf()
    expect(row).toMatchObject({ id: candidate.id, mine: false, odds: odds.odds })
    expect(row.forecast.mean).toBe(odds.forecast.mean)
    expect(row.oddsAtRate).toBe(odds.atRate!.odds)
    expect(row.forecast.high).toBe(odds.forecast.high)
    expect(row.lately).toMatchObject({ week: { planned: 0, done: 0 }, weekday: null, before: null })
  })
  it('are stored, and told from there while nothing changes', async () => {
    const before = await storedOn()
    await database.models.figures.update(
      { document: { ...before.document, name: 'As it was stored' } },
      { where: { candidateId: candidate.id } },
    )
    expect((await roster())[0].name).toBe('As it was stored')
  })
  it('are worked out again after whatever changes them', async () => {
    const { rests } = await storedOn()
    const id = randomUUID()
    await browser.send('put', at(`/attempts/${id}`), { version: 0, attempt: practiceTest(id) })
    const [row] = await roster()
    expect(row.name).not.toBe('As it was stored')
    expect(row.lastScore).not.toBeNull()
    expect(row.odds).toBe((await oddsOf()).odds)
    expect((await storedOn()).rests).not.toBe(rests)
    const { plan } = (await browser.send('get', at(''))).body as Candidate
    const session = plan!.sessions.find(({ kind }) => kind === 'learn')!
    const [before] = await roster()
    const report = { version: session.version, status: 'done', minutesDone: 600 }
    const answer = await browser.send('put', at(`/sessions/${encodeURIComponent(session.id)}`), report)
    expect(answer.status).toBe(200)
    const after = await storedOn()
    const [done] = await roster()
    expect(done.forecast.mean).not.toBe(before.forecast.mean)
    expect((await storedOn()).rests).not.toBe(after.rests)
  })
  it('rest on every part, and on nothing that is only looked at', async () => {
    await roster()
    const { rests } = await storedOn()
    await browser.send('get', at(''))
    await browser.send('get', at('/review'))
    await roster()
    expect((await storedOn()).rests).toBe(rests)
    const { parts } = (await browser.send('get', at(''))).body as Candidate
    const { version, document } = parts.candidate!
    const renamed = { version, document: { ...(document as object), name: 'Somebody renamed' } }
    expect((await browser.send('put', at('/parts/candidate'), renamed)).status).toBe(200)
    expect((await roster())[0].name).toBe('Somebody renamed')
    expect((await storedOn()).rests).not.toBe(rests)
  })
  it('are of the day: those of another are worked out again', async () => {
    const { date } = await storedOn()
    await database.models.figures.update({ date: '2030-01-01' }, { where: { candidateId: candidate.id } })
    const [row] = await roster()
    expect(row.odds).toBe((await oddsOf()).odds)
    expect((await storedOn()).date).toBe(date)
  })
  it('are brought to a new day before anybody looks, and left alone after that', async () => {
    const context = { ...database, clock: new Clock(now), demo: false }
    const { date, document } = await storedOn()
    await database.models.figures.update({ date: '2030-01-01' }, { where: { candidateId: candidate.id } })
    expect(await refreshFigures(context)).toBe(1)
    expect(await storedOn()).toMatchObject({ date, document })
    expect(await refreshFigures(context)).toBe(0)
    const tomorrow = new Clock('2031-03-08T09:00:00Z')
    expect(await refreshFigures({ ...context, clock: tomorrow })).toBe(1)
    expect((await storedOn()).document.odds).toBe((await oddsOf(tomorrow)).odds)
  })
})
