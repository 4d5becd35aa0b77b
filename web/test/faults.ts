import { IDBFactory } from 'fake-indexeddb'
import { ref, type Ref } from 'vue'
import type { Answer } from '@climber/contract'
import { ApiFailure } from '../src/api'
import { actionOf, type Entry, lanes } from '../src/outbox/entry'
import type { Journal } from '../src/outbox/journal'
import { type Keeper, openKeeper } from '../src/outbox/keeper'
import { Outbox } from '../src/outbox/outbox'
import { Autosave } from '../src/stores/autosave'

export const pass = (ms: number): Promise<void> => new Promise((resolve) => setTimeout(resolve, ms))
const forever = <T>() => new Promise<T>(() => undefined)

export const candidateId = '5f0c9a00-0000-4000-8000-000000000009'
/** A document that remembers every change: what is lost is missing, what is doubled is there twice. */
export interface Words {
  words: string[]
}

/** The server's manners in small: versions, and requests done once. It outlives being killed. */
export class ModelServer {
  readonly documents = new Map<string, { version: number; document: Words }>()
  readonly attempts = new Map<string, number>()
  readonly done = new Set<string>()
  /** Requests by how often they changed something. */
  readonly changes = new Map<string, number>()

  private changed(request: string): void {
    this.done.add(request)
    this.changes.set(request, (this.changes.get(request) ?? 0) + 1)
  }
  private write(entry: Entry, version: number, document: Words): { version: number; document: Words } {
    const now = this.documents.get(entry.lane) ?? { version: 0, document: { words: [] } }
    if (this.done.has(entry.request)) return now
    if (now.version !== version)
      throw new ApiFailure('conflict', 'changed', { code: 'conflict', message: 'changed', current: now })
    const next = { version: version + 1, document }
    this.documents.set(entry.lane, next)
    this.changed(entry.request)
    return next
  }
  take(entry: Entry): unknown {
    const part = actionOf(entry, 'savePart')
    if (part) return this.write(part, part.body.version, part.body.document as unknown as Words)
    const report = actionOf(entry, 'saveSession')
    if (report) return this.write(report, report.body.version, { words: [report.body.status] })
    const saved = actionOf(entry, 'saveAttempt')
    if (saved && !this.done.has(entry.request)) {
      this.attempts.set(saved.params.attemptId, (this.attempts.get(saved.params.attemptId) ?? 0) + 1)
      this.changed(entry.request)
    }
    if (saved)
      return {
        attempt: { ...saved.body.attempt, version: 1 },
        sessions: [],
      } as unknown as Answer<'saveAttempt'>
    const deleted = actionOf(entry, 'deleteAttempt')
    if (deleted) this.attempts.delete(deleted.params.attemptId)
    return { sessions: [] }
  }
}

/** The journal, in memory. */
export function inStorage(): Journal {
  const noted = new Map<string, string>()
  return {
    note: (request, text) => void noted.set(request, text),
    clear: (request) => void noted.delete(request),
    has: (request) => noted.has(request),
    left: () => [...noted].map(([request, text]) => ({ request, text })),
  }
}

/** The world around the tabs: one disk, one lock, one network. */
export class World {
  readonly server = new ModelServer()
  /** What was on its way to the disk, as every tab of the browser finds it. */
  readonly journal: Journal = inStorage()
  network = true
  serverUp = true
  private queue: { tab: Tab; work: () => void }[] = []
  private holder: Tab | undefined
  constructor(
    readonly random: () => number,
    readonly name: string,
  ) {}

  /** Runs work while no other tab does; a tab that dies lets go. */
  alone(tab: Tab, work: () => Promise<void>): Promise<void> {
    return new Promise((resolve, reject) => {
      this.queue.push({
        tab,
        work: () =>
          void work()
            .then(resolve, reject)
            .finally(() => this.letGo(tab)),
      })
      this.pass()
    })
  }
  letGo(tab: Tab): void {
    if (this.holder === tab) this.holder = undefined
    this.pass()
  }
  private pass(): void {
    if (this.holder) return
    const next = this.queue.shift()
    if (!next) return
    if (next.tab.dead) return this.pass()
    this.holder = next.tab
    next.work()
  }

  /** A request on its way: it can be lost going, and its answer coming back. */
  async send(tab: Tab, entry: Entry): Promise<unknown> {
    const away = () => !this.network || !this.serverUp || this.random() < 0.12
    await pass(this.random() * 4)
    if (tab.dead) return forever()
    if (away()) throw new ApiFailure('offline', 'lost going')
    const answer = this.server.take(entry)
    await pass(this.random() * 4)
    if (tab.dead) return forever()
    if (away()) throw new ApiFailure('offline', 'lost coming back')
    return answer
  }
}

/** One tab, with two documents open. */
export class Tab {
  dead = false
  private constructor(
    private readonly world: World,
    readonly outbox: Outbox,
    readonly offline: Ref<boolean>,
    private readonly channel: BroadcastChannel,
  ) {}
  readonly open = new Map<string, Autosave<Words>>()
  private looking: ReturnType<typeof setInterval> | undefined
  private visiting: ReturnType<typeof setInterval> | undefined

  static async open(world: World): Promise<Tab> {
    const offline = ref(false)
    const disk = await openKeeper(world.name)
    if (!disk.durable) throw new Error('there is a disk')
    const channel = new BroadcastChannel(world.name)
    const alive = (): Tab => tab
    const outbox = new Outbox(
      dying(disk, () => alive().dead),
      {
        offline,
        renew: () => Promise.resolve(),
        alone: (work) => world.alone(alive(), work),
        journal: world.journal,
        channel: quietly(channel, () => alive().dead),
        send: (entry) =>
          world.send(alive(), entry).catch((error: unknown) => {
            if (error instanceof ApiFailure && error.code === 'offline') offline.value = true
            throw error
          }),
      },
    )
    const tab = new Tab(world, outbox, offline, channel)
    tab.looking = setInterval(() => world.network && world.serverUp && (offline.value = false), 3)
    tab.visiting = setInterval(() => void outbox.look(), 60)
    await outbox.belongsTo('somebody')
    for (const part of ['candidate', 'target'] as const) tab.edit(part)
    return tab
  }

  private edit(part: 'candidate' | 'target'): void {
    const lane = lanes.part(candidateId, part)
    const stored = this.world.server.documents.get(lane) ?? { version: 0, document: { words: [] } }
    const { version, document } = JSON.parse(JSON.stringify(stored)) as typeof stored
    const save = new Autosave<Words>(document, version, {
      outbox: this.outbox,
      lane,
      about: part,
      pause: 2,
      check: () => [],
      action: (on, words) => ({
        route: 'savePart',
        params: { candidateId, part },
        body: { version: on, document: { ...words } },
      }),
      sent: (entry) => actionOf(entry, 'savePart')?.body.document as unknown as Words,
      answered: (answer) => answer as { version: number; document: Words },
    })
    this.open.set(lane, save)
  }

  /** A person comes to this tab: it looks at the disk, and has heard what the other tabs said, however slow the machine. */
  async front(): Promise<void> {
    await this.outbox.look()
    const behind = () =>
      [...this.open].some(
        ([lane, { state }]) =>
          !this.outbox.last(lane) && state.version < (this.world.server.documents.get(lane)?.version ?? 0),
      )
    await pass(4)
    for (let waited = 0; waited < 100 && behind(); waited++) await pass(4)
  }

  /** The tab is gone in the middle of whatever it does. */
  kill(): void {
    this.dead = true
    clearInterval(this.looking)
    clearInterval(this.visiting)
    this.channel.close()
    this.world.letGo(this)
  }
}

/** A channel on which a dead tab says nothing more. */
const quietly = (channel: BroadcastChannel, dead: () => boolean) => ({
  postMessage: (message: unknown) => void (dead() || channel.postMessage(message)),
  close: () => channel.close(),
  get onmessage() {
    return channel.onmessage
  },
  set onmessage(heard: BroadcastChannel['onmessage']) {
    channel.onmessage = heard
  },
})

/** A disk that answers a dead tab no more. What was asked for before may still be written, or not. */
const dying = (disk: Keeper, dead: () => boolean): Keeper => ({
  ...disk,
  all: async () => (dead() ? forever() : disk.all()),
  lane: async (lane) => (dead() ? forever() : disk.lane(lane)),
  change: async (...asked) => (dead() ? forever() : disk.change(...asked)),
})

export const freshDisk = (): void => void (globalThis.indexedDB = new IDBFactory())
