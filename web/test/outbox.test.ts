import 'fake-indexeddb/auto'
import { jest } from '@jest/globals'
import { ref } from 'vue'
import { randomFrom } from '@climber/core'
import { ApiFailure } from '../src/api'
import { type Entry, lanes } from '../src/outbox/entry'
import { inMemory, type Keeper, openKeeper } from '../src/outbox/keeper'
import { makeBox } from './box'
import { candidateId, freshDisk, inStorage, pass, Tab, World } from './faults'

jest.setTimeout(300_000)
const attemptId = '5f0c9a00-0000-4000-8000-000000000021'
const lane = lanes.session(candidateId, 's1')
const report = (status: 'running' | 'done' | 'planned', version = 3) => ({
  route: 'saveSession' as const,
  params: { candidateId, sessionId: 's1' },
  body: { version, status },
  lane,
  about: 'Tides',
})

describe.each<[string, () => Promise<Keeper>]>([
  ['on the disk', () => openKeeper(`kept ${Math.random()}`)],
  ['in memory', () => Promise.resolve(inMemory())],
])('a queue %s', (_where, keeper) => {
  const box = async (send: (entry: Entry) => Promise<unknown>) => makeBox({ keeper: await keeper(), send })
  const answer = (entry: Entry) =>
    Promise.resolve({ ...entry.body, version: 'version' in entry.body ? entry.body.version + 1 : 0 })

  it('sends in order, each on the version that the one before made, under an id of its own', async () => {
    const sent: Entry[] = []
    const outbox = await box((entry) => {
      sent.push(entry)
      return pass(20).then(() => answer(entry))
    })
    const first = await outbox.put(report('running'))
    while (!sent.length) await pass(1)
    const second = await outbox.put(report('done'))
    expect(await outbox.outcome(first)).toMatchObject({ answer: { version: 4 } })
    expect(await outbox.outcome(second)).toMatchObject({ answer: { version: 5 } })
    expect(sent.map(({ body }) => body)).toMatchObject([
      { status: 'running', version: 3 },
      { status: 'done', version: 4 },
    ])
    expect(new Set(sent.map(({ request }) => request)).size).toBe(2)
    expect(outbox.entries.value).toEqual([])
    outbox.close()
  })
  it('says that it waits where nobody answers, and shows what waits', async () => {
    const offline = ref(false)
    const outbox = await makeBox({
      keeper: await keeper(),
      offline,
      send: () => Promise.reject(new ApiFailure('offline', 'away')),
    })
    const entry = await outbox.put(report('running'))
    expect(await outbox.outcome(entry)).toBe('waiting')
    expect(outbox.of(lane)).toMatchObject([{ about: 'Tides', tries: 1 }])
    outbox.close()
  })
  it('takes what is only held over what is only held, and over nothing that waits', async () => {
    const outbox = await box(() => pass(1e6))
    await outbox.put({ ...report('running'), pause: 50_000 })
    await outbox.put({ ...report('planned'), held: true })
    await outbox.put({ ...report('done'), held: true })
    expect(outbox.of(lane).map(({ body, held }) => [(body as { status: string }).status, held])).toEqual([
      ['running', false],
      ['done', true],
    ])
    await outbox.forgetHeld(lane)
    expect(outbox.of(lane)).toHaveLength(1)
    outbox.close()
  })
  it('keeps what is refused until a person insists or drops it', async () => {
    let current: number | undefined = 7
    const sent: number[] = []
    const outbox = await box((entry) => {
      const { version } = entry.body as { version: number }
      sent.push(version)
      if (version === current) return answer(entry)
      const failure = { code: 'conflict' as const, message: 'changed', current: { version: current } }
      return Promise.reject(new ApiFailure('conflict', 'changed', failure))
    })
    const entry = await outbox.put(report('done'))
    expect(await outbox.outcome(entry)).toMatchObject({ failure: { code: 'conflict' } })
    await pass(5)
    expect(sent).toEqual([3])
    await outbox.insist(lane, 7)
    expect(await outbox.outcome(outbox.last(lane)!)).toMatchObject({ answer: { version: 8 } })
    current = undefined
    await outbox.put(report('planned'))
    await pass(5)
    await outbox.drop(lane)
    expect(outbox.entries.value).toEqual([])
    outbox.close()
  })
  it('of a refused one with another behind it sends the other, which says the same anew', async () => {
    const sent: string[] = []
    const outbox = await box((entry) => {
      const { status } = entry.body as { status: string }
      sent.push(status)
      const failure = { code: 'invalid' as const, message: 'no' }
      return pass(20).then(() =>
        status === 'running' ? Promise.reject(new ApiFailure('invalid', 'no', failure)) : answer(entry),
      )
    })
    await outbox.put(report('running'))
    while (!sent.length) await pass(1)
    const second = await outbox.put(report('done'))
    expect(await outbox.outcome(second)).toHaveProperty('answer')
    expect(sent).toEqual(['running', 'done'])
    outbox.close()
  })
  it('shows and sends only what is of whoever is signed in', async () => {
    const sent: Entry[] = []
    const outbox = await box((entry) => {
      sent.push(entry)
      return answer(entry)
    })
    await outbox.put({ ...report('done'), pause: 20 })
    await outbox.belongsTo('somebody else')
    expect(outbox.entries.value).toEqual([])
    await pass(40)
    expect(sent).toEqual([])
    await outbox.belongsTo('somebody')
    expect(outbox.entries.value).toHaveLength(1)
    await pass(40)
    expect(sent).toHaveLength(1)
    outbox.close()
  })
  it('lets reports of a session go on from what a test that was sat did to it', async () => {
    const sent: Entry[] = []
    const outbox = await box((entry) => {
      sent.push(entry)
      return entry.route === 'saveAttempt'
        ? Promise.resolve({ attempt: { version: 1 }, sessions: [{ id: 's1', version: 9 }] })
        : answer(entry)
    })
    const attempt = { id: attemptId, kind: 'practice' as const, counts: { groups: {}, topics: {} } }
    await outbox.put({
      route: 'saveAttempt',
      params: { candidateId, attemptId },
      body: { version: 0, attempt },
      lane: lanes.attempt(candidateId, attemptId),
      about: 'A test',
      pause: 5,
    })
    const entry = await outbox.put({ ...report('done'), pause: 10 })
    expect(await outbox.outcome(entry)).toMatchObject({ answer: { version: 10 } })
    outbox.close()
  })
})

describe('what a tab that was closed had on its way to the disk', () => {
  const answer = (entry: Entry) =>
    Promise.resolve({ ...entry.body, version: 'version' in entry.body ? entry.body.version + 1 : 0 })
  /** A disk that takes nothing more of a tab once it is closed. */
  const closing = (disk: Keeper) => {
    const tab = { closed: false }
    const change: Keeper['change'] = async (...asked) =>
      tab.closed ? new Promise<never>(() => undefined) : disk.change(...asked)
    return { tab, keeper: { ...disk, change } }
  }

  it('goes on from what it saw waiting, which was confirmed before anybody looked', async () => {
    const [disk, journal] = [inMemory(), inStorage()]
    const { tab, keeper } = closing(disk)
    const first = await makeBox({ keeper, journal, send: () => new Promise(() => undefined) })
    await first.put({ ...report('running'), pause: 50_000 })
    tab.closed = true
    void first.put(report('done'))
    first.close()
    // The first is sent and confirmed by a tab that has not looked at the journal yet.
    const sent: number[] = []
    const send = (entry: Entry) => {
      sent.push((entry.body as { version: number }).version)
      return answer(entry)
    }
    const second = await makeBox({ keeper: disk, send })
    await disk.change(lane, (before) => before.map((entry) => ({ ...entry, ready: 0 })))
    await second.look()
    while (sent.length < 1 || (await disk.all()).length) await pass(1)
    const third = await makeBox({ keeper: disk, journal, send })
    while (sent.length < 2 || (await disk.all()).length) await pass(1)
    expect(sent).toEqual([3, 4])
    expect(journal.left()).toEqual([])
    second.close()
    third.close()
  })
  it('was confirmed, and nobody was told: what is typed in another tab goes on from it', async () => {
    const disk = inMemory()
    const sent: number[] = []
    const send = (entry: Entry) => {
      sent.push((entry.body as { version: number }).version)
      return answer(entry)
    }
    // Without a channel neither tells the other anything.
    const other = await makeBox({ keeper: disk, send: () => new Promise(() => undefined) })
    const closed = await makeBox({ keeper: disk, send })
    await closed.put({ ...report('running'), pause: 20 })
    await other.look()
    expect(other.of(lane)).toHaveLength(1)
    while ((await disk.all()).length) await pass(1)
    closed.close()
    await other.look()
    expect(other.of(lane)).toEqual([])
    await other.put({ ...report('done'), pause: 50_000 })
    expect((await disk.all()).map(({ body }) => (body as { version: number }).version)).toEqual([4])
    other.close()
  })
  it('was confirmed and told: what is typed next stands on what it says itself', async () => {
    const sent: number[] = []
    const outbox = await makeBox({
      send: (entry) => {
        sent.push((entry.body as { version: number }).version)
        return answer(entry)
      },
    })
    await outbox.outcome(await outbox.put(report('done')))
    // The session went with a plan and came back with another.
    await outbox.outcome(await outbox.put(report('done', 1)))
    expect(sent).toEqual([3, 1])
    outbox.close()
  })
  it('is not put over what was typed since, by a tab that read the journal before', async () => {
    const [disk, journal] = [inMemory(), inStorage()]
    const away = () => new Promise<never>(() => undefined)
    const typing = await makeBox({ keeper: disk, journal, send: away })
    const first = typing.put({ ...report('running'), pause: 50_000 })
    const left = journal.left()
    expect(left).toHaveLength(1)
    await first
    await typing.put({ ...report('done'), pause: 50_000 })
    const other = await makeBox({ keeper: disk, journal: { ...journal, left: () => left }, send: away })
    expect((await disk.all()).map(({ body }) => (body as { status: string }).status)).toEqual(['done'])
    typing.close()
    other.close()
  })
})

/** Actions of one try, and faults before, between and in the middle of them. */
async function tryOut(seed: number): Promise<void> {
  freshDisk()
  const random = randomFrom(seed)
  const world = new World(random, `try ${seed}`)
  const tabs = [await Tab.open(world)]
  const chosen = <T>(list: T[]): T => list[Math.floor(random() * list.length)] as T
  /** What was typed. */
  const words = new Map<string, string[]>()
  const sat: string[] = []
  const reported: string[] = []
  for (let step = 0; step < 14; step++) {
    const what = random()
    if (!tabs.length || (what < 0.08 && tabs.length < 3)) tabs.push(await Tab.open(world))
    else if (what < 0.18) tabs.splice(tabs.indexOf(chosen(tabs)), 1).forEach((tab) => tab.kill())
    else if (what < 0.3) world.network = !world.network
    else if (what < 0.38) world.serverUp = !world.serverUp
    else {
      const tab = chosen(tabs)
      // A person is at one tab at a time.
      await tab.front()
      if (what < 0.65) {
        const [lane, save] = chosen([...tab.open])
        const word = `${seed}.${step}`
        save.edit((document) => document.words.push(word))
        // Noted at once, also where the tab is closed in the same moment.
        words.set(lane, [...(words.get(lane) ?? []), word])
        if (random() < 0.2) tabs.splice(tabs.indexOf(tab), 1).forEach((one) => one.kill())
        await pass(6)
      } else if (what < 0.85) {
        const id = `5f0c9a00-0000-4000-8000-${String(seed * 100 + step).padStart(12, '0')}`
        const attempt = { id, kind: 'drill' as const, counts: { groups: {}, topics: {} } }
        await tab.outbox.put({
          route: 'saveAttempt',
          params: { candidateId, attemptId: id },
          body: { version: 0, attempt },
          lane: lanes.attempt(candidateId, id),
          about: 'A set',
        })
        sat.push(id)
      } else {
        const status = chosen(['running', 'done', 'skipped', 'planned'] as const)
        const version = world.server.documents.get(lane)?.version ?? 0
        await tab.outbox.put({ ...report('done', version), body: { version, status } })
        reported.push(status)
      }
    }
    await pass(random() * 6)
  }
  world.network = world.serverUp = true
  if (!tabs.length) tabs.push(await Tab.open(world))
  const left = tabs[0] as Tab
  for (let waited = 0; waited < 400 && (await left.outbox.keeper.all()).length; waited++) await pass(10)
  const rest = await left.outbox.keeper.all()
  const told = `seed ${seed}: ${JSON.stringify(rest.map(({ lane: of, failure, tries }) => ({ of, failure, tries })))}`
  expect([told, rest.length]).toEqual([told, 0])
  for (const [of, wanted] of words) {
    const stored = world.server.documents.get(of)?.document.words ?? []
    const about = `seed ${seed} ${of}`
    expect([about, wanted.filter((word) => stored.filter((one) => one === word).length !== 1)]).toEqual([
      about,
      [],
    ])
  }
  expect(sat.map((id) => world.server.attempts.get(id))).toEqual(sat.map(() => 1))
  if (reported.length) expect(world.server.documents.get(lane)?.document.words).toEqual(reported.slice(-1))
  expect([...world.server.changes.values()].every((times) => times === 1)).toBe(true)
  for (const tab of tabs) tab.kill()
}

describe('with the network cut, tabs closed and the server killed in any order', () => {
  it('nothing that was confirmed or shown as waiting is lost or doubled', async () => {
    const first = Number(process.env['CLIMBER_SEED'] ?? 1)
    const tries = Number(process.env['CLIMBER_TRIES'] ?? 100)
    for (let seed = first; seed < first + tries; seed++) await tryOut(seed)
  })
})
