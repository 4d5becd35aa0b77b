import { defineStore } from 'pinia'
import { computed, ref } from 'vue'
import type { Candidate, ChangedPlan } from '@climber/contract'
import { sittingOf } from '@climber/core'
import { outbox } from '../outbox/here'
import { openedCandidate, recordOf } from './opened'
import { planChanges } from './planChanges'
import { questionsOf } from './questions'
import { reports } from './reports'
import { savingOf } from './saving'
import { useSession } from './session'

/** The open candidate: its parts being edited, plan and attempts, and what the core makes of them. */
export const useWorkspace = defineStore('workspace', () => {
  const session = useSession()
  const opened = openedCandidate(() => today.value)
  const { stored, parts, baseline, plan, attempts, review } = opened
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
  const record = recordOf(opened)
  const questions = questionsOf(record, now)
  const sitting = computed(() => record.value && sittingOf(record.value, today.value))

  function open(answer: Candidate): void {
    opened.open(answer)
    from.value = today.value
  }
  function close(): void {
    questions.overview.value = undefined
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
    baseline,
    plan,
    attempts,
    review,
    failed,
    from,
    record,
    now,
    today,
    exam: computed(() => stored.value?.exam),
    name: computed(() => saves.value?.candidate.state.document.name ?? ''),
    sitting,
    /** The exam was sat on a day before today. */
    isOver: computed(() => sitting.value !== undefined && sitting.value.date < today.value),
    open,
    close,
    load,
    reload: opened.reload,
    ...questions,
    ...savingOf(opened, () => now.value),
    ...planChanges({ candidateId: id, plan: () => plan.value, take }),
    ...reports(outbox, id, questions.titleOf),
    /** Looks at the clock again; screens that show the time call it. */
    look: () => void tick.value++,
  }
})
