import { type Ref, ref, shallowRef, watch } from 'vue'
import type { Failure } from '@climber/contract'
import { ApiFailure, isPassing } from '../api'
import {
  type Action,
  adds,
  alsoChanged,
  type Entry,
  leaves,
  onVersion,
  over,
  type Sendable,
  versionIn,
} from './entry'
import type { Journal } from './journal'
import type { Fresh, Keeper, Left } from './keeper'

/** What became of an entry that was sent, by this tab or another. */
export interface Settled {
  request: string
  lane: string
  route: Sendable
  params: Action['params']
  body: Action['body']
  answer: unknown
  /** It was sent more than once: the answer may hold what somebody wrote on top of it. */
  again: boolean
}
/** What is to be kept and sent. */
export type Wanted = Action & { lane: string; about: string; held?: boolean; pause?: number }

/** The same as the journal has it: with whose it is, and what was seen waiting before it. */
type Noted = Wanted & { user: string; seen?: string | undefined }

export type Outcome = { answer: unknown } | { failure: Failure } | 'waiting'

/** What the outbox works with: the browser's things, replaced in tests. */
export interface Surroundings {
  send: (entry: Entry) => Promise<unknown>
  /** Writes what was confirmed into what is kept to be shown, before it stops waiting. */
  remember?: (user: string, settled: Settled) => Promise<void>
  /** A new token, where the server forgot the session's. */
  renew: () => Promise<void>
  offline: Ref<boolean>
  /** Runs work while no other tab does. */
  alone: (work: () => Promise<void>) => Promise<void>
  /** Speaks with the other tabs. */
  channel?: Pick<BroadcastChannel, 'postMessage' | 'close'> & {
    onmessage: ((event: MessageEvent) => void) | null
  }
  /** Where what is on its way to the disk stands. */
  journal?: Journal
}
type Message = { changed: string } | { settled: Settled }

/** What was refused and cannot be left out is tried once more with what is put behind it. */
const again = (entries: Entry[]): Entry[] =>
  entries.map((entry) => (entry.failure && adds(entry) ? { ...entry, failure: undefined } : entry))

/** Milliseconds after which a tab looks after what another put. */
const others = 500
/** Milliseconds that something may be put for later. */
const longestPause = 60_000
/** Tokens renewed in a row before the server counts as away. */
const mostRenewals = 3

/**
 * The one queue of what waits for the server. What is put into it is on the browser's disk before it shows as waiting; it is
 * sent in order, once, by one tab at a time, again after lost answers under the same id, and goes when the server has confirmed
 * it. What the server refuses stays until a person has mended or dropped it.
 */
export class Outbox {
  /** What waits of whoever is signed in, in order. */
  readonly entries = shallowRef<readonly Entry[]>([])
  /** The request under way. */
  readonly sending = ref<string>()
  user: string | undefined
  /**
   * By lane the last request that was seen waiting. A tab that dies as it confirms one tells nobody: what is typed here still
   * stands on it.
   */
  private readonly seen = new Map<string, string>()
  private readonly listeners = new Set<(settled: Settled) => unknown>()
  private timer: ReturnType<typeof setTimeout> | undefined
  private running = false
  private wanted = false

  constructor(
    readonly keeper: Keeper,
    private readonly around: Surroundings,
  ) {
    const { channel, offline } = around
    if (channel)
      channel.onmessage = ({ data }: MessageEvent<Message>) => {
        const lane = 'settled' in data ? data.settled.lane : data.changed
        void keeper.lane(lane).then((entries) => {
          this.show(lane, entries)
          if ('settled' in data) this.tell(data.settled)
          // Whoever put it sends it; should that tab be closed meanwhile, this one does.
          else if (entries.length) this.wake(others)
        })
      }
    // At once: back after a moment is back, too.
    watch(offline, (now) => !now && this.wake(0), { flush: 'sync' })
  }

  /** Shows and sends what waits of one user; undefined when nobody is signed in. */
  async belongsTo(user: string | undefined): Promise<void> {
    if (user !== this.user) {
      this.entries.value = []
      this.seen.clear()
    }
    this.user = user
    await this.look()
  }

  /** Looks at the disk: what a tab left that is gone now is sent by this one. */
  async look(): Promise<void> {
    const { user, around } = this
    if (!user) return
    const { journal } = around
    // What its tab has put on the disk meanwhile, and perhaps something over it, is not put there once more.
    for (const { request, text } of journal?.left() ?? [])
      await this.keep(request, text, 0, () => journal!.has(request))
    const all = await this.keeper.all()
    this.showAll(all.filter((entry) => entry.user === user))
    if (all.length) this.wake(0)
  }

  /** The server does not answer: what is put waits. */
  get offline(): boolean {
    return this.around.offline.value
  }

  of(lane: string): Entry[] {
    return this.entries.value.filter((entry) => entry.lane === lane)
  }
  last(lane: string): Entry | undefined {
    return this.of(lane).pop()
  }

  /** Hears of each confirmed entry; returns what ends that. */
  onSettled(listener: (settled: Settled) => unknown): () => void {
    this.listeners.add(listener)
    return () => void this.listeners.delete(listener)
  }

  /**
   * Keeps an action until it is done. It takes the place of the last of its lane where that was not sent yet, and goes on from its
   * version; what is only held takes the place of nothing that waits. Resolves with the entry once it is on the disk.
   */
  async put({ pause = 0, ...wanted }: Wanted): Promise<Entry> {
    const { user } = this
    if (!user) throw new Error('Sign in first.')
    const request = crypto.randomUUID()
    // It may be confirmed by now, or before this is on the disk, and the document stands on what it left.
    const seen = this.seen.get(wanted.lane)
    const text = JSON.stringify({ ...wanted, user, seen } satisfies Noted)
    this.around.journal?.note(request, text)
    const put = await this.keep(request, text, Date.now() + pause)
    this.wake(pause)
    if (!put) throw new Error('what was put is there')
    return put
  }

  /** Puts on the disk what the journal has; once, whoever does it. */
  private async keep(
    request: string,
    text: string,
    ready: number,
    isLeft: () => boolean = () => true,
  ): Promise<Entry | undefined> {
    const { held = false, seen, ...action } = JSON.parse(text) as Noted
    const entries = await this.change(action.lane, (before, confirmed) => {
      const isThere = before.some((entry) => entry.request === request)
      if (confirmed?.request === request || isThere || !isLeft()) return before
      const last = before[before.length - 1]
      const unsent = last?.tries === 0 && !last.failure && (last.held || !held)
      const taken = unsent ? over(last, action) : undefined
      // A conflict stays until it is settled; anything else that was refused is what this mends.
      const conflict = last?.failure?.code === 'conflict'
      const rest = taken || (last?.failure && !adds(action)) ? before.slice(0, -1) : again(before)
      const fresh = {
        ...(taken ?? action),
        held,
        ready,
        tries: 0,
        request,
        ...((taken || conflict) && { order: last!.order }),
        ...(conflict && { failure: last!.failure }),
      } as Fresh
      const base = last && versionIn(last)
      const left = !last && seen && confirmed?.request === seen ? confirmed.version : undefined
      const stated = versionIn(action) ?? 0
      return [...rest, onVersion(fresh as Entry, taken ? base : left && Math.max(left, stated))]
    })
    this.around.journal?.clear(request)
    return entries[entries.length - 1]
  }

  /** Forgets what is only held in a lane. */
  async forgetHeld(lane: string): Promise<void> {
    if (this.last(lane)?.held) await this.change(lane, (before) => before.filter(({ held }) => !held))
  }

  /** Forgets what waits in a lane. */
  async drop(lane: string): Promise<void> {
    await this.change(lane, () => [])
  }

  /** What the server did not take is sent on top of `version` instead. */
  async insist(lane: string, version: number): Promise<void> {
    await this.change(lane, (before) =>
      before.some(adds)
        ? again(before)
        : before
            .slice(-1)
            .map((entry) =>
              onVersion(
                { ...entry, failure: undefined, tries: 0, ready: 0, request: crypto.randomUUID() },
                version,
              ),
            ),
    )
    this.wake(0)
  }

  /** How it went with an entry: confirmed, refused, or waiting because the server does not answer. */
  outcome({ request, lane }: Pick<Entry, 'request' | 'lane'>): Promise<Outcome> {
    return new Promise((resolve) => {
      const look = () => {
        const failure = this.of(lane).find((entry) => entry.request === request)?.failure
        if (failure) finish({ failure })
        else if (this.offline) finish('waiting')
      }
      const ends = [
        this.onSettled((settled) => settled.request === request && finish({ answer: settled.answer })),
        watch([this.entries, this.around.offline], look),
      ]
      const finish = (found: Outcome) => {
        for (const end of ends) end()
        resolve(found)
      }
      look()
    })
  }

  /** Ends the timers and the talk with other tabs; what waits stays. */
  close(): void {
    clearTimeout(this.timer)
    this.user = undefined
    this.around.channel?.close()
  }

  private async change(
    lane: string,
    work: (entries: Entry[], confirmed: Left | undefined) => Fresh[],
  ): Promise<Entry[]> {
    const entries = await this.keeper.change(lane, work)
    this.show(lane, entries)
    this.around.channel?.postMessage({ changed: lane } satisfies Message)
    return entries
  }
  private show(lane: string, entries: Entry[]): void {
    const mine = entries.filter(({ user }) => user === this.user)
    this.showAll(
      [...this.entries.value.filter((entry) => entry.lane !== lane), ...mine].sort(
        (a, b) => a.order - b.order,
      ),
    )
  }
  private showAll(entries: Entry[]): void {
    for (const { lane, request } of entries) this.seen.set(lane, request)
    this.entries.value = entries
  }
  private tell(settled: Settled): void {
    // Whoever listens knows the version now; a session that goes and comes back begins with a lower one.
    if (this.seen.get(settled.lane) === settled.request) this.seen.delete(settled.lane)
    for (const listener of this.listeners) listener(settled)
  }

  /** Sends what is ready in `delay` milliseconds. */
  private wake(delay: number): void {
    clearTimeout(this.timer)
    this.timer = setTimeout(() => void this.drain(), delay)
  }

  private async drain(): Promise<void> {
    this.wanted = true
    if (this.running) return
    this.running = true
    try {
      while (this.wanted) {
        this.wanted = false
        await this.around.alone(() => this.sendAll())
      }
    } finally {
      this.running = false
    }
  }

  /** The first that can be sent now: the head of its lane, handed in, and not refused. */
  private async next(): Promise<Entry | undefined> {
    const seen = new Set<string>()
    let soonest = Infinity
    for (const entry of await this.keeper.all()) {
      if (entry.user !== this.user || seen.has(entry.lane)) continue
      seen.add(entry.lane)
      if (entry.held || entry.failure) continue
      // One that says to wait longer than anything waits was put when the device's clock was ahead.
      if (entry.ready <= Date.now() || entry.ready > Date.now() + longestPause) return entry
      soonest = Math.min(soonest, entry.ready)
    }
    if (soonest < Infinity) this.wake(soonest - Date.now())
    return undefined
  }

  private async sendAll(): Promise<void> {
    let renewals = 0
    while (this.user && !this.offline) {
      const found = await this.next()
      if (!found) return
      // From here on it may have arrived: nothing is written over it.
      const marked = await this.change(found.lane, (before) =>
        before.map((entry) => (entry.order === found.order ? { ...entry, tries: entry.tries + 1 } : entry)),
      )
      const entry = marked.find(({ order }) => order === found.order)
      if (!entry) continue
      this.sending.value = entry.request
      try {
        await this.confirm(entry, await this.around.send(entry))
        renewals = 0
      } catch (error) {
        if (!(error instanceof ApiFailure)) throw error
        if (isPassing(error)) return
        if (error.code === 'not-signed-in') {
          // The session ended: who is signed in is asked again, and what waits stays.
          await this.around.renew().catch(() => undefined)
          return
        }
        if (error.code === 'forged' && renewals++ < mostRenewals)
          await this.around.renew().catch(() => undefined)
        else await this.refuse(entry, error)
      } finally {
        this.sending.value = undefined
      }
    }
  }

  private async confirm(entry: Entry, answer: unknown): Promise<void> {
    const { lane = entry.lane, version } = leaves(entry, answer)
    const { request, route, params, body, tries, user } = entry
    const settled: Settled = { request, route, params, body, lane: entry.lane, answer, again: tries > 1 }
    await this.around.remember?.(user, settled).catch(() => undefined)
    for (const other of alsoChanged(entry, answer).filter((one) => this.of(one.lane).length))
      await this.change(other.lane, (before) => before.map((one) => onVersion(one, other.version)))
    const isBehind = ({ order }: Entry) => order > entry.order
    if (lane !== entry.lane) {
      const behind = this.of(entry.lane).filter(isBehind)
      if (behind.length)
        await this.change(lane, (before) => [
          ...before,
          ...behind.map(({ order: _, ...one }) => onVersion({ ...one, lane } as Entry, version)),
        ])
    }
    const rest = await this.keeper.change(
      entry.lane,
      (before) => (lane === entry.lane ? before.filter(isBehind).map((one) => onVersion(one, version)) : []),
      version === undefined ? undefined : { request: entry.request, version },
    )
    // In one breath, so that nothing shows what is neither waiting nor stored.
    this.show(entry.lane, rest)
    this.tell(settled)
    this.around.channel?.postMessage({ settled } satisfies Message)
  }

  /** What stands behind it says the same anew, where it does not add to it; only the last waits for a person. */
  private async refuse(refused: Entry, { code, message, failure }: ApiFailure): Promise<void> {
    const { lane, order } = refused
    const reason: Failure = failure ?? { code: code === 'offline' ? 'unavailable' : code, message }
    await this.change(lane, (before) => {
      if (adds(refused))
        return before.map((entry) => (entry.order === order ? { ...entry, failure: reason } : entry))
      const behind = before.filter((entry) => entry.order > order)
      if (!behind.length || code === 'conflict')
        return before.slice(-1).map((entry) => ({ ...entry, failure: reason }))
      return behind
    })
  }
}
