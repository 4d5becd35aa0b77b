import { computed, shallowRef, watch } from 'vue'
import type { Candidate, StoredAttempt, StoredPlan } from '@climber/contract'
import { inOrder } from '@climber/contract'
import { isBaseline } from '@climber/core'
import { offline } from '../outbox/connection'
import { confirmed } from '../outbox/confirmed'
import { type Entry, isAbout } from '../outbox/entry'
import { outbox } from '../outbox/here'
import { askKept, keepRead } from '../outbox/kept'
import type { Settled } from '../outbox/outbox'
import { withWaiting } from '../outbox/overlay'
import { OpenBaseline } from './baseline'
import { OpenParts } from './parts'

const same = <T>(a: readonly T[], b: readonly T[]): boolean =>
  a.length === b.length && a.every((one, at) => one === b[at])

/** Everything that was sat and is not part of the baseline. */
export const loggedOf = (attempts: StoredAttempt[]): StoredAttempt[] =>
  inOrder(attempts.filter((attempt) => !isBaseline(attempt)))

/** The open candidate: what is stored, what waits on top of it, and the parts being edited. */
export function openedCandidate(today: () => string) {
  const stored = shallowRef<Candidate>()
  const parts = shallowRef<OpenParts>()
  const baseline = shallowRef<OpenBaseline>()
  /** When the record shown was last fetched, where the server does not answer. */
  const keptAt = shallowRef<string>()
  let stop: (() => void) | undefined

  function close(): void {
    stop?.()
    for (const [, save] of [...(parts.value?.all() ?? []), ...(baseline.value?.all() ?? [])]) save.stop()
    stored.value = undefined
    parts.value = undefined
    baseline.value = undefined
    keptAt.value = undefined
  }
  const take = (settled: Settled): void => {
    if (stored.value) stored.value = confirmed(stored.value, settled)
  }
  function open(answer: Candidate): void {
    close()
    stored.value = answer
    parts.value = new OpenParts(answer, today, outbox())
    baseline.value = new OpenBaseline(answer, today, outbox())
    stop = outbox().onSettled(take)
  }
  /** Reads a candidate, with what was confirmed while the answer was on its way. */
  async function ask(candidateId: string): Promise<{ answer: Candidate; keptAt?: string }> {
    const meanwhile: Settled[] = []
    const end = outbox().onSettled((settled) => meanwhile.push(settled))
    try {
      const { answer, keptAt: at } = await askKept(outbox(), 'readCandidate', { candidateId })
      return { answer: meanwhile.reduce(confirmed, answer), keptAt: at }
    } finally {
      end()
    }
  }
  async function load(id: string): Promise<void> {
    const found = await ask(id)
    open(found.answer)
    keptAt.value = found.keptAt
  }
  /** The same candidate as the server has it now; what is being typed stays. */
  async function reload(): Promise<void> {
    const before = stored.value
    if (!before) return
    const found = await ask(before.id)
    if (stored.value?.id !== before.id) return
    // The format of an edition does not change: the same object spares the worker reading it anew.
    const { answer } = found
    stored.value = answer.examId === before.examId ? { ...answer, exam: before.exam } : answer
    keptAt.value = found.keptAt
    parts.value?.adopt(answer.parts)
    baseline.value?.adopt(answer.attempts)
  }
  watch(offline, (now) => {
    if (!now && stored.value && keptAt.value) void reload().catch(() => undefined)
  })

  /** What waits of reports and tests; the same list while it is the same. */
  const waiting = computed<readonly Entry[]>((before) => {
    const id = stored.value?.id
    if (!id) return []
    const now = outbox().entries.value.filter((entry) => entry.route !== 'savePart' && isAbout(entry, id))
    return before && same(before, now) ? before : now
  })
  const lived = computed(() => {
    const of = stored.value
    return of && withWaiting({ plan: of.plan, attempts: loggedOf(of.attempts) }, waiting.value)
  })

  /** A changed plan, which is also what is shown when the network is off. */
  async function takePlan(plan: StoredPlan): Promise<void> {
    if (!stored.value) return
    stored.value = { ...stored.value, plan }
    await keepRead(outbox(), 'readCandidate', { candidateId: stored.value.id }, stored.value)
  }

  return {
    stored,
    takePlan,
    parts,
    baseline,
    keptAt,
    plan: computed(() => lived.value?.plan ?? null),
    attempts: computed(() => loggedOf(lived.value?.attempts ?? [])),
    open,
    close,
    load,
    reload,
  }
}
