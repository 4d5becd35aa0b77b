import http from 'node:http'
import type { AddressInfo } from 'node:net'
import type { Candidate, ChangedPlan, StoredPlan, StoredSession } from '@climber/contract'
import { dateOf, dayNumber, materialOf } from '@climber/core'
import type { Database } from '../src/database'
import { type App, appOn, Browser, freshDatabase } from './harness'

let database: Database
let app: App
let owner: Browser
let candidate: Candidate
let plan: StoredPlan
const path = (rest: string) => `/api/candidates/${candidate.id}/${rest}`
const later = (date: string, days: number) => dateOf(dayNumber(date) + days)
const bare = ({ sessions }: StoredPlan) => sessions.map(({ version: _, ...session }) => session)
const session = (from: StoredPlan, id: string) => from.sessions.find((one) => one.id === id)!

beforeEach(async () => {
  database = await freshDatabase()
  app = appOn(database)
  owner = new Browser(app)
  await owner.signUp()
  candidate = await owner.importCandidate()
  plan = (await owner.send('put', path('plan'), { version: 0, seed: 1 })).body as StoredPlan
})
afterEach(() => database.sequelize.close())

const arrange = (moves: object[], version = plan.version) =>
  owner.send('put', path('plan/arrangement'), { version, moves })
const study = () => plan.sessions.filter(({ kind }) => kind === 'learn' || kind === 'drill')

describe('arranging by hand', () => {
  it('refuses a place with the rule that stands against it, and changes nothing', async () => {
    const [first, second] = study() as [StoredSession, StoredSession]
    const answer = await arrange([{ id: first.id, date: second.date, start: second.start }])
    expect(answer.status).toBe(422)
    expect(answer.body.issues[0]).toMatchObject({ field: 'moves.0' })
    expect(answer.body.issues[0].message).toMatch(/is there from|would have/)
    const night = await arrange([{ id: second.id, date: later(second.date, 7), start: '03:00' }])
    expect(night.body.issues[0].message).toMatch(/Not free then|No free time|would be begun/)
    const again = (await owner.send('get', path('').slice(0, -1))).body as Candidate
    expect(again.plan!.version).toBe(plan.version)
  })
  it('moves, pins, lifts and places; undo and redo go back and forth', async () => {
    const piece = study()[3]!
    const lifted = (await arrange([{ id: piece.id, lifted: true }])).body as ChangedPlan
    expect(session(lifted.plan, piece.id).status).toBe('slipped')
    expect(lifted.plan.steps!.undo).toContain('to the tray')
    const placed = (
      await arrange([{ id: piece.id, date: piece.date, start: piece.start }], lifted.plan.version)
    ).body as ChangedPlan
    expect(session(placed.plan, piece.id)).toMatchObject({
      status: 'planned',
      pinned: true,
      date: piece.date,
    })
    const undo = async (version: number, redo = false) =>
      (await owner.send('post', path('plan/undo'), { version, redo })).body as ChangedPlan
    const one = await undo(placed.plan.version)
    const two = await undo(one.plan.version)
    expect(bare(two.plan)).toEqual(bare(plan))
    expect(two.plan.steps).toMatchObject({ undo: null })
    const three = await undo(two.plan.version, true)
    expect(bare(three.plan)).toEqual(bare(lifted.plan))
    const four = await undo(three.plan.version, true)
    expect(bare(four.plan)).toEqual(bare(placed.plan))
    expect(
      (await owner.send('post', path('plan/undo'), { version: four.plan.version, redo: true })).status,
    ).toBe(422)
  })
  it('tells the second of two editors', async () => {
    const piece = study()[3]!
    expect((await arrange([{ id: piece.id, pinned: true }])).status).toBe(200)
    const late = await arrange([{ id: piece.id, lifted: true }])
    expect(late.status).toBe(409)
    expect(late.body.current.version).toBe(plan.version + 1)
  })
})

describe('re-planning', () => {
  it('calls a day off, moves its work, and undo brings back the day and the work, but not what was done since', async () => {
    const day = study()[4]!.date
    const there = plan.sessions.filter(({ date }) => date === day)
    const answer = await owner.send('put', path('plan/replan'), {
      version: plan.version,
      seed: 1,
      change: { kind: 'off', from: day, to: day },
      mode: 'mend',
    })
    expect(answer.status).toBe(200)
    const changed = answer.body as ChangedPlan
    expect((changed.availability!.document as { daysOff: string[] }).daysOff).toContain(day)
    expect(changed.plan.sessions.filter(({ date, status }) => date === day && status === 'planned')).toEqual(
      [],
    )
    // Far off all stays; but what is known by then, and so the reasons, follow from what comes before.
    const farOff = (from: StoredPlan) =>
      bare(from).flatMap((one) => {
        const { reason: _, ...rest } = { reason: undefined, ...one }
        return one.date > later(day, 60) ? [rest] : []
      })
    expect(farOff(changed.plan)).toEqual(farOff(plan))

    const other = plan.sessions.find(({ date, kind }) => date !== day && kind === 'learn')!
    await owner.send('put', path(`sessions/${other.id}`), {
      version: session(changed.plan, other.id).version,
      status: 'done',
      minutesDone: 33,
      feeling: 'hard',
    })
    const back = (await owner.send('post', path('plan/undo'), { version: changed.plan.version, redo: false }))
      .body as ChangedPlan
    for (const { id, date, start } of there)
      expect(session(back.plan, id)).toMatchObject({ date, start, status: 'planned' })
    expect(session(back.plan, other.id)).toMatchObject({ status: 'done', minutesDone: 33, feeling: 'hard' })
    const again = (await owner.send('get', path('').slice(0, -1))).body as Candidate
    expect((again.parts.availability!.document as { daysOff: string[] }).daysOff).not.toContain(day)
  })
  it('refuses to call off what is over', async () => {
    const answer = await owner.send('put', path('plan/replan'), {
      version: plan.version,
      seed: 1,
      change: { kind: 'off', from: '2000-01-01', to: '2000-01-02' },
      mode: 'mend',
    })
    expect(answer.status).toBe(422)
    expect(answer.body.field).toBe('change.from')
  })
})

describe('commitments at an address', () => {
  const serve = async (text: () => string, status = 200) => {
    const server = http.createServer((request, response) => {
      if (request.url === '/on') response.writeHead(302, { location: '/calendar' }).end()
      else response.writeHead(status, { 'content-type': 'text/calendar' }).end(text())
    })
    await new Promise<void>((done) => server.listen(0, '127.0.0.1', done))
    return { server, address: `http://127.0.0.1:${(server.address() as AddressInfo).port}` }
  }
  const calendar = (...lines: string[]) =>
    [
      'BEGIN:VCALENDAR',
      'BEGIN:VEVENT',
      'UID:1',
      'SUMMARY:Ferry',
      ...lines,
      'END:VEVENT',
      'END:VCALENDAR',
    ].join('\r\n')
  const read = (address: string, as = owner) => as.send('post', path('commitments/read'), { address })

  it('are not read from inside the own network, by number, by name or by a detour', async () => {
    const { server, address } = await serve(() => calendar())
    for (const bad of [
      address,
      address.replace('127.0.0.1', 'localhost'),
      'http://[::1]:9/',
      'http://10.1.2.3/x',
    ])
      expect((await read(bad)).body).toMatchObject({ code: 'invalid', field: 'address' })
    expect((await read('ftp://calendar.example/x')).status).toBe(422)
    server.close()
  })
  it('are read where that is allowed; a broken one names its event', async () => {
    const inside = appOn(database, { CLIMBER_INSIDE: '1' })
    const browser = new Browser(inside)
    await browser.signUp()
    candidate = await browser.importCandidate()
    const start = '20300209T180000'
    let text = calendar(`DTSTART:${start}`, 'DURATION:PT1H')
    const { server, address } = await serve(() => text)
    const good = await read(`${address}/on`, browser)
    expect(good.status).toBe(200)
    expect(good.body).toMatchObject({ events: 1, busy: [{ date: '2030-02-09', from: '18:00', to: '19:00' }] })
    text = calendar('DTSTART:nonsense')
    const bad = await read(address, browser)
    expect(bad.status).toBe(422)
    expect(bad.body.issues[0]).toMatchObject({ field: 'line 2' })
    expect(bad.body.issues[0].message).toMatch(/^Ferry: /)
    server.close()
    expect((await read(address, browser)).body.message).toMatch(/cannot be reached/)
  })
})

describe('what goes out', () => {
  it('a Climber file has the busy times, never the address they were read from', async () => {
    const calendar = {
      id: '00000000-0000-4000-8000-0000000000aa',
      title: 'Ferry',
      address: 'https://calendar.example/secret-place.ics',
      readAt: '2030-01-15T08:00:00Z',
      events: 1,
      busy: [{ date: '2030-02-09', from: '18:00', to: '19:00' }],
    }
    const put = await owner.send('put', path('parts/commitments'), {
      version: 0,
      document: { calendars: [calendar] },
    })
    expect(put.status).toBe(200)
    const file = await owner.send('get', path('file'))
    expect(file.body.commitments.calendars[0].busy).toEqual(calendar.busy)
    expect(JSON.stringify(file.body)).not.toContain('secret-place')
    const bad = await owner.send('put', path('parts/commitments'), {
      version: 1,
      document: { calendars: [{ ...calendar, address: 'file:///etc/passwd' }] },
    })
    expect(bad.status).toBe(422)
    expect(bad.body.issues[0].field).toBe('calendars.0.address')
  })
  it('commitments and materials are planned with: nothing stands where one is busy, and each says what to open', async () => {
    const day = study()[2]!.date
    await owner.send('put', path('parts/commitments'), {
      version: 0,
      document: {
        calendars: [
          {
            id: '00000000-0000-4000-8000-0000000000aa',
            title: 'Ferry',
            readAt: '2030-01-15T08:00:00Z',
            events: 1,
            busy: [{ date: day, from: '00:00', to: '24:00' }],
          },
        ],
      },
    })
    await owner.send('put', path('parts/materials'), {
      version: 0,
      document: { items: [{ id: 'bank', title: 'Nine hundred questions', kind: 'bank', questions: 900 }] },
    })
    const answer = await owner.send('put', path('plan'), { version: plan.version, seed: 1 })
    const made = answer.body as StoredPlan
    expect(made.sessions.filter(({ date }) => date === day)).toEqual([])
    expect(made.sessions.some((one) => materialOf(one)?.text.includes('Nine hundred questions'))).toBe(true)
    expect(made.steps!.undo).toBe('the plan made anew')
    const calendar = await owner.send('get', path('plan.ics'))
    expect(calendar.text.replaceAll('\r\n ', '')).toContain('questions from Nine hundred questions')
  })
  it('templates are kept, changed and forgotten', async () => {
    const id = '00000000-0000-4000-8000-0000000000bb'
    const keep = (title: string, version?: number) =>
      owner.send('put', `/api/templates/${id}`, { title, version, settings: { reviewRatio: 1 } })
    expect((await keep('Evenings')).body).toMatchObject({
      id,
      title: 'Evenings',
      settings: { reviewRatio: 1 },
    })
    expect((await keep('Evenings')).body.version).toBe(1)
    const over = await keep('Weekends')
    expect([over.status, over.body.current.title]).toEqual([409, 'Evenings'])
    expect((await keep('Weekends', 1)).body.version).toBe(2)
    const titles = async () =>
      ((await owner.send('get', '/api/templates')).body as { title: string }[]).map(({ title }) => title)
    expect(await titles()).toEqual(['Weekends'])
    expect(
      (await owner.send('put', `/api/templates/${id}`, { title: 'X', settings: { reviewRatio: 99 } })).status,
    ).toBe(422)
    for (const _ of ['once', 'again'])
      expect((await owner.send('delete', `/api/templates/${id}`)).status).toBe(200)
    expect(await titles()).toEqual([])
    expect((await keep('Evenings')).status).toBe(404)
  })
})
