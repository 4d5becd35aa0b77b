import { randomUUID } from 'node:crypto'
import ICAL from 'ical.js'
import { type Candidate, ClimberFile, type StoredPlan } from '@climber/contract'
import { overview } from '@climber/core'
import { Clock } from '../src/clock'
import { type Database, migrate } from '../src/database'
import { load, recordOf } from '../src/services/record'
import {
  type App,
  appOn,
  Browser,
  candidateFile,
  dropEverything,
  freshDatabase,
  now,
  practiceTest,
} from './harness'

let database: Database
let app: App
let browser: Browser
let candidate: Candidate
const at = (rest: string) => `/api/candidates/${candidate.id}${rest}`
const counts = (streams: number) => ({
  'streams-items': { right: streams, wrong: 36 - streams, blank: 4, notReached: 0 },
  'passage-items': { right: 12, wrong: 12, blank: 6, notReached: 0 },
  'signals-items': { right: 25, wrong: 15, blank: 5, notReached: 0 },
})

beforeAll(async () => {
  database = await freshDatabase()
  app = appOn(database)
  browser = new Browser(app)
  await browser.signUp()
  candidate = await browser.importCandidate()
})
afterAll(() => database.sequelize.close())

describe('parts', () => {
  const save = (version: number, document: object, part = 'target') =>
    browser.send('put', at(`/parts/${part}`), { version, document })

  it('are saved with a version, and a save sent twice is stored once', async () => {
    const first = await save(1, { scaled: 310, sitting: 'second' })
    expect(first.body).toMatchObject({ version: 2, document: { scaled: 310 }, changedBy: 'Someone' })
    expect((await save(1, { scaled: 310, sitting: 'second' })).body.version).toBe(2)
  })
  it('refuse an edit that would overwrite another, and show it', async () => {
    const answer = await save(1, { scaled: 350, sitting: 'second' })
    expect(answer.status).toBe(409)
    expect(answer.body).toMatchObject({
      code: 'conflict',
      changedBy: 'You yourself',
      current: { version: 2, document: { scaled: 310 } },
    })
  })
  it('of two edits at the same moment one is kept and the other hears of it', async () => {
    const answers = await Promise.all([save(2, { scaled: 320 }), save(2, { scaled: 330 })])
    expect(answers.map(({ status }) => status).sort()).toEqual([200, 409])
  })
  it.each([
    [
      'a topic that the exam does not have',
      'ratings',
      { topics: { nowhere: 'weak' } },
      'topics.nowhere',
      /no topic nowhere/,
    ],
    [
      'a sitting that is over',
      'target',
      { sitting: 'gone' },
      'sitting',
      /is over; choose one after 2030-01-15/,
    ],
    ['a sitting that the exam does not have', 'target', { sitting: 'never' }, 'sitting', /no sitting never/],
    [
      'windows that overlap',
      'availability',
      {
        windows: [
          { weekday: 1, from: '10:00', to: '12:00' },
          { weekday: 1, from: '11:00', to: '13:00' },
        ],
      },
      'windows',
      /starts before/,
    ],
    [
      'a window that ends before it starts',
      'availability',
      { windows: [{ weekday: 1, from: '12:00', to: '10:00' }] },
      'windows.0.to',
      /end after it starts/,
    ],
    ['no such zone', 'availability', { zone: 'Nowhere/Atall' }, 'zone', /time zone/],
    ['eight days a week', 'availability', { daysPerWeek: 8 }, 'daysPerWeek', /7 days/],
  ])('%s is explained at its field', async (_name, part, document, field, message) => {
    const answer = await save(0, document, part)
    expect(answer.status).toBe(422)
    expect(answer.body.field).toBe(field)
    expect(answer.body.issues[0].message).toMatch(message)
  })
})

describe('the plan', () => {
  let plan: StoredPlan
  it('is made, and only from the version it replaces', async () => {
    const answer = await browser.send('put', at('/plan'), { version: 0, seed: 1 })
    plan = answer.body as StoredPlan
    expect(plan.version).toBe(1)
    expect(plan.sessions.length).toBeGreaterThan(50)
    expect((await browser.send('put', at('/plan'), { version: 0, seed: 1 })).status).toBe(409)
  })
  it('logs minutes on a session, once however often it is sent', async () => {
    const [session] = plan.sessions
    const done = { version: session!.version, status: 'done', minutesDone: 40 }
    const first = await browser.send('put', at(`/sessions/${session!.id}`), done)
    expect(first.body).toMatchObject({ status: 'done', minutesDone: 40, version: 2 })
    expect((await browser.send('put', at(`/sessions/${session!.id}`), done)).body.version).toBe(2)
    expect(
      (await browser.send('put', at(`/sessions/${session!.id}`), { version: 1, status: 'skipped' })).status,
    ).toBe(409)
  })
  it('made again keeps what was done', async () => {
    const answer = await browser.send('put', at('/plan'), { version: 1, seed: 2 })
    const again = answer.body as StoredPlan
    expect(again.sessions.find(({ id }) => id === plan.sessions[0]!.id)).toMatchObject({
      status: 'done',
      minutesDone: 40,
    })
  })
  it('without a sitting to come is refused at that field', async () => {
    const file = candidateFile()
    const other = await browser.importCandidate({
      ...file,
      exam: { ...file.exam, sittings: [] },
      target: { scaled: 300 },
    })
    const answer = await browser.send('put', `/api/candidates/${other.id}/plan`, { version: 0, seed: 1 })
    expect([answer.status, answer.body.field]).toEqual([422, 'target.sitting'])
  })
})

describe('practice tests', () => {
  const id = randomUUID()
  it('are stored under the id of the client, once', async () => {
    const send = () => browser.send('put', at(`/attempts/${id}`), { version: 0, attempt: practiceTest(id) })
    expect((await send()).body.attempt.version).toBe(1)
    expect((await send()).body.attempt.version).toBe(1)
    expect(((await browser.send('get', at(''))).body as Candidate).attempts).toHaveLength(2)
  })
  it.each([
    ['a day to come', { date: '2030-02-01' }, 'date'],
    ['an unknown form', { form: 'nothing-9' }, 'form'],
    [
      'counts over the items',
      { counts: { groups: { ...counts(20), 'passage-items': { right: 30, wrong: 5, blank: 0 } } } },
      'counts.groups.passage-items',
    ],
    [
      'a section left out',
      { counts: { groups: { 'streams-items': counts(20)['streams-items'] } } },
      'counts.groups.passage-items',
    ],
  ])('%s is explained at its field', async (_name, change, field) => {
    const other = randomUUID()
    const answer = await browser.send('put', at(`/attempts/${other}`), {
      version: 0,
      attempt: practiceTest(other, change),
    })
    expect([answer.status, answer.body.field]).toEqual([422, field])
  })
  it('can be deleted and put back', async () => {
    await browser.send('delete', at(`/attempts/${id}`))
    expect(((await browser.send('get', at(''))).body as Candidate).attempts).toHaveLength(1)
    expect(
      (await browser.send('put', at(`/attempts/${id}`), { version: 0, attempt: practiceTest(id) })).status,
    ).toBe(200)
  })
})

describe('open files', () => {
  it('the whole record goes out, and in again on an empty database unchanged', async () => {
    const out = await browser.send('get', at('/file'))
    expect(ClimberFile.safeParse(out.body).success).toBe(true)
    const before = (await browser.send('get', at(''))).body as Candidate
    await dropEverything(database)
    await migrate(database)
    const newcomer = new Browser(app)
    await newcomer.signUp()
    const after = await newcomer.importCandidate(out.body as ClimberFile)
    expect(after.plan!.sessions.map(({ version: _v, ...session }) => session)).toEqual(
      before.plan!.sessions.map(({ version: _v, ...session }) => session),
    )
    expect(after.attempts).toEqual(before.attempts)
    const again = await newcomer.send('get', `/api/candidates/${after.id}/file`)
    expect(again.text).toBe(out.text)
    browser = newcomer
    candidate = after
  })
  it('keep keys that this version does not know', async () => {
    const other = await browser.importCandidate({
      ...candidateFile(),
      moods: [{ day: 1, mood: 'calm' }],
    } as unknown as ClimberFile)
    const out = await browser.send('get', `/api/candidates/${other.id}/file`)
    expect(out.body.moods).toEqual([{ day: 1, mood: 'calm' }])
  })
  it('that are broken are refused with every path, and nothing is stored', async () => {
    const file = candidateFile() as unknown as {
      exam: { sections: { minutes: number }[] }
      target: { sitting: string }
    }
    file.exam.sections[0]!.minutes = -5
    file.target.sitting = 'nowhere'
    const id = randomUUID()
    const answer = await browser.send('put', `/api/candidates/${id}/file`, { file })
    expect(answer.status).toBe(422)
    expect(answer.body.issues.map(({ field }: { field: string }) => field)).toContain(
      'file.exam.sections.0.minutes',
    )
    expect((await browser.send('get', `/api/candidates/${id}`)).status).toBe(404)
  })
  it('with one id twice are refused at the second, not with a fault of the database', async () => {
    const id = randomUUID()
    const test = practiceTest(id)
    const answer = await browser.send('put', `/api/candidates/${randomUUID()}/file`, {
      file: { ...candidateFile(), attempts: [test, test] },
    })
    expect([answer.status, answer.body.field]).toEqual([422, 'file.attempts.1.id'])
  })
  it('of a newer major version are refused', async () => {
    const answer = await browser.send('put', `/api/candidates/${randomUUID()}/file`, {
      file: { ...candidateFile(), climber: 3 },
    })
    expect(answer.body.issues[0].message).toMatch(/version 3; this Climber reads version 2/)
  })
})

describe('the calendar file', () => {
  it('opens in a standard parser, with a UID for each session that stays when the plan is made again', async () => {
    const read = async () => {
      const { text } = await browser.send('get', at('/plan.ics'))
      const calendar = new ICAL.Component(ICAL.parse(text))
      return calendar.getAllSubcomponents('vevent').map((event) => new ICAL.Event(event))
    }
    const first = await read()
    const { plan } = (await browser.send('get', at(''))).body as Candidate
    expect(first).toHaveLength(plan!.sessions.length + 1)
    expect(new Set(first.map(({ uid }) => uid)).size).toBe(first.length)
    const session = plan!.sessions.find(({ status }) => status === 'planned')!
    const event = first.find(({ uid }) => uid.startsWith(`${session.id}.`))!
    expect(event.startDate.toJSDate().toISOString()).toBe(`${session.date}T${session.start}:00.000Z`)
    expect(event.duration.toSeconds()).toBe(session.minutes * 60)
    await browser.send('put', at('/plan'), { version: plan!.version, seed: 1 })
    const second = new Set((await read()).map(({ uid }) => uid))
    const kept = first.filter(({ uid }) => second.has(uid)).length
    expect(kept / first.length).toBeGreaterThan(0.8)
  })
})

describe('the calendar at a private address', () => {
  const feed = () => browser.send('post', at('/feed'))
  const read = async (token: string) => {
    const answer = await new Browser(app).send('get', `/api/feeds/${token}/plan.ics`)
    return {
      status: answer.status,
      type: answer.headers['content-type'],
      events:
        answer.status === 200
          ? new ICAL.Component(ICAL.parse(answer.text))
              .getAllSubcomponents('vevent')
              .map((event) => new ICAL.Event(event))
          : [],
    }
  }
  it('is read without signing in; a moved session is the same event, later in its sequence', async () => {
    const { token } = (await feed()).body as { token: string }
    const first = await read(token)
    expect([first.status, first.type]).toEqual([200, 'text/calendar; charset=utf-8'])
    const row = (await database.models.sessions.findOne({
      where: { candidateId: candidate.id, status: 'planned' },
    }))!
    const document = { ...row.document, start: '15:35' }
    await row.update({ document, start: '15:35', version: row.version + 1 })
    const second = await read(token)
    expect(second.events).toHaveLength(first.events.length)
    const same = (events: ICAL.Event[]) => events.filter(({ uid }) => uid.startsWith(`${row.id}.`))
    expect(same(second.events)).toHaveLength(1)
    expect(same(second.events)[0]!.startDate.toJSDate().toISOString()).toContain('T15:35')
    expect(same(second.events)[0]!.sequence).toBe(same(first.events)[0]!.sequence + 1)
    expect((await browser.send('get', at('/feed'))).body).toMatchObject({ read: expect.any(String) })
  })
  it('ends when a new one is made, and when it is ended; the address itself is not stored', async () => {
    const one = (await feed()).body.token as string
    const two = (await feed()).body.token as string
    expect((await read(one)).status).toBe(404)
    expect((await read(two)).status).toBe(200)
    const rows = await database.models.feeds.findAll()
    expect(JSON.stringify(rows)).not.toContain(two)
    await browser.send('delete', at('/feed'))
    expect((await read(two)).status).toBe(404)
    expect((await browser.send('get', at('/feed'))).body).toEqual({ since: null, read: null })
    expect((await read('x'.repeat(32))).status).toBe(404)
  })
})

describe('browser and server agree to the digit', () => {
  it('on everything that the core makes of a stored record', async () => {
    const row = (await database.models.candidates.findByPk(candidate.id))!
    const stored = recordOf(await load({ ...database, clock: new Clock(now), demo: false }, row))
    const moment = { date: now.slice(0, 10), minute: 600 }
    // What the browser gets has been through JSON and the structured clone of the worker.
    const sent = structuredClone(JSON.parse(JSON.stringify(stored))) as typeof stored
    expect(JSON.stringify(overview(sent, moment))).toBe(JSON.stringify(overview(stored, moment)))
  })
})
