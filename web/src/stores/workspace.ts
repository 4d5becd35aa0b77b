import { defineStore } from 'pinia'
import { computed, ref, shallowRef, watch } from 'vue'
import {
  type Basis,
  type CandidateRecord,
  type ChangedPlan,
  inOrder,
  type PlanSession,
  type Unplaced,
  versionsOf,
} from '@climber/contract'
import {
  type Answered,
  type Asked,
  type Overview,
  type QuestionName,
  sittingOf,
  wordsOf,
} from '@climber/core'
import { newestOnly } from '../manners/newest'
import { isAbout } from '../outbox/entry'
import { outbox } from '../outbox/here'
import { ask } from '../workers/held'
import type { Autosave } from './autosave'
import { openedCandidate } from './opened'
import { planChanges } from './planChanges'
import { reports } from './reports'
import { useSession } from './session'

/** Milliseconds that a plan waits for the last changes to be stored, and between looks. */
const longestSettling = 8000
const settlingStep = 50

/** The open candidate: its parts being edited, plan and attempts, and what the core makes of them. */
export const useWorkspace = defineStore('workspace', () => {
  const session = useSession()
  const opened = openedCandidate(() => today.value)
  const { stored, parts, baseline, plan, attempts } = opened
  const id = () => stored.value?.id ?? ''
  const failed = ref('')
  /** First day of the weeks that Plan shows; the horizon's window. */
  const from = ref('')

  const tick = ref(0)
  const saves = computed(() => parts.value?.saves)
  const now = computed(() => {
    void tick.value
    return session.moment(saves.value?.availability.state.document.zone ?? 'Etc/UTC')
  })
  const today = computed(() => now.value.date)

  function close(): void {
    overview.value = undefined
    opened.close()
  }
  async function load(candidateId: string): Promise<void> {
    if (id() === candidateId) return
    failed.value = ''
    close()
    try {
      await opened.load(candidateId)
      from.value = today.value
    } catch (error) {
      failed.value = (error as Error).message
    }
  }

  const record = computed<CandidateRecord | undefined>(() => {
    const of = stored.value
    if (!of || !parts.value || !baseline.value) return undefined
    return {
      ...parts.value.documents(),
      exam: of.exam,
      attempts: inOrder([...baseline.value.attempts(), ...attempts.value]),
      plan: plan.value ?? undefined,
      before: of.before,
      taken: of.taken,
    }
  })
  /** Asks the worker a question of the open record; undefined while none is open. */
  async function asked<N extends QuestionName>(name: N, ...rest: Asked<N>): Promise<Answered<N> | undefined> {
    return record.value && ask(record.value, name, now.value, ...rest)
  }
  const words = computed(() => record.value && wordsOf(record.value, today.value))
  const titleOf = (of: PlanSession | Unplaced): string => words.value?.title(of) ?? ''

  const overview = shallowRef<Overview>()
  /** Milliseconds from a change to the verdict it led to; docs/measurements.md quotes it. */
  const lag = ref(0)
  const work = newestOnly(async () => {
    const begun = performance.now()
    const found = await asked('overview')
    if (stored.value && found) overview.value = found
    lag.value = performance.now() - begun
  })
  watch([record, today], () => void work())

  /** Every document that is saved by itself. */
  const saving = computed<Autosave<unknown>[]>(() => [
    ...(parts.value?.all() ?? []).map(([, save]) => save),
    ...(baseline.value?.all() ?? []).map(([, save]) => save as Autosave<unknown>),
  ])
  /** What waits of this candidate. */
  const waiting = computed(() => outbox().entries.value.filter((entry) => isAbout(entry, id())))
  /** Waits until everything is stored: plans are made from what is stored, so the last changes go first. */
  async function whenSaved(): Promise<void> {
    const settled = () => !waiting.value.length && saving.value.every(({ state }) => state.status === 'saved')
    for (let waited = 0; !settled() && waited < longestSettling; waited += settlingStep)
      await new Promise((resolve) => setTimeout(resolve, settlingStep))
    if (!settled())
      throw new Error('Not everything is saved yet; the plan waits for that. Try again in a moment.')
  }

  /** What a preview that is asked for now rests on: it goes with its acceptance. */
  function basisNow(): Basis {
    const { date, minute } = now.value
    const sat = [...(baseline.value?.saves.values() ?? [])].map(({ state }) => ({
      id: state.document.id,
      version: state.version,
    }))
    const all = Object.entries(saves.value ?? {}).map(([part, { state }]) => [part, state])
    const versions = versionsOf({
      parts: Object.fromEntries(all),
      plan: plan.value,
      attempts: [...sat.filter(({ version }) => version), ...attempts.value],
    })
    return { date, minute, versions }
  }

  async function take({ plan: changed, availability }: ChangedPlan): Promise<void> {
    const sittingBefore = plan.value?.sitting
    await opened.takePlan(changed)
    if (availability)
      saves.value?.availability.rebase(availability.version, (document) => {
        document.daysOff = (availability.document as { daysOff: string[] }).daysOff
      })
    // What was lived under the other plan is history now.
    if (sittingBefore && sittingBefore !== changed.sitting) await opened.reload()
  }

  return {
    candidate: stored,
    keptAt: opened.keptAt,
    saves,
    saving,
    waiting,
    baseline,
    plan,
    attempts,
    overview,
    failed,
    from,
    record,
    ask: asked,
    now,
    today,
    lag,
    exam: computed(() => stored.value?.exam),
    name: computed(() => saves.value?.candidate.state.document.name ?? ''),
    sitting: computed(() => record.value && sittingOf(record.value, today.value)),
    titleOf,
    whyOf: (of: PlanSession | Unplaced) => words.value?.why(of) ?? '',
    words,
    open: (answer: Parameters<typeof opened.open>[0]): void => {
      opened.open(answer)
      from.value = today.value
    },
    close,
    load,
    reload: opened.reload,
    whenSaved,
    basisNow,
    ...planChanges({ candidateId: id, plan: () => plan.value, take }),
    ...reports(outbox, id, titleOf),
    /** Looks at the clock again; screens that show the time call it. */
    look: () => void tick.value++,
  }
})
