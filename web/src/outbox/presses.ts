import { type DBSchema, type IDBPDatabase, openDB } from 'idb'
import type { RoomEvent, RoomSetup } from '@climber/contract'
import { inTime } from './keeper'

/** A test room as this device knows it. */
export interface KeptRoom {
  user: string
  candidateId: string
  setup: RoomSetup
  stands: 'open' | 'over' | 'dropped'
  /** Milliseconds since 1970, by this device. */
  at: number
}

/** Everything that was pressed on this device, and what was heard of other devices: a test goes on from it without any network. */
export interface Presses {
  keep(room: KeptRoom): Promise<void>
  room(id: string): Promise<KeptRoom | undefined>
  rooms(): Promise<KeptRoom[]>
  /** Resolves when the events are on the disk. */
  note(id: string, events: readonly RoomEvent[]): Promise<void>
  events(id: string): Promise<RoomEvent[]>
  forget(id: string): Promise<void>
  /** What this device is called, from the first time on. */
  device(fresh: string): Promise<string>
}

interface Shape extends DBSchema {
  rooms: { key: string; value: KeptRoom }
  events: { key: [room: string, life: string, n: number]; value: RoomEvent }
  device: { key: 'name'; value: string }
}

/** Days for which the presses of a test stay on the device. */
const keptDays = 60

const allOf = (id: string) => IDBKeyRange.bound([id], [id, []])

function inDatabase(database: IDBPDatabase<Shape>): Presses {
  return {
    async keep(room) {
      await database.put('rooms', room, room.setup.id)
    },
    room: (id) => database.get('rooms', id),
    rooms: () => database.getAll('rooms'),
    async note(id, events) {
      const transaction = database.transaction('events', 'readwrite')
      for (const event of events) void transaction.store.put(event, [id, event.life, event.n])
      transaction.commit()
      await transaction.done
    },
    events: (id) => database.getAll('events', allOf(id)),
    async forget(id) {
      await database.delete('events', allOf(id))
      await database.delete('rooms', id)
    },
    async device(fresh) {
      const transaction = database.transaction('device', 'readwrite')
      const known = await transaction.store.get('name')
      if (!known) void transaction.store.put(fresh, 'name')
      transaction.commit()
      await transaction.done
      return known ?? fresh
    },
  }
}

/** For browsers that keep nothing: as long as the tab lives. */
export function pressesInMemory(): Presses {
  const rooms = new Map<string, KeptRoom>()
  const events = new Map<string, Map<string, RoomEvent>>()
  let name: string | undefined
  return {
    keep: async (room) => void rooms.set(room.setup.id, room),
    room: async (id) => rooms.get(id),
    rooms: async () => [...rooms.values()],
    async note(id, fresh) {
      const own = events.get(id) ?? new Map<string, RoomEvent>()
      for (const event of fresh) own.set(`${event.life} ${event.n}`, event)
      events.set(id, own)
    },
    events: async (id) => [...(events.get(id)?.values() ?? [])],
    async forget(id) {
      rooms.delete(id)
      events.delete(id)
    },
    device: async (fresh) => (name ??= fresh),
  }
}

/** The browser's own database, without what is long over; in memory where it has none or refuses. */
export async function openPresses(name = 'climber-rooms'): Promise<Presses> {
  try {
    const opening = openDB<Shape>(name, 1, {
      upgrade(fresh) {
        fresh.createObjectStore('rooms')
        fresh.createObjectStore('events')
        fresh.createObjectStore('device')
      },
    })
    const presses = inDatabase(await inTime(opening))
    const old = Date.now() - keptDays * 86_400_000
    for (const { setup, at } of await presses.rooms()) if (at < old) await presses.forget(setup.id)
    return presses
  } catch {
    return pressesInMemory()
  }
}

let opened: Promise<Presses> | undefined
/** What this browser keeps of test rooms. */
export const presses = (): Promise<Presses> => (opened ??= openPresses())
