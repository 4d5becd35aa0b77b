import { computed, type Ref, shallowRef, watch } from 'vue'
import type { Candidate, CandidateRecord, StoredAttempt, StoredNote, StoredPlan } from '@climber/contract'
import { inOrder } from '@climber/contract'
import { isBaseline } from '@climber/core'
import { offline } from '../outbox/connection'
import { confirmed, withLater } from '../outbox/confirmed'
import { type Entry, isAbout, isOfCards } from '../outbox/entry'
import { outbox } from '../outbox/here'
import { askKept, keepRead } from '../outbox/kept'
import type { Settled } from '../outbox/outbox'
import { withWaiting } from '../outbox/overlay'
import { OpenBaseline } from './baseline'
import { OpenParts } from './parts'

/** The list from before where it holds the same, so that what rests on it does not change either. */
export const steady = <L extends readonly unknown[]>(before: L | undefined, now: L): L =>
  before && before.length === now.length && before.every((one, at) => one === now[at]) ? before : now

/** Everything that was sat and is not part of the baseline. */
export const loggedOf = (attempts: StoredAttempt[]): StoredAttempt[] =>
  inOrder(attempts.filter((attempt) => !isBaseline(attempt)))

/** Reads a candidate, with what was confirmed while the answer was on its way. */
async function readNow(candidateId: string): Promise<{ answer: Candidate; keptAt?: string }> {
  const meanwhile: Settled[] = []
  const end = outbox().onSettled((settled) => meanwhile.push(settled))
  try {
    const { answer, keptAt: at } = await askKept(outbox(), 'readCandidate', { candidateId })
    return { answer: meanwhile.reduce(confirmed, withLater(answer)), keptAt: at }
  } finally {
    end()
  }
}

/** Plan and attempts as they will be once what waits is sent. */
function livedOf(stored: Ref<Candidate | undefined>) {
  /** What waits of reports and tests; the same list while it is the same. */
  const waiting = computed<readonly Entry[]>((before) => {
    const id = stored.value?.id
    if (!id) return []
    return steady(
      before,
      outbox().entries.value.filter(
        (entry) => entry.route !== 'savePart' && !isOfCards(entry) && isAbout(entry, id),
      ),
    )
  })
  return computed(() => {
    const of = stored.value
    return (
      of && withWaiting({ plan: of.plan, attempts: loggedOf(of.attempts), review: of.review }, waiting.value)
    )
  })
}

/** The open candidate: what is stored, what waits on top of it, and the parts being edited. */
export function openedCandidate(today: () => string) {
  const stored = shallowRef<Candidate>()
  const parts = shallowRef<OpenParts>()
  const baseline = shallowRef<OpenBaseline>()
  /** When the record shown was last fetched, where the server does not answer. */
  const keptAt = shallowRef<string>()
  const lived = livedOf(stored)
  let stop: (() => void) | undefined
  /** How often one was opened or closed: an answer that comes later than that is not shown. */
  let times = 0

  function close(): void {
    times++
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
    baseline.value = new OpenBaseline(answer, today, outbox(), parts.value.history)
    stop = outbox().onSettled(take)
  }
  async function load(id: string): Promise<void> {
    const asked = ++times
    const found = await readNow(id).catch((error: unknown) => {
      if (asked === times) throw error
    })
    if (!found || asked !== times) return
    open(found.answer)
    keptAt.value = found.keptAt
  }
  /** The same candidate as the server has it now; what is being typed stays. */
  async function reload(): Promise<void> {
    const before = stored.value
    if (!before) return
    const { answer, keptAt: at } = await readNow(before.id)
    if (stored.value?.id !== before.id) return
    // The format of an edition does not change: the same object spares the worker reading it anew.
    stored.value = answer.examId === before.examId ? { ...answer, exam: before.exam } : answer
    keptAt.value = at
    parts.value?.adopt(answer.parts)
    baseline.value?.adopt(answer.attempts)
  }
  watch(offline, (now) => {
    if (!now && stored.value && keptAt.value) void reload().catch(() => undefined)
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
    attempts: computed<StoredAttempt[]>((before) => steady(before, loggedOf(lived.value?.attempts ?? []))),
    review: computed<StoredNote[]>((before) => steady(before, lived.value?.review ?? [])),
    open,
    close,
    load,
    reload,
  }
}
export type Opened = ReturnType<typeof openedCandidate>

/** The record that the core works with: the parts as they are being edited, the rest as it was lived. */
export function recordOf({ stored, parts, baseline, plan, attempts, review }: Opened) {
  // The same list while it is the same: what is another object goes to the worker, items and all.
  const sat = computed(() => inOrder([...(baseline.value?.attempts() ?? []), ...attempts.value]))
  return computed<CandidateRecord | undefined>(() => {
    const of = stored.value
    if (!of || !parts.value || !baseline.value) return undefined
    return {
      ...parts.value.documents(),
      exam: of.exam,
      attempts: sat.value,
      review: review.value,
      recalled: of.recalled,
      plan: plan.value ?? undefined,
      before: of.before,
      taken: of.taken,
    }
  })
}
