import { randomUUID } from 'node:crypto'
import ICAL from 'ical.js'
import {
  type Basis,
  type Candidate,
  type ChangedPlan,
  type PlanChange,
  type SavedAttempt,
  type StoredPlan,
  versionsOf,
} from '@climber/contract'
import { dateOf, dayNumber, ofKind, previewPlan, replan, reviewsOf } from '@climber/core'
import type { Database } from '../src/database'
import { type App, appOn, Browser, candidateFile, freshDatabase, practiceTest } from './harness'
import { recordIn } from '../../contract/test/answered'

let database: Database
let app: App
let owner: Browser
let id: string
let plan: StoredPlan
const path = (rest = '') => `/api/candidates/${id}${rest && `/${rest}`}`
const read = async () => (await owner.send('get', path())).body as Candidate
const later = (date: string, days: number) => dateOf(dayNumber(date) + days)
const today = '2030-01-15'
/** Sessions without what storing them adds: a version, and the mark of the change. */
const bare = ({ sessions }: { sessions: object[] }) =>
  sessions.map((session) =>
    Object.fromEntries(Object.entries(session).filter(([key]) => key !== 'version' && key !== 'changed')),
  )
/** As the browser has it: the record, and what a preview on it rests on. */
const asSeen = (candidate: Candidate, minute: number) => {
  const record = recordIn(candidate)
  const basis: Basis = { date: today, minute, versions: versionsOf(candidate as never) }
  return { record, basis, now: { date: today, minute } }
}
const accept = (version: number, basis: Basis | undefined, more: object = {}, as = owner) =>
  as.send('put', path('plan/replan'), {
    version,
    seed: 1,
    change: { kind: 'none' },
    mode: 'anew',
    basis,
    ...more,
  })

beforeEach(async () => {
  database = await freshDatabase()
  app = appOn(database)
  owner = new Browser(app)
  await owner.signUp()
  id = (await owner.importCandidate()).id
  plan = (await owner.send('put', path('plan'), { version: 0, seed: 1 })).body as StoredPlan
})
afterEach(() => database.sequelize.close())

describe('what was previewed is what is stored', () => {
  it('also when it is accepted at another minute', async () => {
    // At ten in the morning, five minutes ago: the plan that was shown then is kept now.
    const { record, basis, now } = asSeen(await read(), 595)
    const shown = replan(record, now, 1, { kind: 'none' }, 'anew')!
    const kept = (await accept(plan.version, basis)).body as ChangedPlan
    expect(bare(kept.plan)).toEqual(bare(JSON.parse(JSON.stringify(shown.plan))))
    const made = await owner.send('put', path('plan'), {
      version: kept.plan.version,
      seed: 1,
      basis: asSeen(await read(), 580).basis,
    })
    const preview = previewPlan(asSeen(await read(), 580).record, { date: today, minute: 580 }, 1)!
    expect(bare(made.body as StoredPlan).length).toBe(preview.plan.sessions.length)
  })
  it('and is refused once something that it rested on has changed, or the hour is over', async () => {
    const { basis } = asSeen(await read(), 595)
    const target = { version: 1, document: { scaled: 333, sitting: 'second' } }
    expect((await owner.send('put', path('parts/target'), target)).status).toBe(200)
    const refused = await accept(plan.version, basis)
    expect(refused.status).toBe(409)
    expect(refused.body.message).toContain('target changed')
    expect(refused.body.current.version).toBe(plan.version)
    const fresh = asSeen(await read(), 595)
    expect((await accept(plan.version, { ...fresh.basis, minute: 500 })).body.message).toContain('too old')
    expect((await accept(plan.version, { ...fresh.basis, date: '2030-01-14' })).status).toBe(409)
    const session = plan.sessions.find(({ status }) => status === 'planned')!
    await owner.send('put', path(`sessions/${session.id}`), { version: session.version, status: 'skipped' })
    expect((await accept(plan.version, fresh.basis)).body.message).toContain('sessions changed')
    expect((await accept(plan.version, asSeen(await read(), 595).basis)).status).toBe(200)
  })
  it('and is refused when it would begin in the past by now', async () => {
    const free = candidateFile({
      availability: {
        windows: [
          { weekday: 2, from: '09:00', to: '18:00' },
          { weekday: 4, from: '09:00', to: '18:00' },
        ],
      },
    })
    id = (await owner.importCandidate(free)).id
    plan = (await owner.send('put', path('plan'), { version: 0, seed: 1 })).body as StoredPlan
    const { basis, record } = asSeen(await read(), 545)
    const shown = replan(record, { date: today, minute: 545 }, 1, { kind: 'none' }, 'anew')!
    expect(shown.plan.sessions[0]!.start < '10:00').toBe(true)
    const answer = await accept(plan.version, basis)
    expect([answer.status, answer.body.message]).toEqual([
      409,
      expect.stringContaining('would have begun by now'),
    ])
  })
})

describe('a change whose answer was lost', () => {
  it('is answered when it is sent again, and done once', async () => {
    const piece = plan.sessions.find(({ kind, status }) => kind === 'learn' && status === 'planned')!
    const requests = [randomUUID(), randomUUID(), randomUUID(), randomUUID()]
    const off: PlanChange = { kind: 'off', from: piece.date, to: piece.date }
    const changes = (version: number): [string, 'put' | 'post', string, object][] => [
      ['makePlan', 'put', 'plan', { version, seed: 1, request: requests[0] }],
      [
        'arrange',
        'put',
        'plan/arrangement',
        { version: version + 1, moves: [{ id: piece.id, pinned: true }], request: requests[1] },
      ],
      [
        'replan',
        'put',
        'plan/replan',
        { version: version + 2, seed: 1, change: off, mode: 'mend', request: requests[2] },
      ],
      ['undo', 'post', 'plan/undo', { version: version + 3, redo: false, request: requests[3] }],
    ]
    for (const [, method, address, body] of changes(plan.version)) {
      const first = await owner.send(method, path(address), body)
      expect(first.status).toBe(200)
      const again = await owner.send(method, path(address), body)
      expect(again.status).toBe(200)
      expect((again.body.plan ?? again.body).version).toBe((first.body.plan ?? first.body).version)
    }
    expect((await read()).plan!.version).toBe(plan.version + 4)
  })
})

describe('what the outbox sends again', () => {
  const twice = async (address: string, first: object, other: object) => {
    const request = randomUUID()
    const send = (body: object) => owner.send('put', path(address), { ...body, request })
    const answer = await send(first)
    expect(answer.status).toBe(200)
    const again = await send(first)
    expect(again.status).toBe(200)
    // Somebody wrote on top of it while its answer was lost: that stays, and is what is answered.
    const version = answer.body.version ?? answer.body.attempt.version
    const after = await owner.send('put', path(address), { ...other, version })
    expect(after.status).toBe(200)
    const late = await send(first)
    expect(late.status).toBe(200)
    return { answer: answer.body, again: again.body, after: after.body, late: late.body }
  }
  it('is done once: a part', async () => {
    const version = (await read()).parts.target?.version ?? 0
    const told = await twice(
      'parts/target',
      { version, document: { scaled: 301 } },
      { document: { scaled: 302 } },
    )
    expect(told.again.version).toBe(version + 1)
    expect(told.late).toMatchObject({ version: version + 2, document: { scaled: 302 } })
    expect((await read()).parts.target).toMatchObject({ version: version + 2, document: { scaled: 302 } })
  })
  it('a report of a session', async () => {
    const { id: session, version } = (await read()).plan!.sessions.find(({ status }) => status === 'planned')!
    const done = { version, status: 'done', minutesDone: 30 }
    const told = await twice(`sessions/${session}`, done, { status: 'planned' })
    expect(told.again).toEqual(told.answer)
    expect(told.late).toMatchObject({ status: 'planned', version: version + 2 })
  })
  it('something that was sat; and sent again after it was deleted it does not come back', async () => {
    const attempt = randomUUID()
    const first = { version: 0, attempt: practiceTest(attempt, { form: undefined, title: 'Evening paper' }) }
    const other = { attempt: practiceTest(attempt, { form: undefined, title: 'Morning paper' }) }
    const told = await twice(`attempts/${attempt}`, first, other)
    expect(told.late.attempt).toMatchObject({ title: 'Morning paper', version: 2 })
    const request = randomUUID()
    const sent = await owner.send('put', path(`attempts/${attempt}`), {
      version: 2,
      attempt: practiceTest(attempt, { form: undefined, title: 'Night paper' }),
      request,
    })
    expect(sent.status).toBe(200)
    for (let time = 0; time < 2; time++)
      expect((await owner.send('delete', path(`attempts/${attempt}`), {})).status).toBe(200)
    const late = await owner.send('put', path(`attempts/${attempt}`), {
      version: 2,
      attempt: first.attempt,
      request,
    })
    expect(late.status).toBe(404)
    expect((await read()).attempts.some(({ id: own }) => own === attempt)).toBe(false)
  })
})

describe('a paper that is logged', () => {
  const board = () => ofKind(plan.sessions, 'test').find(({ split, sections }) => !split && !sections)!
  const log = async (form: string, date: string, attempt: string = randomUUID()) =>
    (
      await owner.send('put', path(`attempts/${attempt}`), {
        version: 0,
        attempt: practiceTest(attempt, { form, date, minutes: 150 }),
      })
    ).body as SavedAttempt
  it('early is the planned test: done that day, its review kept by every re-plan', async () => {
    const test = board()
    const reviews = reviewsOf(test.id, plan.sessions)
    expect(reviews.length).toBeGreaterThan(0)
    const saved = await log(test.form!, '2030-01-14')
    expect(saved.attempt.session).toBe(test.id)
    expect(saved.sessions).toMatchObject([
      { id: test.id, date: '2030-01-14', status: 'done', minutesDone: 150 },
    ])
    for (const mode of ['mend', 'anew'] as const) {
      const { plan: now } = (await read()) as { plan: StoredPlan }
      const after = (await accept(now.version, undefined, { mode })).body as ChangedPlan
      expect(after.plan.sessions.find((one) => one.id === test.id)).toMatchObject({ status: 'done' })
      const left = reviewsOf(test.id, after.plan.sessions).filter(({ status }) => status === 'planned')
      expect(left.reduce((sum, { minutes }) => sum + minutes, 0)).toBe(
        reviews.reduce((sum, { minutes }) => sum + minutes, 0),
      )
      expect(
        ofKind(after.plan.sessions, 'test').filter(
          (one) => one.form === test.form && one.status === 'planned' && !one.seen,
        ),
      ).toEqual([])
    }
  })
  it('sent again changes nothing; taken back, the test is open again', async () => {
    const attempt = randomUUID()
    const first = await log(board().form!, '2030-01-14', attempt)
    const again = await log(board().form!, '2030-01-14', attempt)
    expect(again.attempt).toEqual(first.attempt)
    expect(again.sessions).toEqual(first.sessions)
    const taken = await owner.send('delete', path(`attempts/${attempt}`))
    expect(taken.body.sessions).toMatchObject([{ id: board().id, status: 'planned' }])
    expect((await read()).attempts.map(({ kind }) => kind)).toEqual(['diagnostic'])
  })
  it('of a form that is not planned changes no session', async () => {
    const used = new Set(ofKind(plan.sessions, 'test').map(({ form }) => form))
    const { exam } = await read()
    const spare = exam.forms.find((form) => !used.has(form.id))
    if (!spare) return
    expect((await log(spare.id, '2030-01-14')).sessions).toEqual([])
  })
})

describe('what was called off', () => {
  it('stands in no calendar, and light work of that day is in the diff', async () => {
    const file = candidateFile()
    const windows = [
      ...file.availability!.windows,
      ...[1, 2, 3, 4, 5].map((weekday) => ({ weekday, from: '07:00', to: '07:30', light: true })),
    ]
    id = (await owner.importCandidate({ ...file, availability: { ...file.availability!, windows } })).id
    plan = (await owner.send('put', path('plan'), { version: 0, seed: 1 })).body as StoredPlan
    const light = ofKind(plan.sessions, 'light').find(
      ({ purpose, date }) => purpose === 'cards' && date > today,
    )!
    const { record, basis, now } = asSeen(await read(), 600)
    const change: PlanChange = { kind: 'off', from: light.date, to: light.date }
    const shown = replan(record, now, 1, change)!
    expect(shown.diff.dropped.map(({ session }) => session.id)).toContain(light.id)
    const lifted = plan.sessions.find(({ kind, date }) => kind === 'learn' && date > later(light.date, 2))!
    const changed = (await accept(plan.version, basis, { change, mode: 'mend' })).body as ChangedPlan
    expect(changed.plan.sessions.find((one) => one.id === light.id)?.status).toBe('skipped')
    await owner.send('put', path('plan/arrangement'), {
      version: changed.plan.version,
      moves: [{ id: lifted.id, lifted: true }],
    })
    const { text } = await owner.send('get', path('plan.ics'))
    const uids = new ICAL.Component(ICAL.parse(text))
      .getAllSubcomponents('vevent')
      .map((event) => new ICAL.Event(event).uid)
    for (const gone of [light.id, lifted.id])
      expect(uids.filter((uid) => uid.startsWith(`${gone}.`))).toEqual([])
    expect(uids.length).toBeGreaterThan(40)
  })
})

describe('a plan for each sitting', () => {
  const aim = async (sitting: string) => {
    const { parts } = await read()
    const stored = parts.target!
    const document = { ...(stored.document as object), sitting }
    expect(
      (await owner.send('put', path('parts/target'), { version: stored.version, document })).status,
    ).toBe(200)
  }
  it('is made beside the others; what was done stays with the one it was done under, and counts', async () => {
    const [first] = plan.sessions
    await owner.send('put', path(`sessions/${first!.id}`), {
      version: first!.version,
      status: 'done',
      minutesDone: 50,
    })
    const planned = (await read()).plan!
    await aim('third')
    const between = await read()
    expect(between.plan!.sitting).toBe('second')
    const after = (await accept(planned.version, undefined, { mode: 'mend' })).body as ChangedPlan
    expect(after.plan).toMatchObject({ sitting: 'third', version: 1 })
    const third = await read()
    expect(third.before.map(({ id: one }) => one)).toEqual([first!.id])
    expect(third.plan!.sessions.map(({ id: one }) => one)).not.toContain(first!.id)
    // No id is used twice, whatever plan it belongs to.
    expect(third.plan!.sessions.filter(({ id: one }) => third.taken.includes(one))).toEqual([])
    expect(third.plan!.steps!.undo).toBeNull()
    await aim('second')
    const back = await read()
    expect(bare(back.plan!)).toEqual(bare(planned))
    expect(back.plan!.sitting).toBe('second')
  })
  it('goes out in the file with the others, and in again', async () => {
    await aim('third')
    await accept(plan.version, undefined)
    const out = await owner.send('get', path('file'))
    expect(out.body.plan.sitting).toBe('third')
    expect(out.body.pastPlans.map(({ sitting }: { sitting: string }) => sitting)).toEqual(['second'])
    const copy = (await owner.send('put', `/api/candidates/${randomUUID()}/file`, { file: out.body }))
      .body as Candidate
    expect((await owner.send('get', `/api/candidates/${copy.id}/file`)).text).toBe(out.text)
  })
})

describe('a file without what is there by default', () => {
  it('goes out as it came in, on the first trip and on the second', async () => {
    const { exam } = candidateFile()
    const bareExam = {
      title: 'Bare',
      sections: [
        {
          id: 's',
          title: 'Only',
          minutes: 30,
          groups: [{ id: 's-items', kind: 'choice', items: 10, choices: 4, perRight: 1 }],
          conversion: {
            points: [
              [0, 0],
              [10, 100],
            ],
          },
        },
      ],
      topics: [{ id: 't', title: 'All', section: 's', share: 1 }],
      composite: { kind: 'sum' },
      sittings: [{ ...exam.sittings[0]!, id: 'soon', date: '2030-04-01' }],
    }
    const file = {
      climber: 2,
      exam: bareExam,
      candidate: { name: 'Plain' },
      availability: { windows: [{ weekday: 1, from: '18:00', to: '20:00' }] },
      plan: {
        madeOn: '2030-01-01',
        sitting: 'soon',
        seed: 1,
        leadTime: 'short',
        phases: [],
        weeks: [],
        notices: [],
        sessions: [
          { id: 'study.t.1', date: '2030-01-21', start: '18:00', minutes: 50, kind: 'learn', own: 'kept' },
        ],
      },
      attempts: [{ id: randomUUID(), kind: 'practice', date: '2030-01-02', counts: { groups: {} } }],
    }
    let sent: object = file
    for (let trip = 0; trip < 2; trip++) {
      const copy = await owner.send('put', `/api/candidates/${randomUUID()}/file`, { file: sent })
      expect(copy.status).toBe(200)
      const out = await owner.send('get', `/api/candidates/${copy.body.id}/file`)
      expect(out.body).toEqual(file)
      sent = out.body
    }
  })
})
