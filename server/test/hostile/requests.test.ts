import { randomUUID } from 'node:crypto'
import { Writable } from 'node:stream'
import pino from 'pino'
import { QueryTypes } from 'sequelize'
import type { Candidate, Plan } from '@climber/contract'
import { ofKind } from '@climber/core'
import { createApp } from '../../src/app'
import { configFrom } from '../../src/config'
import type { Database } from '../../src/database'
import { isInside } from '../../src/services/fetchCalendar'
import {
  type App,
  appOn,
  Browser,
  candidateFile,
  databaseUrl,
  freshDatabase,
  now,
  practiceTest,
  sample,
} from '../harness'

let database: Database
let app: App
let owner: Browser
let candidate: Candidate
const at = (rest: string) => `/api/candidates/${candidate.id}/${rest}`

beforeAll(async () => {
  database = await freshDatabase()
  app = appOn(database)
  owner = new Browser(app)
  await owner.signUp()
  candidate = await owner.importCandidate()
})
afterAll(() => database.sequelize.close())

const rows = async (table: string): Promise<number> => {
  const [row] = await database.sequelize.query<{ n: number }>(`SELECT COUNT(*) AS n FROM ${table}`, {
    type: QueryTypes.SELECT,
  })
  return Number(row?.n)
}
const nested = (depth: number): unknown => (depth ? [nested(depth - 1)] : 1)
const savePart = (part: string, document: object, version = 0) =>
  owner.send('put', at(`parts/${part}`), { version, document })

describe('a request that no browser of ours sends', () => {
  it.each([
    ['half a letter in a note', 'candidate', { name: 'Orla', note: 'cut \ud83d' }, 'document.note'],
    ['half a letter in a key', 'candidate', { name: 'Orla', 'a\udc00': 1 }, 'document'],
    ['a control character in a name', 'candidate', { name: 'Or\u0000la' }, 'document.name'],
    ['a control character of the upper half', 'candidate', { name: 'Or\u0085la' }, 'document.name'],
    ['nesting without an end', 'candidate', { name: 'Orla', deep: nested(40) }, 'document.deep'],
    ['a number out of all bounds', 'target', { scaled: 1e308 }, 'document.scaled'],
    ['a key of every object', 'ratings', { topics: { constructor: 'weak' } }, 'topics'],
  ])('%s is refused at its place', async (_what, part, document, field) => {
    const answer = await savePart(part, document)
    expect(answer.status).toBe(422)
    expect(answer.body.field.startsWith(field)).toBe(true)
  })
  it('a key that would change what objects are is refused', async () => {
    const text = `{"version":0,"document":{"name":"Orla","__proto__":{"admin":true}}}`
    expect((await owner.sendText('put', at('parts/candidate'), text)).status).toBe(422)
  })
  it.each([
    [
      'perRight: 1e308',
      (exam: ReturnType<typeof sample>['exam']) => (exam.sections[0]!.groups[0]!.perRight = 1e308),
    ],
    [
      'a section called constructor',
      (exam: ReturnType<typeof sample>['exam']) => (exam.sections[0]!.id = 'constructor'),
    ],
    [
      '150,000 things to bring',
      (exam: ReturnType<typeof sample>['exam']) =>
        (exam.bring = Array.from({ length: 60_000 }, (_, n) => ({ id: `b${n}`, what: 'x', must: true }))),
    ],
    [
      'as many topics as anybody likes',
      (exam: ReturnType<typeof sample>['exam']) =>
        (exam.topics = Array.from({ length: 20_000 }, (_, n) => ({ ...exam.topics[0]!, id: `t${n}` }))),
    ],
    [
      'a chain of prerequisites that comes back after 500',
      (exam: ReturnType<typeof sample>['exam']) =>
        (exam.topics = Array.from({ length: 500 }, (_, n) => ({
          ...exam.topics[0]!,
          id: `t${n}`,
          prerequisites: Array.from({ length: 60 }, (_, k) => `t${(n + k + 1) % 500}`),
        }))),
    ],
  ])('an exam format with %s is refused', async (_what, change) => {
    const file = sample()
    change(file.exam)
    const answer = await owner.send('put', `/api/exams/${randomUUID()}`, { file })
    expect(answer.status).toBe(422)
    expect(answer.body.issues.length).toBeLessThanOrEqual(201)
  })
  it('letters that are not UTF-8, an unknown encoding, an address that cannot be decoded: none is a fault of ours', async () => {
    const statuses = [
      await owner.sendText('put', at('parts/candidate'), Buffer.from([0x7b, 0xff, 0x7d])),
      await owner.sendText('put', at('parts/candidate'), '{}', {
        'content-type': 'application/json; charset=klingon',
      }),
      await owner.sendText('put', at('parts/candidate'), '{}', { 'content-encoding': 'snail' }),
      await owner.sendText('put', at('parts/candidate'), 'not gzip', { 'content-encoding': 'gzip' }),
      await owner.send('get', '/api/candidates/%E0%A4%A'),
      await owner.send('get', '/%E0%A4%A'),
      await owner.send('get', '/api/%00'),
      await owner.send('put', at('parts/constructor'), { version: 0, document: {} }),
      await owner.send('put', at('parts/__proto__'), { version: 0, document: {} }),
    ].map(({ status }) => status)
    for (const status of statuses) {
      expect(status).toBeGreaterThanOrEqual(400)
      expect(status).toBeLessThan(500)
    }
  })
  it('more than is taken is refused, before signing in much sooner', async () => {
    const large = JSON.stringify({ version: 0, document: { name: 'x'.repeat(6_000_000) } })
    expect((await owner.sendText('put', at('parts/candidate'), large)).status).toBe(422)
    const nobody = new Browser(app)
    await nobody.arrive()
    const text = JSON.stringify({ email: 'x@mail.example', password: 'y'.repeat(70_000) })
    expect((await nobody.sendText('post', '/api/sign-in', text)).body.message).toContain('more than is taken')
  })
  it('keys that nobody knows are kept up to a length, and refused beyond', async () => {
    const small = await savePart('candidate', { name: 'Orla Venn', own: 'x'.repeat(1000) }, 1)
    expect(small.status).toBe(200)
    const large = await savePart('candidate', { name: 'Orla Venn', own: 'x'.repeat(400_000) }, 2)
    expect([large.status, large.body.message.includes('at most')]).toEqual([422, true])
    const file = candidateFile({ own: 'x'.repeat(400_000) })
    expect((await owner.send('put', `/api/candidates/${randomUUID()}/file`, { file })).status).toBe(422)
  })
})

/** The answer to what is sent two times under its id, which is the same. */
async function twice(method: 'put' | 'post' | 'delete', address: string, body: object) {
  const first = await owner.send(method, address, body)
  expect([first.status, first.body]).toEqual([200, expect.anything()])
  expect((await owner.send(method, address, body)).body).toEqual(first.body)
  return first.body
}

describe('two at the same moment', () => {
  it('the same template, format and candidate, saved twice at once, are stored once', async () => {
    const [template, exam, other] = [randomUUID(), randomUUID(), randomUUID()]
    const twice = async (address: string, body: object) => {
      const both = await Promise.all([1, 2, 3].map(() => owner.send('put', address, body)))
      expect(both.map(({ status }) => status)).toEqual([200, 200, 200])
    }
    await twice(`/api/templates/${template}`, { title: 'Evenings', settings: {} })
    await twice(`/api/exams/${exam}`, { file: sample() })
    await twice(`/api/candidates/${other}/file`, { file: candidateFile() })
    const { body } = await owner.send('get', `/api/exams/${exam}`)
    const changed = { ...body.format, about: 'Changed' }
    await twice(`/api/exams/${exam}/format`, { version: 1, newId: randomUUID(), format: changed })
  })
  it('a save that comes while the record is deleted is refused or done, and never brings it back', async () => {
    for (let round = 0; round < 8; round++) {
      const { id } = await owner.importCandidate()
      const save = (part: string) =>
        owner.send('put', `/api/candidates/${id}/parts/${part}`, { version: 0, document: {} })
      const statuses = await Promise.all([
        save('settings'),
        owner.send('delete', `/api/candidates/${id}`),
        save('pacing'),
        owner.send('put', `/api/candidates/${id}/plan`, { version: 0, seed: 1 }),
        owner.send('put', `/api/candidates/${id}/file`, { file: candidateFile() }),
      ]).then((all) => all.map(({ status }) => status))
      for (const status of statuses) expect([200, 404]).toContain(status)
      expect((await owner.send('get', `/api/candidates/${id}`)).status).toBe(404)
      expect((await owner.send('put', `/api/candidates/${id}/file`, { file: candidateFile() })).status).toBe(
        404,
      )
    }
  })
  it('what is deleted again by the same person is answered as the first time, by another as what never was', async () => {
    const { id, examId } = await owner.importCandidate(
      candidateFile({ candidate: { name: 'Brief', note: '' } }),
    )
    const gone = async (address: string) => {
      expect((await owner.send('delete', address)).body).toEqual({ ok: true })
      expect((await owner.send('delete', address)).body).toEqual({ ok: true })
    }
    const stranger = new Browser(app)
    await stranger.signUp()
    await gone(`/api/candidates/${id}`)
    const back = (browser: Browser) =>
      browser.send('put', `/api/candidates/${id}/file`, { file: candidateFile(), again: true })
    expect((await back(stranger)).status).toBe(404)
    expect((await back(owner)).status).toBe(200)
    await gone(`/api/candidates/${id}`)
    expect((await stranger.send('delete', `/api/candidates/${id}`)).status).toBe(404)
    const exam = randomUUID()
    await owner.send('put', `/api/exams/${exam}`, { file: sample() })
    await gone(`/api/exams/${exam}`)
    expect((await stranger.send('delete', `/api/exams/${exam}`)).status).toBe(404)
    expect((await owner.send('put', `/api/exams/${exam}`, { file: sample() })).status).toBe(404)
    expect((await owner.send('get', `/api/exams/${examId}`)).status).toBe(200)
  })
  it('a change of the plan that is sent again under its id is answered as the first time, done once', async () => {
    const { id } = await owner.importCandidate()
    const asked = { version: 0, seed: 1, request: randomUUID() }
    const first = await owner.send('put', `/api/candidates/${id}/plan`, asked)
    const again = await owner.send('put', `/api/candidates/${id}/plan`, asked)
    expect(again.body).toEqual(first.body)
    const pin = {
      version: 1,
      request: randomUUID(),
      moves: [{ id: first.body.sessions[0].id as string, pinned: true }],
    }
    const both = await Promise.all(
      [1, 2].map(() => owner.send('put', `/api/candidates/${id}/plan/arrangement`, pin)),
    )
    expect(both[0]?.body.plan).toEqual(both[1]?.body.plan)
    expect(both[0]?.body.plan.version).toBe(2)
    const off = {
      version: 2,
      request: randomUUID(),
      seed: 1,
      change: { kind: 'off', from: '2030-01-21', to: '2030-01-22' },
      mode: 'mend',
    }
    await twice('put', `/api/candidates/${id}/plan/replan`, off)
    await twice('put', `/api/candidates/${id}/plan/arrangement`, {
      ...pin,
      version: 3,
      request: randomUUID(),
    })
    await twice('post', `/api/candidates/${id}/plan/undo`, { version: 4, request: randomUUID(), redo: false })
  })
  it('a test that was sat and one that is deleted are answered as the first time', async () => {
    const { id } = await owner.importCandidate()
    const plan = (await owner.send('put', `/api/candidates/${id}/plan`, { version: 0, seed: 1 })).body as Plan
    const test = ofKind(plan.sessions, 'test').find(({ split, sections }) => !split && !sections)!
    const attempt = randomUUID()
    const address = `/api/candidates/${id}/attempts/${attempt}`
    const sat = { ...practiceTest(attempt, { form: test.form }), date: now.slice(0, 10) }
    const saved = await twice('put', address, { version: 0, request: randomUUID(), attempt: sat })
    const deleted = await twice('delete', address, { request: randomUUID() })
    expect([saved, deleted].map(({ sessions }) => sessions.length)).toEqual([1, 1])
  })
})

describe('who tries too often', () => {
  it('one password on many addresses is stopped, from that place alone', async () => {
    const proxied = appOn(database, { CLIMBER_PROXY: '1' })
    const from = (address: string) => {
      const browser = new Browser(proxied)
      const tries = async (n: number) => {
        const answer = await browser.sendText(
          'post',
          '/api/sign-in',
          JSON.stringify({ email: `${n}-${randomUUID()}@mail.example`, password: 'the season and year' }),
          { 'x-forwarded-for': address },
        )
        return answer.status
      }
      return { browser, tries }
    }
    const here = from('198.51.100.7')
    await here.browser.arrive()
    const statuses: number[] = []
    for (let n = 0; n < 63; n++) statuses.push(await here.tries(n))
    expect(statuses.slice(0, 60)).toEqual(Array(60).fill(401))
    expect(statuses.slice(60)).toEqual([429, 429, 429])
    // Nor does every address that is tried leave something behind.
    for (let n = 63; n < 600; n++) await here.tries(n)
    const kept = await rows('limits')
    for (let n = 600; n < 620; n++) expect(await here.tries(n)).toBe(429)
    expect(await rows('limits')).toBe(kept)
    const there = from('198.51.100.8')
    await there.browser.arrive()
    expect(await there.tries(0)).toBe(401)
  })
  it('codes of invitations are limited by who asks, whatever else the request holds, and on every server together', async () => {
    const guesser = new Browser(app)
    const email = `${randomUUID()}@mail.example`
    await guesser.signUp(email)
    const elsewhere = new Browser(appOn(database))
    await elsewhere.signIn(email, 'long enough for anyone')
    const statuses: number[] = []
    for (let n = 0; n < 12; n++) {
      const where = n % 2 ? guesser : elsewhere
      statuses.push(
        (await where.send('post', '/api/join', { code: `guess-${n}`, email: `${n}@mail.example` })).status,
      )
    }
    expect(statuses).toEqual([...Array(10).fill(404), 429, 429])
  })
  it('new accounts from one place, and calendars of one account, are limited', async () => {
    const proxied = appOn(database, { CLIMBER_PROXY: '1', CLIMBER_INSIDE: '1' })
    const made = new Browser(proxied)
    await made.arrive()
    const account = JSON.stringify({
      email: 'same@mail.example',
      password: 'long enough for anyone',
      name: 'X',
    })
    const statuses: number[] = []
    for (let n = 0; n < 61; n++) {
      const from = { 'x-forwarded-for': '198.51.100.9' }
      const { status, body } = await made.sendText('post', '/api/sign-up', account, from)
      statuses.push(status)
      made.csrf = (body as { csrf?: string }).csrf ?? made.csrf
    }
    expect(new Set(statuses.slice(0, 60))).toEqual(new Set([200]))
    expect(statuses[60]).toBe(429)
    const reader = new Browser(proxied)
    await reader.signUp()
    const { id } = await reader.importCandidate()
    const address = `/api/candidates/${id}/commitments/read`
    const read = async () => (await reader.send('post', address, { address: 'http://127.0.0.1:1/' })).status
    const answers = new Set<number>()
    for (let n = 0; n < 60; n++) answers.add(await read())
    expect([...answers]).toEqual([422])
    expect(await read()).toBe(429)
  })
  it('who only looks leaves no row behind', async () => {
    const before = await rows('web_sessions')
    for (let n = 0; n < 5; n++) await new Browser(app).arrive()
    expect(await rows('web_sessions')).toBe(before)
  })
})

describe('what is told', () => {
  it('a fault of the database is logged by its number, and nothing that anybody wrote', async () => {
    const lines: string[] = []
    const log = pino(
      { level: 'debug' },
      new Writable({ write: (chunk, _e, done) => (lines.push(String(chunk)), done()) }),
    )
    const config = configFrom({
      DATABASE_URL: databaseUrl(),
      SESSION_SECRET: 'a secret for the tests only',
      CLIMBER_NOW: now,
    })
    const person = new Browser(createApp(config, database, log))
    await person.signUp()
    const { id } = await person.importCandidate()
    await database.sequelize.query('ALTER TABLE parts ADD CONSTRAINT broken CHECK (part <> "commitments")')
    await database.sequelize.query('ALTER TABLE web_sessions RENAME COLUMN expires TO expired')
    const secret = 'https://calendar.example/private-7c1f'
    const asked = async () =>
      (
        await person.send('put', `/api/candidates/${id}/parts/commitments`, {
          version: 0,
          document: {
            note: 'my private note',
            calendars: [
              {
                id: randomUUID(),
                title: 'Work',
                address: secret,
                readAt: '2030-01-10T10:00:00Z',
                events: 0,
                busy: [],
              },
            ],
          },
        })
      ).status
    const broken = await asked()
    await database.sequelize.query('ALTER TABLE web_sessions RENAME COLUMN expired TO expires')
    const refused = await asked()
    await database.sequelize.query('ALTER TABLE parts DROP CONSTRAINT broken')
    expect([broken, refused]).toEqual([500, 500])
    const told = lines.join('')
    expect(told).toContain('"errno":4025')
    expect(told).toContain('"errno":1054')
    for (const word of ['private', 'calendar.example', 'long enough', 'INSERT', 'SELECT'])
      expect(told).not.toContain(word)
  })
  it('control characters that were stored before they were refused do not reach a calendar', async () => {
    const { id } = await owner.importCandidate()
    await owner.send('put', `/api/candidates/${id}/plan`, { version: 0, seed: 1 })
    const name = 'Orla\u0007\r\nX-EVIL:1\u2028'
    await database.models.parts.update(
      { document: { name, note: '' } },
      { where: { candidateId: id, part: 'candidate' } },
    )
    const { text } = await owner.send('get', `/api/candidates/${id}/plan.ics`)
    expect(text).toContain('X-WR-CALNAME:')
    expect(text).not.toMatch(/^X-EVIL/m)

    expect(text).not.toMatch(/[\u0000-\u0009\u000b\u000c\u000e-\u001f\u2028]/)
  })
  it('who stored what is conflicted with is said, the one who asks not as somebody else', async () => {
    const { id } = await owner.importCandidate()
    const save = (scaled: number, request: string) =>
      owner.send('put', `/api/candidates/${id}/parts/target`, { version: 1, request, document: { scaled } })
    const lost = randomUUID()
    expect((await save(310, lost)).status).toBe(200)
    const again = await save(320, randomUUID())
    expect(again.status).toBe(409)
    expect(again.body.message).toContain('You yourself changed this')
    expect(again.body.changedUnder).toBe(lost)
  })
})

describe('an attempt', () => {
  it('with one item twice is refused at the second, not with a fault of the database', async () => {
    const id = randomUUID()
    const attempt = {
      ...practiceTest(id),
      kind: 'set',
      counts: { topics: {} },
      items: [
        { item: 1, right: true, topic: 'tide-heights' },
        { item: 1, right: false, topic: 'tide-heights' },
      ],
    }
    const answer = await owner.send('put', at(`attempts/${id}`), { version: 0, attempt })
    expect(answer.status).toBe(422)
    expect(answer.body.field).toContain('items')
  })
})

describe('addresses inside a house', () => {
  it.each([
    '127.0.0.1',
    '10.1.2.3',
    '169.254.169.254',
    '192.168.1.1',
    '100.64.0.1',
    '0.0.0.0',
    '255.255.255.255',
    '192.0.2.1',
    '::1',
    '::',
    '::ffff:127.0.0.1',
    '::ffff:7f00:1',
    'fe80::1%eth0',
    'fc00::1',
    'fec0::1',
    '2002:7f00:1::',
    '2001::1',
    '2001:db8::1',
    '64:ff9b::7f00:1',
    '64:ff9b:1::7f00:1',
    '100::1',
    'ff02::1',
    'no address',
  ])('%s is one', (address) => expect(isInside(address)).toBe(true))
  it.each(['8.8.8.8', '93.184.216.34', '2606:2800:220:1::1', '2a00:1450::1'])('%s is none', (address) =>
    expect(isInside(address)).toBe(false),
  )
})
