import { defineStore } from 'pinia'
import { computed, ref, shallowRef, watch } from 'vue'
import {
  type Attempt,
  type Basis,
  type Candidate,
  type CandidateRecord,
  type ChangedPlan,
  inOrder,
  type PlanSession,
  type SessionReport,
  type StoredAttempt,
  type StoredPlan,
  type StoredSession,
  type Unplaced,
  versionsOf,
} from '@climber/contract'
import {
  type Answered,
  type Asked,
  byTime,
  type Moment,
  type Overview,
  type QuestionName,
  sittingOf,
  wordsOf,
} from '@climber/core'
import { call } from '../api'
import { newestOnly } from '../manners/newest'
import { ask } from '../workers/held'
import type { Autosave } from './autosave'
import { loggedOf, OpenBaseline } from './baseline'
import { OpenParts } from './parts'
import { planChanges } from './planChanges'
import { useSession } from './session'

/** Milliseconds that a plan waits for the last changes to be stored, and between looks. */
const longestSettling = 8000
const settlingStep = 50

/** The open candidate: its parts being edited, plan and attempts, and what the core makes of them. */
export const useWorkspace = defineStore('workspace', () => {
  const session = useSession()
  const candidate = shallowRef<Candidate>()
  const parts = shallowRef<OpenParts>()
  const baseline = shallowRef<OpenBaseline>()
  const plan = shallowRef<StoredPlan | null>(null)
  /** What was sat besides the baseline. */
  const attempts = shallowRef<StoredAttempt[]>([])
  const overview = shallowRef<Overview>()
  const failed = ref('')
  const tick = ref(0)
  /** First day of the weeks that Plan shows; the horizon's window. */
  const from = ref('')

  const saves = computed(() => parts.value?.saves)
  const zone = computed(() => saves.value?.availability.state.document.zone ?? 'Etc/UTC')
  const now = computed(() => {
    void tick.value
    return session.moment(zone.value)
  })
  const today = computed(() => now.value.date)

  /** Everything that is being saved by itself, by what it is called. */
  const saving = computed<[string, Autosave<unknown>][]>(() => [
    ...(parts.value?.all() ?? []),
    ...(baseline.value?.all() ?? []).map(([, save]): [string, Autosave<unknown>] => [
      'baseline',
      save as Autosave<unknown>,
    ]),
  ])

  function open(answer: Candidate): void {
    close()
    candidate.value = answer
    plan.value = answer.plan
    attempts.value = loggedOf(answer.attempts)
    from.value = today.value
    parts.value = new OpenParts(answer, () => today.value, session.refresh)
    baseline.value = new OpenBaseline(
      answer,
      () => today.value,
      session.refresh,
      ({ sessions }) => takeSessions(sessions),
    )
  }
  function close(): void {
    for (const [, save] of saving.value) save.stop()
    overview.value = undefined
    candidate.value = undefined
    parts.value = undefined
    baseline.value = undefined
  }
  async function load(id: string): Promise<void> {
    if (candidate.value?.id === id) return
    failed.value = ''
    close()
    try {
      open(await call('readCandidate', { candidateId: id }))
    } catch (error) {
      failed.value = (error as Error).message
    }
  }

  const sat = computed(() => inOrder([...(baseline.value?.attempts() ?? []), ...attempts.value]))
  const record = computed<CandidateRecord | undefined>(() => {
    const of = candidate.value
    if (!of || !parts.value || !baseline.value) return undefined
    return {
      ...parts.value.documents(),
      exam: of.exam,
      attempts: sat.value,
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

  /** Milliseconds from a change to the verdict it led to; docs/measurements.md quotes it. */
  const lag = ref(0)
  const work = newestOnly(async () => {
    const begun = performance.now()
    const found = await asked('overview')
    if (candidate.value && found) overview.value = found
    lag.value = performance.now() - begun
  })
  watch([record, today], () => void work())

  /** Waits until everything is stored: plans are made from what is stored, so the last changes go first. */
  async function whenSaved(): Promise<void> {
    const settled = () => saving.value.every(([, { state }]) => state.status === 'saved')
    for (let waited = 0; !settled() && waited < longestSettling; waited += settlingStep)
      await new Promise((resolve) => setTimeout(resolve, settlingStep))
    if (!settled())
      throw new Error('Not everything is saved yet; the plan waits for that. Try again in a moment.')
  }

  /** What a preview that is asked for now rests on: it goes with its acceptance. */
  function basisNow(): Basis {
    const at: Moment = now.value
    const saved = [...(baseline.value?.saves.values() ?? [])].flatMap(({ state }) =>
      state.version ? [{ id: state.document.id, version: state.version }] : [],
    )
    const all = Object.entries(saves.value ?? {}).map(([part, { state }]) => [
      part,
      { version: state.version },
    ])
    return {
      date: at.date,
      minute: at.minute,
      versions: versionsOf({
        parts: Object.fromEntries(all),
        plan: plan.value,
        attempts: [...saved, ...attempts.value],
      }),
    }
  }

  /** The same candidate as the server has it now; what is being typed stays. */
  async function reload(): Promise<void> {
    const answer = await call('readCandidate', { candidateId: candidate.value!.id })
    candidate.value = answer
    plan.value = answer.plan
    attempts.value = loggedOf(answer.attempts)
  }

  async function take(changed: ChangedPlan): Promise<void> {
    const sittingBefore = plan.value?.sitting
    plan.value = changed.plan
    const { availability } = changed
    if (availability)
      saves.value?.availability.rebase(availability.version, (document) => {
        document.daysOff = (availability.document as { daysOff: string[] }).daysOff
      })
    // What was lived under the other plan is history now.
    if (sittingBefore && sittingBefore !== changed.plan.sitting) await reload()
  }
  const changes = planChanges({
    candidateId: () => candidate.value!.id,
    plan: () => plan.value,
    take,
  })

  function takeSessions(stored: StoredSession[]): void {
    const { value } = plan
    if (!value || !stored.length) return
    const changed = new Map(stored.map((one) => [one.id, one]))
    plan.value = {
      ...value,
      sessions: value.sessions.map((one) => changed.get(one.id) ?? one).sort(byTime),
    }
  }
  async function saveSession(changed: StoredSession, change: Partial<SessionReport>): Promise<void> {
    const { version, status, minutesDone, startedAt, feeling } = changed
    const stored = await call(
      'saveSession',
      { candidateId: candidate.value!.id, sessionId: changed.id },
      { version, status, minutesDone, startedAt, feeling, ...change },
    )
    takeSessions([stored])
  }

  /** Keeps something that was sat; the planned test that it was is done with it. */
  async function saveAttempt(attempt: Attempt, version: number): Promise<void> {
    const saved = await call(
      'saveAttempt',
      { candidateId: candidate.value!.id, attemptId: attempt.id },
      { version, attempt },
    )
    takeAttempts([...attempts.value.filter(({ id }) => id !== saved.attempt.id), saved.attempt])
    takeSessions(saved.sessions)
  }
  async function deleteAttempt(id: string): Promise<void> {
    const { sessions } = await call('deleteAttempt', {
      candidateId: candidate.value!.id,
      attemptId: id,
    })
    takeAttempts(attempts.value.filter((attempt) => attempt.id !== id))
    takeSessions(sessions)
  }
  const takeAttempts = (list: StoredAttempt[]) => void (attempts.value = inOrder(list))

  return {
    candidate,
    saves,
    saving,
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
    exam: computed(() => candidate.value?.exam),
    name: computed(() => saves.value?.candidate.state.document.name ?? ''),
    sitting: computed(() => record.value && sittingOf(record.value, today.value)),
    titleOf: (of: PlanSession | Unplaced) => words.value?.title(of) ?? '',
    whyOf: (of: PlanSession | Unplaced) => words.value?.why(of) ?? '',
    words,
    open,
    close,
    load,
    reload,
    whenSaved,
    basisNow,
    ...changes,
    takeSessions,
    saveSession,
    saveAttempt,
    deleteAttempt,
    /** Looks at the clock again; screens that show the time call it. */
    look: () => void tick.value++,
  }
})
