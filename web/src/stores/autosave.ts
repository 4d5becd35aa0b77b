import { reactive, watch } from 'vue'
import type { Action, Entry } from '../outbox/entry'
import type { Problem } from '../kit/problems'
import type { Outbox, Settled } from '../outbox/outbox'
import { plain } from '../workers/core'
import type { EditHistory } from './history'

export type { Problem }
export type SaveStatus = 'saved' | 'editing' | 'saving' | 'offline' | 'refused' | 'conflict'

/** One separately saved document: what is on screen, what is stored, and how the saving goes. */
export interface Saved<T> {
  document: T
  version: number
  status: SaveStatus
  problems: Problem[]
  conflict?: { document: T; version: number; changedBy?: string }
}

/** What a document is saved with. */
export interface Wiring<T> {
  outbox: Outbox
  lane: string
  about: string
  check: (document: T) => Problem[]
  action: (version: number, document: T) => Action
  /** The document in a request that waits, and in an answer. */
  sent: (entry: Entry) => T | undefined
  answered: (answer: unknown) => { version: number; document: T }
  /** Kept only, until it is handed in by hand; forgotten where it says what is stored. */
  byHand?: { changed: () => boolean }
  /** Milliseconds after the last change until it is sent. */
  pause?: number
  /** Notes each change, to be undone. */
  history?: EditHistory
}

const statusOf = (last: Entry, { sending, offline }: { sending: boolean; offline: boolean }): SaveStatus =>
  last.failure?.code === 'conflict'
    ? 'conflict'
    : last.failure || last.held
      ? 'refused'
      : offline
        ? 'offline'
        : sending
          ? 'saving'
          : 'editing'

/**
 * A document that is saved by itself: each change is put into the outbox, which keeps it until the server has confirmed it. What
 * other tabs change in the same document shows here, while nothing of one's own waits.
 */
export class Autosave<T> {
  readonly state: Saved<T>
  readonly lane: string
  private readonly outbox: Outbox
  /** Changes on their way to the disk, and the requests put from here. */
  private writing = 0
  /** The document, as JSON, as it was put on the disk or taken from elsewhere last: what differs from it was changed here. */
  private put: string
  private readonly own = new Set<string>()
  private readonly stops: (() => void)[]

  constructor(
    document: T,
    version: number,
    private readonly wiring: Wiring<T>,
  ) {
    this.outbox = wiring.outbox
    this.lane = wiring.lane
    this.put = JSON.stringify(document)
    this.state = reactive({ document, version, status: 'saved', problems: [] }) as Saved<T>
    const { entries, sending } = this.outbox
    this.stops = [
      watch([entries, sending, () => this.outbox.offline], () => this.show()),
      this.outbox.onSettled((settled) => {
        if (settled.lane === this.lane) this.confirm(settled)
      }),
    ]
    const waiting = this.outbox.last(this.lane)
    if (!waiting) return
    this.take(wiring.sent(waiting) ?? document)
    this.show()
  }

  edit(change: (document: T) => void): void {
    const { history, about } = this.wiring
    const before = this.put
    change(this.state.document)
    this.check()
    void this.write()
    history?.note({ save: this, about, before, after: this.put })
  }
  /** Where fields write into the document themselves: a change of theirs is an edit too. */
  noticed(): void {
    if (JSON.stringify(this.state.document) !== this.put) this.edit(() => undefined)
  }
  /** Puts a document in the place of all there is, as undo does; JSON. */
  replace(document: string): void {
    this.state.document = JSON.parse(document) as T
    this.check()
    void this.write()
  }

  /** What is stored now, where nothing of one's own waits. */
  adopt(version: number, document: T): void {
    if (this.writing || this.outbox.last(this.lane)) return
    this.state.version = version
    this.state.document = document
    this.put = JSON.stringify(document)
    this.wiring.history?.forget(this)
    this.check()
  }

  /** After a conflict: take what is stored, or save this over it. */
  async settle(mine: boolean): Promise<void> {
    const { conflict } = this.state
    if (!conflict) return
    this.state.version = conflict.version
    if (mine) return this.outbox.insist(this.lane, conflict.version)
    await this.outbox.drop(this.lane)
    this.adopt(conflict.version, plain(conflict.document))
  }

  /** The server changed part of the document itself, and says so: what waits goes on from there. */
  rebase(version: number, change: (document: T) => void): void {
    change(this.state.document)
    this.put = JSON.stringify(this.state.document)
    this.state.version = version
    this.wiring.history?.forget(this)
    if (this.outbox.last(this.lane)) void this.write().then(() => this.outbox.insist(this.lane, version))
  }

  /** Stops following, when the candidate is closed; what waits goes on being sent. */
  stop(): void {
    for (const stop of this.stops) stop()
  }

  private check(): void {
    this.state.problems = this.wiring.check(this.state.document)
  }
  /** A document that waits, put there by another tab or before a reload. */
  private take(document: T): void {
    this.put = JSON.stringify(document)
    this.state.document = plain(document)
    this.wiring.history?.forget(this)
    this.check()
  }

  /** Brings the state to what the lane's last entry says. */
  private show(): void {
    if (this.writing) return
    const { state, outbox } = this
    const entries = outbox.of(this.lane)
    const last = entries[entries.length - 1]
    if (!last) {
      state.status = 'saved'
      state.conflict = undefined
      return
    }
    const waiting = this.wiring.sent(last)
    if (waiting !== undefined && !this.own.has(last.request) && JSON.stringify(waiting) !== this.put)
      this.take(waiting)
    const { failure } = last
    const sending = entries.some(({ request }) => request === outbox.sending.value)
    state.status = statusOf(last, { sending, offline: outbox.offline })
    const current = failure?.code === 'conflict' && (failure.current as { document: T; version: number })
    state.conflict = current ? { ...current, changedBy: failure?.changedBy } : undefined
    if (state.status === 'refused' && failure)
      state.problems = failure.issues ?? [{ field: '', message: failure.message }]
  }

  private async write(): Promise<void> {
    const { state, wiring, outbox, lane } = this
    const { byHand, about, pause = 400 } = wiring
    const { problems } = state
    this.put = JSON.stringify(state.document)
    this.writing++
    state.status = problems.length ? 'refused' : 'editing'
    try {
      if (byHand && !byHand.changed()) await outbox.forgetHeld(lane)
      else {
        const held = byHand !== undefined || problems.length > 0
        const action = wiring.action(state.version, state.document)
        const entry = await outbox.put({ ...action, lane, about, held, pause })
        this.own.add(entry.request)
      }
    } finally {
      this.writing--
      this.show()
    }
  }

  private confirm({ request, answer, again }: Settled): void {
    const { version, document } = this.wiring.answered(answer)
    this.state.version = version
    // From another tab, or with what somebody wrote on top of it while the answer was lost.
    const others = !this.own.has(request) || (again && JSON.stringify(document) !== this.put)
    if (others) this.adopt(version, plain(document))
    this.show()
  }
}
