import { type DBSchema, type IDBPDatabase, openDB } from 'idb'
import type { Entry } from './entry'

/** What is put into a lane that has no place in the queue yet. */
export type Fresh = Omit<Entry, 'order'> & { order?: number }

/** An answer of the server, kept to be shown with the network off. */
export interface KeptAnswer {
  user: string
  at: string
  answer: unknown
}

/** What the last confirmed request of a lane was, and the version that it left. */
export interface Left {
  request: string
  version: number
}

/** Where the browser keeps what waits, and what it shows meanwhile. */
export interface Keeper {
  /** Whether it outlives the tab. */
  readonly durable: boolean
  all(): Promise<Entry[]>
  lane(lane: string): Promise<Entry[]>
  /**
   * Puts in place of a lane's entries what `work` makes of them and of what was confirmed last, all or nothing, also with other
   * tabs at it; `left` is what is confirmed with it. Resolves when it is on the disk.
   */
  change(
    lane: string,
    work: (entries: Entry[], confirmed: Left | undefined) => Fresh[],
    left?: Left,
  ): Promise<Entry[]>
  answer(key: string): Promise<KeptAnswer | undefined>
  keepAnswer(key: string, answer: KeptAnswer): Promise<void>
  /** Forgets what is kept to be shown; what waits stays. */
  forgetAnswers(): Promise<void>
}

interface Shape extends DBSchema {
  entries: { key: number; value: Entry; indexes: { lane: string } }
  answers: { key: string; value: KeptAnswer }
  confirmed: { key: string; value: Left }
}

function inDatabase(database: IDBPDatabase<Shape>): Keeper {
  return {
    durable: true,
    all: () => database.getAll('entries'),
    lane: (lane) => database.getAllFromIndex('entries', 'lane', lane),
    async change(lane, work, left) {
      const transaction = database.transaction(['entries', 'confirmed'], 'readwrite')
      const store = transaction.objectStore('entries')
      const before = await store.index('lane').getAll(lane)
      const confirmed = transaction.objectStore('confirmed')
      const after: Entry[] = []
      const fresh = work(before, await confirmed.get(lane))
      for (const entry of before)
        if (!fresh.some(({ order }) => order === entry.order)) void store.delete(entry.order)
      for (const entry of fresh) {
        const same = before.includes(entry as Entry)
        const order = same ? (entry as Entry).order : await store.put(entry as Entry)
        after.push({ ...entry, order } as Entry)
      }
      if (left) void confirmed.put(left, lane)
      // Without waiting for the browser to see that nothing follows: the tab may be closed the next moment.
      transaction.commit()
      await transaction.done
      return after.sort((a, b) => a.order - b.order)
    },
    answer: (key) => database.get('answers', key),
    async keepAnswer(key, answer) {
      await database.put('answers', answer, key)
    },
    forgetAnswers: () => database.clear('answers'),
  }
}

/** For browsers that keep nothing: as long as the tab lives. */
export function inMemory(): Keeper {
  let entries: Entry[] = []
  let last = 0
  const answers = new Map<string, KeptAnswer>()
  const confirmed = new Map<string, Left>()
  const of = (lane: string) => entries.filter((entry) => entry.lane === lane)
  return {
    durable: false,
    all: async () => entries,
    lane: async (lane) => of(lane),
    async change(lane, work, left) {
      const after = work(of(lane), confirmed.get(lane)).map(
        (entry) => ({ ...entry, order: entry.order ?? ++last }) as Entry,
      )
      entries = [...entries.filter((entry) => entry.lane !== lane), ...after].sort(
        (a, b) => a.order - b.order,
      )
      if (left) confirmed.set(lane, left)
      return after
    },
    answer: async (key) => answers.get(key),
    keepAnswer: async (key, answer) => void answers.set(key, answer),
    forgetAnswers: async () => answers.clear(),
  }
}

/** Milliseconds for which the browser's database is waited for: one that hangs would leave a blank page. */
const patience = 8000

/** What opens, or a failure where it does not in time. */
export const inTime = <T>(opening: Promise<T>): Promise<T> =>
  Promise.race([
    opening,
    new Promise<never>((_, reject) => {
      setTimeout(() => reject(new Error("the browser's database does not open")), patience)
    }),
  ])

/** The browser's own database; in memory where it has none, refuses, or hangs. */
export async function openKeeper(name = 'climber'): Promise<Keeper> {
  try {
    const opening = openDB<Shape>(name, 1, {
      upgrade(fresh) {
        fresh
          .createObjectStore('entries', { keyPath: 'order', autoIncrement: true })
          .createIndex('lane', 'lane')
        fresh.createObjectStore('answers')
        fresh.createObjectStore('confirmed')
      },
    })
    return inDatabase(await inTime(opening))
  } catch {
    return inMemory()
  }
}
