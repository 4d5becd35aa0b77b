import { watch } from 'vue'
import type { PaceCards } from '@climber/core'
import { inOwnWorker, plain, Stopped } from '../workers/core'
import { useWorkspace } from './workspace'

/** The pace cards of a candidate as kept in the browser, to be read with the network off. */
export interface KeptCards {
  keptAt: string
  /** What they were worked out from: every version of it, and the day. */
  from: string
  cards: PaceCards
}
const prefix = 'climber.card.'

export function keptCards(candidateId: string): KeptCards | undefined {
  try {
    const text = localStorage.getItem(prefix + candidateId)
    return text ? (JSON.parse(text) as KeptCards) : undefined
  } catch {
    return undefined
  }
}

/** Whoever signs out leaves none behind. */
export function forgetCards(): void {
  for (const key of Object.keys(localStorage)) if (key.startsWith(prefix)) localStorage.removeItem(key)
}

/** Changes with everything that the cards depend on, as stored. */
function stampOf(workspace: ReturnType<typeof useWorkspace>): string {
  const { candidate, saving, plan, attempts, today, name } = workspace
  if (!candidate) return ''
  return JSON.stringify([
    candidate.examId,
    today,
    name,
    saving.map(({ state }) => state.version),
    plan?.version,
    plan?.sessions.reduce((sum, { version }) => sum + version, 0),
    attempts.map(({ id, version }) => `${id}.${version}`),
  ])
}

/** The open candidate's cards: those kept, or worked out anew in a worker of its own where something changed since. */
export async function makeCards(signal?: AbortSignal): Promise<KeptCards | undefined> {
  const workspace = useWorkspace()
  const { record, candidate, name } = workspace
  if (!record || !candidate) return undefined
  const from = stampOf(workspace)
  const before = keptCards(candidate.id)
  if (before?.from === from) return before
  const cards = await inOwnWorker((worker) => worker.paceCards(record, plain(workspace.now), name), signal)
  const kept = { keptAt: new Date().toISOString(), from, cards }
  localStorage.setItem(prefix + candidate.id, JSON.stringify(kept))
  return kept
}

/** Milliseconds of rest after a change was stored before the cards are worked out again. */
const rest = 2500

/** Keeps the cards of the open candidate up to date, a while after each change. */
export function followCards(): () => void {
  const workspace = useWorkspace()
  let timer: ReturnType<typeof setTimeout> | undefined
  let control: AbortController | undefined
  const stop = watch(
    () => stampOf(workspace),
    () => {
      clearTimeout(timer)
      control?.abort()
      timer = setTimeout(() => {
        control = new AbortController()
        makeCards(control.signal).catch((error: unknown) => {
          // The cards of before stay; the Pacing screen says what does not fit.
          if (!(error instanceof Stopped)) console.warn(error)
        })
      }, rest)
    },
    { immediate: true },
  )
  return () => {
    stop()
    clearTimeout(timer)
    control?.abort()
  }
}
