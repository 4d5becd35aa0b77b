import { jest } from '@jest/globals'
import { readFileSync } from 'node:fs'
import path from 'node:path'
import {
  type Candidate,
  ClimberFile,
  nothingRecalled,
  type Recalled,
  type StoredSession,
} from '@climber/contract'
import { ApiFailure } from '../src/api'
import { byField, problemsOf, within } from '../src/kit/problems'
import { confirmed, withLater } from '../src/outbox/confirmed'
import { heard } from '../src/outbox/connection'
import { adds, type Entry, lanes, over } from '../src/outbox/entry'
import { inMemory, type Keeper } from '../src/outbox/keeper'
import { askKept, keepConfirmed } from '../src/outbox/kept'
import type { Settled } from '../src/outbox/outbox'
import { withWaiting } from '../src/outbox/overlay'

const { exam } = ClimberFile.parse(
  JSON.parse(readFileSync(path.join(process.cwd(), 'demo/tidal-pilotage.exam.climber.json'), 'utf8')),
)
const id = '5f0c9a00-0000-4000-8000-000000000009'
const paper = '5f0c9a00-0000-4000-8000-000000000031'
const form = exam.forms[0]!.id
const session = (of: Partial<StoredSession> & { id: string }) =>
  ({
    kind: 'learn',
    date: '2030-01-15',
    start: '18:00',
    minutes: 60,
    topics: [],
    pinned: false,
    status: 'planned',
    version: 3,
    ...of,
  }) as StoredSession
const stored = {
  id,
  exam,
  parts: { target: { document: { scaled: 300 }, version: 2, changedBy: null, changedAt: null } },
  attempts: [],
  plan: {
    version: 4,
    sessions: [
      session({ id: 's1' }),
      session({ id: 's2', kind: 'test', form, seen: false, start: '20:00' } as never),
    ],
  },
} as unknown as Candidate
const entry = (more: object) =>
  ({
    order: 1,
    request: 'r',
    user: 'u',
    lane: 'l',
    about: '',
    held: false,
    tries: 0,
    ready: 0,
    ...more,
  }) as Entry
const report = (body: object) =>
  entry({ route: 'saveSession', params: { candidateId: id, sessionId: 's1' }, body: { version: 3, ...body } })
const sat = entry({
  route: 'saveAttempt',
  params: { candidateId: id, attemptId: paper },
  body: {
    version: 0,
    attempt: {
      id: paper,
      kind: 'practice',
      date: '2030-01-15',
      form,
      seen: false,
      counts: { groups: {}, topics: {} },
    },
  },
})
const settled = (route: Settled['route'], params: object, answer: unknown, body: object = {}): Settled => ({
  request: 'r',
  lane: 'l',
  again: false,
  route,
  params: { candidateId: id, ...params } as Settled['params'],
  body: body as Settled['body'],
  answer,
})

describe('what waits shows as the server will have it', () => {
  const shown = (...entries: Entry[]) => withWaiting({ plan: stored.plan, attempts: [], review: [] }, entries)
  it('a session that is done, with its minutes, on the version that is stored', () => {
    const { plan } = shown(
      report({ status: 'running', startedAt: '2030-01-15T18:00:00Z' }),
      report({ status: 'done', minutesDone: 50 }),
    )
    expect(plan?.sessions[0]).toMatchObject({ status: 'done', minutesDone: 50, version: 3 })
    expect(plan?.sessions[0]).not.toHaveProperty('startedAt')
  })
  const noting = (changes: object, item = 4): Entry =>
    entry({ route: 'noteItem', params: { candidateId: id, attemptId: paper, item }, body: { changes } })
  it('a note as it is written bit by bit, with what is said of it, on top of what is stored', () => {
    const review = [{ attempt: paper, item: 4, next: 'read the units', version: 2 }]
    const say = entry({
      route: 'commentItem',
      params: { candidateId: id, attemptId: paper, item: 4, commentId: paper },
      body: { text: 'Me too.' },
    })
    const notes = withWaiting({ plan: stored.plan, attempts: [], review }, [
      noting({ cause: 'time' }),
      say,
      noting({ next: null }),
      noting({ cause: 'guess' }, 5),
    ]).review
    expect(notes).toEqual([
      {
        attempt: paper,
        item: 4,
        cause: 'time',
        comments: [{ id: paper, by: 'You', text: 'Me too.' }],
        version: 2,
      },
      { attempt: paper, item: 5, cause: 'guess', version: 0 },
    ])
  })
  it('changes of one note that wait go as one, and what is said of it by itself', () => {
    const [first, second] = [noting({ cause: 'time', seconds: 20 }), noting({ cause: null })]
    expect(over(first, second)).toMatchObject({ body: { changes: { cause: null, seconds: 20 } } })
    expect(adds(first)).toBe(true)
  })
  it('a paper that was sat, and the planned test that it was; and neither once it is deleted', () => {
    const once = shown(sat)
    expect(once.attempts).toMatchObject([{ id: paper, session: 's2', version: 0 }])
    expect(once.plan?.sessions[1]).toMatchObject({ status: 'done' })
    const gone = entry({ route: 'deleteAttempt', params: { candidateId: id, attemptId: paper }, body: {} })
    const twice = shown(sat, gone)
    expect(twice.attempts).toEqual([])
    expect(twice.plan?.sessions[1]).toMatchObject({ status: 'planned' })
  })
  it('the same plan, where nothing that waits is of it', () => {
    expect(shown().plan).toBe(stored.plan)
    const other = entry({
      route: 'saveSession',
      params: { candidateId: id, sessionId: 'gone' },
      body: { version: 1, status: 'done' },
    })
    expect(shown(other).plan).toBe(stored.plan)
  })
})

describe('what the server confirmed is in the record', () => {
  it('each at its place, and nothing older over what is newer', () => {
    const part = (version: number) =>
      settled('savePart', { part: 'target' }, { document: { scaled: 310 }, version })
    expect(confirmed(stored, part(3)).parts.target).toMatchObject({ version: 3, document: { scaled: 310 } })
    expect(confirmed(stored, part(1))).toBe(stored)
    const done = settled(
      'saveSession',
      { sessionId: 's1' },
      session({ id: 's1', status: 'done', version: 4 }),
    )
    expect(confirmed(stored, done).plan?.sessions[0]).toMatchObject({ status: 'done', version: 4 })
    const saved = settled(
      'saveAttempt',
      { attemptId: paper },
      { attempt: { id: paper, version: 1 }, sessions: [] },
    )
    expect(confirmed(stored, saved).attempts).toMatchObject([{ id: paper, version: 1 }])
    const gone = settled('deleteAttempt', { attemptId: paper }, { sessions: [] })
    expect(confirmed(confirmed(stored, saved), gone).attempts).toEqual([])
  })
  it('what was recalled as it changed; where a change was not heard of, the version stays behind', () => {
    const recalled = (version: number, answers: number): Recalled => ({
      ...nothingRecalled,
      version,
      days: [{ topic: 'lights', day: 21_900, answers, seconds: 30, cards: [1, 1] }],
    })
    const answered = (version: number, answers: number) =>
      settled('answerCards', {}, { histories: [], recalled: recalled(version, answers) })
    const before = withLater(stored)
    expect(before.recalled).toEqual(nothingRecalled)
    const first = confirmed(before, answered(1, 1))
    expect(first.recalled).toEqual(recalled(1, 1))
    expect(confirmed(first, answered(1, 9)).recalled).toBe(first.recalled)
    expect(confirmed(first, answered(3, 2)).recalled).toEqual({ ...recalled(3, 2), version: 1 })
    expect(confirmed(first, answered(2, 0)).recalled.days).toEqual([])
  })
  it('and nothing of another candidate', () => {
    const other = settled('savePart', { candidateId: paper, part: 'target' }, { document: {}, version: 9 })
    expect(confirmed(stored, other)).toBe(stored)
  })
})

describe('what is kept to be shown with the network off', () => {
  let keeper: Keeper
  const says = (status: number, body: unknown) => async () => new Response(JSON.stringify(body), { status })
  const asking = (user = 'somebody') => askKept({ keeper, user }, 'readCandidate', { candidateId: id })
  beforeEach(() => (keeper = inMemory()))
  afterEach(() => {
    jest.restoreAllMocks()
    heard(true)
  })
  const answers = (work: () => Promise<Response>) => jest.spyOn(globalThis, 'fetch').mockImplementation(work)

  it('is the last answer, for the same user only', async () => {
    answers(says(200, stored))
    expect(await asking()).toEqual({ answer: JSON.parse(JSON.stringify(stored)) as unknown })
    answers(() => Promise.reject(new TypeError('cut')))
    expect(await asking()).toMatchObject({ answer: { id }, keptAt: expect.any(String) as unknown })
    await expect(asking('somebody else')).rejects.toBeInstanceOf(ApiFailure)
  })
  it('is not shown where the server answers with a refusal', async () => {
    answers(says(200, stored))
    await asking()
    answers(says(404, { code: 'not-found', message: 'gone' }))
    await expect(asking()).rejects.toMatchObject({ code: 'not-found' })
  })
  it('has what was answered from memory since, though the deck is kept by itself', async () => {
    answers(says(200, stored))
    await asking()
    const change = { ...nothingRecalled, version: 1, load: { daily: 9, begun: 9, unbegun: 0 } }
    const answer = settled('answerCards', {}, { histories: [], recalled: change }, { answers: [] })
    await keepConfirmed(keeper, 'somebody', answer)
    answers(() => Promise.reject(new TypeError('cut')))
    expect(await asking()).toMatchObject({ answer: { recalled: { version: 1, load: { daily: 9 } } } })
  })
  it('has what was confirmed since it was read', async () => {
    answers(says(200, stored))
    await asking()
    const done = settled(
      'saveSession',
      { sessionId: 's1' },
      session({ id: 's1', status: 'done', version: 4 }),
    )
    await keepConfirmed(keeper, 'somebody', done)
    answers(() => Promise.reject(new TypeError('cut')))
    expect((await asking()).answer.plan?.sessions[0]).toMatchObject({ status: 'done', version: 4 })
  })
  it('is not written over by an answer that was asked for before something was confirmed', async () => {
    answers(says(200, stored))
    await asking()
    answers(async () => {
      await new Promise((resolve) => setTimeout(resolve, 5))
      await keepConfirmed(
        keeper,
        'somebody',
        settled('savePart', { part: 'target' }, { document: {}, version: 7 }),
      )
      return says(200, stored)()
    })
    await asking()
    answers(() => Promise.reject(new TypeError('cut')))
    expect((await asking()).answer.parts.target?.version).toBe(7)
  })
})

describe('problems of a form', () => {
  const problems = [
    { field: 'attempt.date', message: 'that day is not over' },
    { field: 'attempt.counts.groups.streams', message: 'too many' },
    { field: 'version', message: 'odd' },
  ]
  it('stand at their fields, also where the server names them from further out', () => {
    const fields = byField(problems, 'attempt')
    expect(fields.at('date')).toEqual(['that day is not over'])
    expect(fields.at('counts')).toEqual(['too many'])
    expect(fields.at('note')).toEqual([])
    expect(fields.besides('date', 'counts')).toEqual([{ field: 'version', message: 'odd' }])
  })
  it('come of whatever went wrong', () => {
    const failure = { code: 'invalid' as const, message: 'no', issues: [problems[0]!] }
    expect(problemsOf(new ApiFailure('invalid', 'no', failure))).toEqual([problems[0]])
    expect(problemsOf(new ApiFailure('offline', 'away'))).toEqual([{ field: '', message: 'away' }])
    expect(problemsOf(new Error('broken'))).toEqual([{ field: '', message: 'broken' }])
  })
})

it('lanes tell every document from every other', () => {
  const all = [
    lanes.part(id, 'target'),
    lanes.part(id, 'pacing'),
    lanes.session(id, 's'),
    lanes.attempt(id, 's'),
    lanes.exam(id),
  ]
  expect(new Set(all).size).toBe(all.length)
})

describe('problems within a part of a document', () => {
  it('are named from that part on, wherever it was sent', () => {
    const problems = [
      { field: 'attempt.counts.total', message: 'a' },
      { field: 'counts.groups.x', message: 'b' },
      { field: 'countsmore', message: 'c' },
    ]
    expect(within(problems, 'attempt.counts', 'counts')).toEqual([
      { field: 'total', message: 'a' },
      { field: 'groups.x', message: 'b' },
    ])
  })
})
