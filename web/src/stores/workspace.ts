import { defineStore } from 'pinia'
import { computed, ref, shallowRef, watch } from 'vue'
import {
  type Candidate,
  type ChangedPlan,
  issuesOf,
  type Move,
  type PartDocument,
  partIssues,
  type PartName,
  parts,
  type PlanChange,
  type PracticeTest,
  type StoredPlan,
  type StoredSession,
  type StoredTest,
} from '@climber/contract'
import { type Analysis, type CandidateRecord, sittingOf } from '@climber/core'
import { call } from '../api'
import { newestOnly } from '../manners/newest'
import { core, plain } from '../workers/core'
import { type Autosave, autosave, type Problem } from './autosave'
import { useSession } from './session'

type Parts = { [P in PartName]: Autosave<PartDocument<P>> }
/** Plans are made with one seed, so that what is previewed is what is stored. */
export const planSeed = 1
/** Milliseconds that a plan waits for the last changes to be stored, and between looks. */
const longestSettling = 8000
const settlingStep = 50
const partNames = Object.keys(parts) as PartName[]

/** The open candidate: its parts being edited, plan and tests, and what the core makes of them. */
export const useWorkspace = defineStore('workspace', () => {
  const session = useSession()
  const candidate = shallowRef<Candidate>()
  const saves = shallowRef<Parts>()
  const plan = shallowRef<StoredPlan | null>(null)
  const tests = shallowRef<StoredTest[]>([])
  const analysis = shallowRef<Analysis>()
  const failed = ref('')
  const tick = ref(0)
  /** First day of the weeks that Plan shows; the horizon's window. */
  const from = ref('')

  const zone = computed(() => saves.value?.availability.state.document.zone ?? 'Etc/UTC')
  const now = computed(() => {
    void tick.value
    return session.moment(zone.value)
  })
  const today = computed(() => now.value.date)

  /** The last document of each part that was valid: what the core works with while a field is being mended. */
  const valid: Partial<Record<PartName, unknown>> = {}

  function check<P extends PartName>(part: P, document: unknown): Problem[] {
    const parsed = parts[part].safeParse(document)
    if (!parsed.success) return issuesOf(parsed.error)
    const issues = partIssues(candidate.value!.exam, part, parsed.data, today.value)
    return issues.map(({ path, message }) => ({ field: path.join('.'), message }))
  }

  function wire<P extends PartName>(of: Candidate, part: P): Autosave<PartDocument<P>> {
    const stored = of.parts[part]
    const document = parts[part].parse(
      stored?.document ?? (part === 'candidate' ? { name: 'Candidate' } : {}),
    ) as PartDocument<P>
    valid[part] = plain(document)
    return autosave(document, stored?.version ?? 0, {
      key: `climber.draft.${of.id}.${part}`,
      check: (changed) => check(part, changed),
      save: (version, changed) =>
        call(
          'savePart',
          { candidateId: of.id, part },
          { version, document: changed as Record<string, unknown> },
        ),
      renew: session.refresh,
    })
  }

  function open(answer: Candidate): void {
    close()
    candidate.value = answer
    plan.value = answer.plan
    tests.value = answer.tests
    from.value = today.value
    saves.value = Object.fromEntries(partNames.map((part) => [part, wire(answer, part)])) as unknown as Parts
  }
  function close(): void {
    if (saves.value) for (const part of partNames) saves.value[part].stop()
    analysis.value = undefined
    candidate.value = undefined
    saves.value = undefined
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

  const record = computed<CandidateRecord | undefined>(() => {
    const of = candidate.value
    const all = saves.value
    if (!of || !all) return undefined
    for (const part of partNames) {
      const { document, problems } = all[part].state
      if (!problems.length) valid[part] = parts[part].parse(plain(document))
    }
    const part = <P extends PartName>(name: P) => valid[name] as PartDocument<P>
    return {
      exam: of.exam,
      availability: part('availability'),
      diagnosis: part('diagnosis'),
      target: part('target'),
      settings: part('settings'),
      pacing: part('pacing'),
      examDay: part('examDay'),
      materials: part('materials'),
      commitments: part('commitments'),
      drills: part('drills'),
      guessing: part('guessing'),
      tests: tests.value,
      plan: plan.value ?? undefined,
    }
  })

  /** Milliseconds from a change to the verdict it led to; docs/measurements.md quotes it. */
  const lag = ref(0)
  const work = newestOnly(async () => {
    if (!record.value) return
    const begun = performance.now()
    const found = await core().analyse(plain(record.value), plain(now.value))
    if (candidate.value) analysis.value = found
    lag.value = performance.now() - begun
  })
  watch([record, today], () => void work())

  /** Waits until every part is stored: plans are made from what is stored, so the last changes go first. */
  async function whenSaved(): Promise<void> {
    const settled = () => Object.values(saves.value!).every(({ state }) => state.status === 'saved')
    for (let waited = 0; !settled() && waited < longestSettling; waited += settlingStep)
      await new Promise((resolve) => setTimeout(resolve, settlingStep))
    if (!settled())
      throw new Error('Not everything is saved yet; the plan waits for that. Try again in a moment.')
  }

  /** Makes the plan anew from today and keeps it. */
  async function makePlan(): Promise<void> {
    const id = candidate.value!.id
    plan.value = await call(
      'makePlan',
      { candidateId: id },
      { version: plan.value?.version ?? 0, seed: planSeed },
    )
  }
  function take(changed: ChangedPlan): void {
    plan.value = changed.plan
    const { availability } = changed
    if (availability)
      saves.value?.availability.rebase(availability.version, (document) => {
        document.daysOff = (availability.document as { daysOff: string[] }).daysOff
      })
  }
  const planRoute = () => ({ candidateId: candidate.value!.id })
  const version = () => plan.value?.version ?? 0
  /** Moves sessions by hand. */
  const arrangePlan = async (moves: Move[]) =>
    take(await call('arrangePlan', planRoute(), { version: version(), moves }))
  /** Mends the plan or makes it anew, with days called off. */
  const replanNow = async (change: PlanChange, mode: 'mend' | 'anew') =>
    take(await call('replan', planRoute(), { version: version(), seed: planSeed, change, mode }))
  const undoPlan = async (redo: boolean) =>
    take(await call('undoPlan', planRoute(), { version: version(), redo }))

  async function saveSession(
    changed: StoredSession,
    change: Partial<Pick<StoredSession, 'status' | 'minutesDone' | 'startedAt' | 'feeling'>>,
  ): Promise<void> {
    const stored = await call(
      'saveSession',
      { candidateId: candidate.value!.id, sessionId: changed.id },
      {
        version: changed.version,
        status: changed.status,
        minutesDone: changed.minutesDone,
        startedAt: changed.startedAt,
        feeling: changed.feeling,
        ...change,
      },
    )
    const { value } = plan
    if (value)
      plan.value = { ...value, sessions: value.sessions.map((one) => (one.id === stored.id ? stored : one)) }
  }
  async function saveTest(test: PracticeTest, version: number): Promise<void> {
    const stored = await call(
      'saveTest',
      { candidateId: candidate.value!.id, testId: test.id },
      { version, test },
    )
    tests.value = [...tests.value.filter(({ id }) => id !== stored.id), stored].sort((a, b) =>
      a.date.localeCompare(b.date),
    )
  }
  async function deleteTest(id: string): Promise<void> {
    await call('deleteTest', { candidateId: candidate.value!.id, testId: id })
    tests.value = tests.value.filter((test) => test.id !== id)
  }

  return {
    candidate,
    saves,
    plan,
    tests,
    analysis,
    failed,
    from,
    record,
    now,
    today,
    lag,
    exam: computed(() => candidate.value?.exam),
    name: computed(() => saves.value?.candidate.state.document.name ?? ''),
    sitting: computed(() => record.value && sittingOf(record.value, today.value)),
    open,
    close,
    load,
    whenSaved,
    makePlan,
    arrangePlan,
    replanNow,
    undoPlan,
    saveSession,
    saveTest,
    deleteTest,
    /** Looks at the clock again; screens that show the time call it. */
    look: () => void tick.value++,
  }
})
