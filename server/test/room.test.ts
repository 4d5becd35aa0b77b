import { randomUUID } from 'node:crypto'
import type { Candidate, RoomDeed, RoomEvent, RoomRecord } from '@climber/contract'
import { type Database } from '../src/database'
import { type App, appOn, Browser, freshDatabase, roomEvent, roomSetup } from './harness'

let database: Database
let app: App
let browser: Browser
let candidate: Candidate
beforeAll(async () => {
  database = await freshDatabase()
  app = appOn(database)
  browser = new Browser(app)
  await browser.signUp()
  candidate = await browser.importCandidate()
})
afterAll(() => database.sequelize.close())

const at = (id: string, rest = '') => `/api/candidates/${candidate.id}/rooms/${id}${rest}`
const opened = async (): Promise<string> => {
  const id = randomUUID()
  expect((await browser.send('put', at(id), { setup: roomSetup(id) })).status).toBe(200)
  return id
}
const note = (id: string, life: string, events: RoomEvent[], take = false, device = `a tablet (${life})`) =>
  browser.send('post', at(id, '/events'), { life, device: device.slice(0, 60), take, events })
const read = async (id: string) => (await browser.send('get', at(id))).body as RoomRecord
const deeds: RoomDeed[] = [
  { kind: 'enter', device: 'a tablet' },
  { kind: 'begin' },
  { kind: 'go', item: 1 },
  { kind: 'answer', item: 1, answer: 'B' },
]
const eventsOf = (life: string): RoomEvent[] => deeds.map((deed, n) => roomEvent(life, n, deed))

it('keeps each event once, however often and in whatever order it is sent', async () => {
  const id = await opened()
  const life = randomUUID()
  const events = eventsOf(life)
  await note(id, life, events.slice(2))
  const answers = await Promise.all([
    note(id, life, events),
    note(id, life, events),
    note(id, life, events.slice(0, 3)),
  ])
  expect(answers.map(({ status }) => status)).toEqual([200, 200, 200])
  expect((await read(id)).events).toEqual(events)
})

it('opens a room once, as it was first set up', async () => {
  const id = await opened()
  const again = await browser.send('put', at(id), { setup: roomSetup(id, { medium: 'paper' }) })
  expect(again.status).toBe(200)
  expect((await read(id)).setup).toEqual(roomSetup(id))
})

it('says who carries it on; another page takes it over, and what the first still sends is kept', async () => {
  const id = await opened()
  const [first, second] = [randomUUID(), randomUUID()]
  expect((await note(id, first, eventsOf(first).slice(0, 2))).body.holder).toBe(first)
  expect((await note(id, second, eventsOf(second).slice(0, 1))).body.holder).toBe(first)
  expect((await note(id, second, eventsOf(second).slice(1, 2), true)).body.holder).toBe(second)
  expect((await note(id, first, eventsOf(first).slice(2))).body.holder).toBe(second)
  expect((await read(id)).events).toHaveLength(6)
})

it('goes on, on the same device, on the page that was opened last', async () => {
  const id = await opened()
  const [first, second] = [randomUUID(), randomUUID()]
  await note(id, first, eventsOf(first), false, 'a phone')
  expect((await note(id, second, eventsOf(second).slice(0, 1), false, 'a phone')).body.holder).toBe(second)
  const heard = await browser.send('get', at(id, '/heard'))
  expect(heard.body).toMatchObject({ holder: second, device: 'a phone', stands: 'open', events: 5 })
})

it('lists what goes on or waits to be marked, and not what was thrown away', async () => {
  const [going, over, dropped] = [await opened(), await opened(), await opened()]
  const life = randomUUID()
  await note(over, life, [roomEvent(life, 0, { kind: 'finish' })])
  await note(dropped, life, [roomEvent(life, 0, { kind: 'drop' })])
  // What arrives late of a test that was thrown away does not bring it back.
  await note(dropped, life, [roomEvent(life, 1, { kind: 'finish' })])
  const rooms = (await browser.send('get', `/api/candidates/${candidate.id}/rooms`)).body as RoomRecord[]
  const found = new Map(rooms.map(({ setup, stands }) => [setup.id, stands]))
  expect([found.get(going), found.get(over), found.get(dropped)]).toEqual(['open', 'over', undefined])
  // Taken back, it stands as it would have; thrown away once more, it is gone again.
  const other = randomUUID()
  const kept = await note(dropped, other, [roomEvent(other, 0, { kind: 'keep' })])
  expect(kept.body.stands).toBe('over')
  expect((await note(dropped, other, [roomEvent(other, 1, { kind: 'drop' })])).body.stands).toBe('dropped')
})

it('refuses what is no event, and events of a room that nobody opened', async () => {
  const id = await opened()
  const life = randomUUID()
  const bad = { ...roomEvent(life, 0, { kind: 'begin' }), at: -5 }
  const refused = await note(id, life, [bad])
  expect(refused.status).toBe(422)
  expect(refused.body.issues[0].field).toBe('events.0.at')
  const twice = await note(id, life, [
    roomEvent(life, 3, { kind: 'stage' }),
    roomEvent(life, 3, { kind: 'close' }),
  ])
  expect(twice.body.issues[0]).toEqual({ field: 'events.1.n', message: 'event 3 stands here twice' })
  const another = await note(id, life, [roomEvent(randomUUID(), 0, { kind: 'begin' })])
  expect(another.body.issues[0].field).toBe('events.0.life')
  expect((await note(randomUUID(), life, eventsOf(life))).status).toBe(404)
  expect((await read(id)).events).toEqual([])
})

it('goes with its candidate', async () => {
  const own = await browser.importCandidate()
  const id = randomUUID()
  await browser.send('put', `/api/candidates/${own.id}/rooms/${id}`, { setup: roomSetup(id) })
  await browser.send('delete', `/api/candidates/${own.id}`)
  expect(await database.models.rooms.count({ where: { candidateId: own.id } })).toBe(0)
})
