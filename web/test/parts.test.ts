import { jest } from '@jest/globals'
import { readFileSync } from 'node:fs'
import path from 'node:path'
import { type Candidate, ClimberFile, diagnosticId, partNames } from '@climber/contract'
import type { Keeper } from '../src/outbox/keeper'
import type { Outbox } from '../src/outbox/outbox'

// The worker is wrapped when a module that speaks to it is first asked; none of these is.
Object.assign(globalThis, { Worker: class {} })
const { OpenParts } = await import('../src/stores/parts')
const { OpenBaseline } = await import('../src/stores/baseline')
const { loggedOf } = await import('../src/stores/opened')
const { call } = await import('../src/api')
const { inMemory } = await import('../src/outbox/keeper')
const { EditHistory } = await import('../src/stores/history')
const { makeBox } = await import('./box')

const { exam } = ClimberFile.parse(
  JSON.parse(readFileSync(path.join(process.cwd(), 'demo/tidal-pilotage.exam.climber.json'), 'utf8')),
)
const id = '5f0c9a00-0000-4000-8000-000000000009'
const early = '5f0c9a00-0000-4000-8000-000000000011'
const candidate = (more: Partial<Candidate> = {}) =>
  ({ id, exam, parts: {}, attempts: [], plan: null, ...more }) as unknown as Candidate
const today = () => '2030-01-15'
let keeper: Keeper
let outbox: Outbox
/** As after a reload: another outbox on the same disk. */
async function reopened(): Promise<Outbox> {
  outbox?.close()
  outbox = await makeBox({
    keeper,
    send: ({ route, params, body }) => call(route, params as never, body as never),
  })
  return outbox
}
let sent: { address: string; method: string; body: Record<string, unknown> }[]
let refuse: object | undefined

beforeEach(async () => {
  keeper = inMemory()
  sent = []
  refuse = undefined
  jest.useFakeTimers()
  await reopened()
  jest.spyOn(globalThis, 'fetch').mockImplementation((address, init) => {
    const body = JSON.parse(String(init?.body)) as Record<string, unknown>
    sent.push({ address: String(address), method: String(init?.method), body })
    const version = Number(body['version'] ?? 0) + 1
    const answer =
      refuse ??
      (body['attempt']
        ? { attempt: { ...(body['attempt'] as object), version }, sessions: [] }
        : { document: body['document'], version, changedBy: null, changedAt: null, sessions: [] })
    return Promise.resolve(new Response(JSON.stringify(answer), { status: refuse ? 422 : 200 }))
  })
})
afterEach(() => {
  jest.useRealTimers()
  jest.restoreAllMocks()
})
const settle = (ms = 600) => jest.advanceTimersByTimeAsync(ms)

describe('the parts of an open record', () => {
  it('begin as they are stored, the others with their defaults', () => {
    const open = new OpenParts(
      candidate({ parts: { target: { document: { scaled: 310 }, version: 4 } } } as never),
      today,
      outbox,
    )
    expect(open.saves.target.state).toMatchObject({ version: 4, document: { scaled: 310 }, status: 'saved' })
    expect(open.saves.availability.state.version).toBe(0)
    expect(Object.keys(open.documents())).toEqual([...partNames])
  })

  it('are saved one by one, on the version that they rest on', async () => {
    const open = new OpenParts(candidate(), today, outbox)
    open.saves.target.edit((target) => (target.scaled = 305))
    await settle()
    open.saves.target.edit((target) => (target.scaled = 306))
    await settle()
    expect(sent.map(({ address }) => address)).toEqual(Array(2).fill(`/api/candidates/${id}/parts/target`))
    expect(sent.map(({ body }) => body['version'])).toEqual([0, 1])
    expect(open.saves.target.state.status).toBe('saved')
  })

  it('hand the core the same objects for those that did not change', () => {
    const open = new OpenParts(candidate(), today, outbox)
    const before = open.documents()
    open.saves.target.edit((target) => (target.scaled = 305))
    const after = open.documents()
    for (const part of partNames) expect(after[part] === before[part]).toBe(part !== 'target')
    expect(after.target.scaled).toBe(305)
  })

  it('hand the core the last valid document while a field is being mended, and send nothing', async () => {
    const open = new OpenParts(candidate(), today, outbox)
    open.saves.target.edit((target) => (target.scaled = 305))
    await settle()
    // The workspace looks after each change.
    expect(open.documents().target.scaled).toBe(305)
    open.saves.target.edit((target) => (target.sitting = 'no such sitting'))
    await settle()
    expect(open.saves.target.state.status).toBe('refused')
    expect(open.saves.target.state.problems[0]?.field).toBe('sitting')
    expect(open.documents().target).toMatchObject({ scaled: 305 })
    expect(open.documents().target.sitting).toBeUndefined()
    expect(sent).toHaveLength(1)
    expect(await keeper.all()).toHaveLength(1)
  })

  it('come back as they were typed after the tab was closed, and are sent then', async () => {
    const first = new OpenParts(candidate(), today, outbox)
    first.saves.candidate.edit((profile) => (profile.note = 'starts in spring'))
    await settle(0)
    first.saves.candidate.stop()
    await reopened()
    const second = new OpenParts(candidate(), today, outbox)
    expect(second.saves.candidate.state.document.note).toBe('starts in spring')
    await settle()
    expect(sent).toHaveLength(1)
    expect(await keeper.all()).toHaveLength(0)
  })

  it('say what the server refused, and keep it', async () => {
    refuse = { code: 'invalid', message: 'no', issues: [{ field: 'note', message: 'shorter' }] }
    const open = new OpenParts(candidate(), today, outbox)
    open.saves.candidate.edit((profile) => (profile.note = 'long'))
    await settle()
    expect(open.saves.candidate.state).toMatchObject({
      status: 'refused',
      problems: [{ field: 'note', message: 'shorter' }],
      document: { note: 'long' },
    })
    expect(await keeper.all()).toHaveLength(1)
  })
})

describe('the tests that a baseline rests on', () => {
  const counts = {
    groups: { 'streams-items': { right: 20, wrong: 12, blank: 8, notReached: 2 } },
    topics: {},
  }
  const stored = { id: early, kind: 'earlier', date: '2029-11-01', seen: false, counts, version: 3 }
  const practice = { ...stored, id: '5f0c9a00-0000-4000-8000-000000000012', kind: 'practice' }

  it('are the diagnostic, there though nothing was written, and those sat before', () => {
    const open = new OpenBaseline(candidate({ attempts: [stored, practice] as never }), today, outbox)
    expect([...open.saves.keys()].sort()).toEqual([diagnosticId, early].sort())
    expect(open.earlier().map((one) => one.id)).toEqual([early])
    expect(open.attempts().map((one) => one.id)).toEqual([early])
    expect(loggedOf([stored, practice] as never).map((one) => one.id)).toEqual([practice.id])
  })

  it('count for the core once something is written down of them', async () => {
    const open = new OpenBaseline(candidate(), today, outbox)
    expect(open.attempts()).toEqual([])
    open.diagnostic().edit((attempt) => {
      attempt.date = '2030-01-10'
      attempt.counts = counts
    })
    expect(open.attempts()).toMatchObject([{ id: diagnosticId, date: '2030-01-10' }])
    await settle()
    expect(sent).toMatchObject([
      { method: 'PUT', address: `/api/candidates/${id}/attempts/${diagnosticId}`, body: { version: 0 } },
    ])
    expect(open.diagnostic().state).toMatchObject({ version: 1, status: 'saved' })
  })

  it('with more answers than items are refused at their group, and the core keeps the last that fits', async () => {
    const open = new OpenBaseline(candidate({ attempts: [stored] as never }), today, outbox)
    open.saves.get(early)!.edit((attempt) => (attempt.counts.groups['streams-items']!.right = 400))
    await settle()
    expect(sent).toEqual([])
    expect(open.saves.get(early)!.state.problems[0]!.field).toContain('counts.groups.streams-items')
    expect(open.attempts()[0]!.counts.groups['streams-items']!.right).toBe(20)
  })

  it('begun and not stored are there again after the tab was closed', async () => {
    const first = new OpenBaseline(candidate(), today, outbox)
    const begun = first.addEarlier('2029-10-01', 'Spring paper')
    await settle(0)
    for (const [, save] of first.all()) save.stop()
    await reopened()
    const second = new OpenBaseline(candidate(), today, outbox)
    expect(second.earlier()).toMatchObject([{ id: begun, date: '2029-10-01', title: 'Spring paper' }])
    await settle()
    expect(sent).toHaveLength(1)
  })

  it('come back when their removal is undone, and go again when it is done again; one that was added goes', async () => {
    const history = new EditHistory()
    const open = new OpenBaseline(candidate({ attempts: [stored] as never }), today, outbox, history)
    const titles = () => open.earlier().map(({ title }) => title)
    const before = titles()
    await open.remove(early)
    expect(titles()).toEqual([])
    history.undo()
    expect(titles()).toEqual(before)
    history.redo()
    await settle()
    expect(titles()).toEqual([])
    open.addEarlier('2029-10-01', 'Spring paper')
    history.undo()
    await settle()
    expect([titles(), history.next.value]).toEqual([[], 'A test from before'])
  })

  it('are gone once removed, here and on the server', async () => {
    const open = new OpenBaseline(candidate({ attempts: [stored] as never }), today, outbox)
    await open.remove(early)
    expect(open.attempts()).toEqual([])
    await settle()
    expect(sent).toMatchObject([{ method: 'DELETE', address: `/api/candidates/${id}/attempts/${early}` }])
    await open.remove(early)
    expect(sent).toHaveLength(1)
  })
})
