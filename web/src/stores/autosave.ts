import { reactive, watch } from 'vue'
import type { Action, Entry } from '../outbox/entry'
import type { Problem } from '../kit/problems'
import type { Outbox } from '../outbox/outbox'
import { plain } from '../workers/core'

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
export function autosave<T>(document: T, version: number, wiring: Wiring<T>) {
  const { outbox, lane, check, byHand, pause = 400 } = wiring
  const state = reactive({ document, version, status: 'saved', problems: [] }) as Saved<T>
  /** Changes on their way to the disk, and what was put there from here. */
  let writing = 0
  let put = ''
  const own = new Set<string>()

  function show(): void {
    if (writing) return
    const entries = outbox.of(lane)
    const last = entries[entries.length - 1]
    if (!last) {
      state.status = 'saved'
      state.conflict = undefined
      return
    }
    const waiting = wiring.sent(last)
    if (waiting !== undefined && !own.has(last.request) && JSON.stringify(waiting) !== put) {
      put = JSON.stringify(waiting)
      state.document = plain(waiting)
      state.problems = check(state.document)
    }
    const { failure } = last
    const sending = entries.some(({ request }) => request === outbox.sending.value)
    state.status = statusOf(last, { sending, offline: outbox.offline })
    const current = failure?.code === 'conflict' && (failure.current as { document: T; version: number })
    state.conflict = current ? { ...current, changedBy: failure?.changedBy } : undefined
    if (state.status === 'refused' && failure)
      state.problems = failure.issues ?? [{ field: '', message: failure.message }]
  }

  async function write(): Promise<void> {
    const { problems } = state
    put = JSON.stringify(state.document)
    writing++
    state.status = problems.length ? 'refused' : 'editing'
    try {
      if (byHand && !byHand.changed()) await outbox.forgetHeld(lane)
      else {
        const held = byHand !== undefined || problems.length > 0
        const action = wiring.action(state.version, state.document as T)
        const entry = await outbox.put({ ...action, lane, about: wiring.about, held, pause })
        own.add(entry.request)
      }
    } finally {
      writing--
      show()
    }
  }
  function edit(change: (document: T) => void): void {
    change(state.document)
    state.problems = check(state.document)
    void write()
  }

  /** What is stored now, where nothing of one's own waits. */
  function adopt(version: number, document: T): void {
    if (writing || outbox.last(lane)) return
    state.version = version
    state.document = document
    state.problems = check(document)
    put = ''
  }

  /** After a conflict: take what is stored, or save this over it. */
  async function settle(mine: boolean): Promise<void> {
    const { conflict } = state
    if (!conflict) return
    state.version = conflict.version
    if (mine) return outbox.insist(lane, conflict.version)
    await outbox.drop(lane)
    adopt(conflict.version, plain(conflict.document))
  }

  /** The server changed part of the document itself, and says so: what waits goes on from there. */
  function rebase(version: number, change: (document: T) => void): void {
    change(state.document)
    state.version = version
    if (outbox.last(lane)) void write().then(() => outbox.insist(lane, version))
  }

  const stops = [
    watch([outbox.entries, outbox.sending, () => outbox.offline], show),
    outbox.onSettled(({ lane: of, request, answer, again }) => {
      if (of !== lane) return
      const { version, document } = wiring.answered(answer)
      state.version = version
      // From another tab, or with what somebody wrote on top of it while the answer was lost.
      const others = !own.has(request) || (again && JSON.stringify(document) !== put)
      if (others) adopt(version, plain(document))
      show()
    }),
  ]
  const waiting = outbox.last(lane)
  if (waiting) {
    const typed = wiring.sent(waiting)
    if (typed !== undefined) state.document = plain(typed)
    put = JSON.stringify(typed)
    state.problems = check(state.document)
    show()
  }

  return {
    state,
    lane,
    edit,
    adopt,
    rebase,
    settle,
    /** Stops following, when the candidate is closed; what waits goes on being sent. */
    stop: () => stops.forEach((stop) => stop()),
  }
}

export type Autosave<T> = ReturnType<typeof autosave<T>>
