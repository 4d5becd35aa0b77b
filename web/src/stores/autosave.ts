import { reactive } from 'vue'
import { ApiFailure, isPassing } from '../api'

export interface Problem {
  field: string
  message: string
}
export type SaveStatus = 'saved' | 'editing' | 'saving' | 'offline' | 'refused' | 'conflict'

/** One separately saved document: what is on screen, what is stored, and how the saving goes. */
export interface Saved<T> {
  document: T
  version: number
  status: SaveStatus
  problems: Problem[]
  savedAt?: string
  conflict?: { document: T; version: number; changedBy?: string }
}

interface Wiring<T> {
  /** Where an unsaved document waits, so that a closed tab loses nothing. */
  key: string
  check: (document: T) => Problem[]
  save: (
    version: number,
    document: T,
  ) => Promise<{ version: number; document: unknown; changedAt?: string | null }>
  /** A new CSRF token, when the server forgot the session's. */
  renew: () => Promise<void>
}

const pause = 400
const longestWait = 20_000

interface Draft<T> {
  document: T
  version: number
}

const readDraft = <T>(key: string): Draft<T> | undefined => {
  try {
    const text = localStorage.getItem(key)
    return text ? (JSON.parse(text) as Draft<T>) : undefined
  } catch {
    return undefined
  }
}

/**
 * Saves a document a moment after each change, one request at a time. Every change is kept in the browser until the
 * server has confirmed it, so a lost connection, a killed server or a closed tab lose nothing.
 */
export function autosave<T>(document: T, version: number, wiring: Wiring<T>) {
  const state = reactive({ document, version, status: 'saved', problems: [] }) as Saved<T>
  let timer: ReturnType<typeof setTimeout> | undefined
  let running = false
  let again = false
  let wait = 1000

  const keep = () =>
    localStorage.setItem(wiring.key, JSON.stringify({ document: state.document, version: state.version }))
  const plan = (delay: number) => {
    clearTimeout(timer)
    timer = setTimeout(() => void send(), delay)
  }

  async function send(): Promise<void> {
    if (running) {
      again = true
      return
    }
    if (state.problems.length || state.status === 'conflict') return
    running = true
    again = false
    state.status = 'saving'
    const sent = JSON.stringify(state.document)
    try {
      const answer = await wiring.save(state.version, JSON.parse(sent) as T)
      state.version = answer.version
      state.savedAt = answer.changedAt ?? undefined
      wait = 1000
      if (JSON.stringify(state.document) === sent) {
        localStorage.removeItem(wiring.key)
        state.status = 'saved'
      } else again = true
    } catch (error) {
      if (isPassing(error)) {
        state.status = 'offline'
        plan(wait)
        wait = Math.min(longestWait, wait * 2)
      } else if (error instanceof ApiFailure && error.code === 'conflict') {
        const current = error.failure?.current as { document: T; version: number }
        state.conflict = { ...current, changedBy: error.failure?.changedBy }
        state.status = 'conflict'
      } else if (error instanceof ApiFailure && error.code === 'forged') {
        await wiring.renew().catch(() => undefined)
        plan(pause)
      } else if (error instanceof ApiFailure) {
        state.problems = error.failure?.issues ?? [{ field: '', message: error.message }]
        state.status = 'refused'
      } else throw error
    } finally {
      running = false
      if (again) plan(0)
    }
  }

  function edit(change: (document: T) => void): void {
    change(state.document)
    keep()
    state.problems = wiring.check(state.document)
    state.status = state.conflict ? 'conflict' : state.problems.length ? 'refused' : 'editing'
    if (state.status === 'editing') plan(pause)
  }

  /** After a conflict: take what is stored, or save this over it. */
  function settle(mine: boolean): void {
    const { conflict } = state
    if (!conflict) return
    state.version = conflict.version
    if (!mine) {
      state.document = conflict.document
      localStorage.removeItem(wiring.key)
    }
    state.conflict = undefined
    state.problems = wiring.check(state.document)
    state.status = mine ? 'editing' : 'saved'
    if (mine) plan(0)
  }

  /** The server changed part of the document itself, and says so: unsaved changes stay and are saved on top. */
  function rebase(version: number, change: (document: T) => void): void {
    change(state.document)
    state.version = version
    if (state.status === 'saved') return
    keep()
    if (state.status === 'editing') plan(pause)
  }

  const draft = readDraft<T>(wiring.key)
  if (draft) {
    state.document = draft.document
    state.version = draft.version
    state.problems = wiring.check(state.document)
    state.status = state.problems.length ? 'refused' : 'editing'
    if (!state.problems.length) plan(0)
  }

  return {
    state,
    edit,
    rebase,
    settle,
    /** Stops waiting, when the screen that edits is left; unsaved changes stay in the browser. */
    stop: () => clearTimeout(timer),
  }
}

export type Autosave<T> = ReturnType<typeof autosave<T>>
