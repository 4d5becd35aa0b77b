import 'fake-indexeddb/auto'
import { ref } from 'vue'
import type { RoomEvent, RoomSetup } from '@climber/contract'
import { randomFrom } from '@climber/core'
import { ApiFailure } from '../src/api'
import { type Entry, lanes } from '../src/outbox/entry'
import { openKeeper } from '../src/outbox/keeper'
import { openPresses, pressesInMemory } from '../src/outbox/presses'
import { makeBox } from './box'

const candidateId = '5f0c9a00-0000-4000-8000-000000000001'
const roomId = '5f0c9a00-0000-4000-8000-000000000002'
const lives = ['5f0c9a00-0000-4000-8000-00000000000a', '5f0c9a00-0000-4000-8000-00000000000b'] as const
const lane = lanes.room(candidateId, roomId)
const setup: RoomSetup = {
  id: roomId,
  date: '2030-01-15',
  start: '10:00',
  whole: false,
  medium: 'paper',
  pressing: 'items',
  strict: true,
  parts: [{ id: 'streams', seconds: 3600, timed: true, breakSeconds: 0 }],
  sound: false,
  seen: false,
}
const event = (n: number, life: string = lives[0]): RoomEvent => ({
  kind: 'go',
  item: n + 1,
  n,
  life,
  at: n * 1000,
  wall: 1_900_000_000_000 + n * 1000,
})
const opening = {
  route: 'openRoom' as const,
  params: { candidateId, roomId },
  body: { setup },
  lane,
  about: 'A test',
}
const noting = (events: RoomEvent[], life: string = lives[0], take = false) => ({
  route: 'noteRoom' as const,
  params: { candidateId, roomId },
  body: { life, device: 'a tablet', take, events },
  lane,
  about: 'A test',
})
const heard = { holder: lives[0], device: 'a tablet', heardAgo: 0, stands: 'open', server: 1 }
const eventsOf = (entries: readonly Entry[]) =>
  entries.flatMap((entry) => (entry.route === 'noteRoom' ? entry.body.events : []))
const disk = () => openKeeper(`room ${Math.random()}`)
const until = async (what: () => boolean): Promise<void> => {
  for (let tries = 0; tries < 2000 && !what(); tries++) await new Promise((resolve) => setTimeout(resolve, 2))
  expect(what()).toBe(true)
}

describe('what is pressed in a room', () => {
  it('joins what waits of its page, behind the opening; another page stands by itself', async () => {
    const outbox = await makeBox({
      keeper: await disk(),
      send: () => Promise.reject(new ApiFailure('offline', 'away')),
      offline: ref(true),
    })
    await outbox.put(opening)
    await outbox.put(noting([event(0)], lives[0], true))
    await outbox.put(noting([event(1), event(2)]))
    await outbox.put(noting([event(0, lives[1])], lives[1]))
    expect(outbox.of(lane).map(({ route }) => route)).toEqual(['openRoom', 'noteRoom', 'noteRoom'])
    expect(outbox.of(lane).map((entry) => eventsOf([entry]).length)).toEqual([0, 3, 1])
    expect(outbox.of(lane)[1]!.body).toMatchObject({ take: true })
    outbox.close()
  })
  it('is refused without any of it being left out, and tried again with the next press', async () => {
    let refuses = true
    const got: number[] = []
    const outbox = await makeBox({
      keeper: await disk(),
      send: (entry) => {
        if (refuses && entry.route === 'noteRoom')
          return Promise.reject(new ApiFailure('forbidden', 'not yours'))
        got.push(...eventsOf([entry]).map(({ n }) => n))
        return Promise.resolve(heard)
      },
    })
    await outbox.put(opening)
    await outbox.put(noting([event(0), event(1)]))
    await until(() => outbox.of(lane).some(({ failure }) => failure))
    await outbox.put(noting([event(2)]))
    await until(() => outbox.of(lane).some(({ failure }) => failure))
    expect(eventsOf(outbox.of(lane)).map(({ n }) => n)).toEqual([0, 1, 2])
    refuses = false
    await outbox.insist(lane, 0)
    await until(() => outbox.of(lane).length === 0)
    expect(got).toEqual([0, 1, 2])
    outbox.close()
  })
  it('goes at once where the clock of the device was ahead when it was put', async () => {
    const sent: Entry[] = []
    const offline = ref(true)
    const outbox = await makeBox({
      keeper: await disk(),
      offline,
      send: (entry) => {
        sent.push(entry)
        return Promise.resolve(heard)
      },
    })
    const real = Date.now
    Date.now = () => real() + 3_600_000
    await outbox.put(noting([event(0)]))
    Date.now = real
    offline.value = false
    await until(() => sent.length === 1)
    outbox.close()
  })
  it('arrives whole, once and in order, however often the server is away', async () => {
    const random = randomFrom(20_301)
    for (let round = 0; round < 8; round++) {
      const there = new Map<string, RoomEvent>()
      const offline = ref(false)
      const outbox = await makeBox({
        keeper: await disk(),
        offline,
        send: (entry) => {
          const dice = random()
          if (dice < 0.25) return Promise.reject(new ApiFailure('offline', 'away'))
          for (const one of eventsOf([entry])) there.set(`${one.life} ${one.n}`, one)
          // The answer may be lost though it was done.
          return dice < 0.4 ? Promise.reject(new ApiFailure('offline', 'away')) : Promise.resolve(heard)
        },
      })
      await outbox.put(opening)
      for (let n = 0; n < 40; n++) {
        await outbox.put(noting([event(n, lives[n < 20 ? 0 : 1])], lives[n < 20 ? 0 : 1]))
        if (offline.value && random() < 0.3) offline.value = false
      }
      for (let tries = 0; tries < 3000 && outbox.of(lane).length; tries++) {
        offline.value = false
        await new Promise((resolve) => setTimeout(resolve, 1))
      }
      expect(outbox.of(lane)).toEqual([])
      expect([...there.values()].map(({ n }) => n)).toEqual(Array.from({ length: 40 }, (_, n) => n))
      outbox.close()
    }
  })
})

describe.each([
  ['on the disk', () => openPresses(`presses ${Math.random()}`)],
  ['in memory', async () => pressesInMemory()],
])('what a device keeps of a room %s', (_where, open) => {
  it('is each event once, and goes with the room', async () => {
    const kept = await open()
    const room = { user: 'somebody', candidateId, setup, stands: 'open' as const, at: Date.now() }
    await kept.keep(room)
    await kept.note(roomId, [event(0), event(1)])
    await kept.note(roomId, [event(1), event(2)])
    await kept.note(candidateId, [event(7)])
    expect((await kept.events(roomId)).map(({ n }) => n)).toEqual([0, 1, 2])
    expect(await kept.room(roomId)).toEqual(room)
    expect(await kept.rooms()).toEqual([room])
    await kept.forget(roomId)
    expect([await kept.room(roomId), await kept.events(roomId)]).toEqual([undefined, []])
    expect(await kept.events(candidateId)).toHaveLength(1)
  })
  it('has one name for the device', async () => {
    const kept = await open()
    expect(await kept.device('a computer (1)')).toBe('a computer (1)')
    expect(await kept.device('a computer (2)')).toBe('a computer (1)')
  })
})
