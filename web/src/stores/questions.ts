import { computed, type Ref, ref, shallowRef, watch } from 'vue'
import type { CandidateRecord, PlanSession, Unplaced } from '@climber/contract'
import {
  type Answered,
  type Asked,
  type Moment,
  type Overview,
  type QuestionName,
  wordsOf,
} from '@climber/core'
import { newestOnly } from '../manners/newest'
import { ask, askBeside } from '../workers/held'

/** What the core says of the open record, asked in the worker; the overview is asked again at each change and each day. */
export function questionsOf(record: Ref<CandidateRecord | undefined>, now: Ref<Moment>) {
  const today = computed(() => now.value.date)
  /** Asks the worker a question of the open record; undefined while none is open. */
  async function asked<N extends QuestionName>(name: N, ...rest: Asked<N>): Promise<Answered<N> | undefined> {
    return record.value && ask(record.value, name, now.value, ...rest)
  }
  /** The same beside everything else, for what makes plans to try them out. */
  async function askedBeside<N extends QuestionName>(
    name: N,
    ...rest: Asked<N>
  ): Promise<Answered<N> | undefined> {
    return record.value && askBeside(record.value, name, now.value, ...rest)
  }
  const words = computed(() => record.value && wordsOf(record.value, today.value))

  const overview = shallowRef<Overview>()
  /** Milliseconds from a change to the verdict it led to; docs/measurements.md quotes it. */
  const lag = ref(0)
  const work = newestOnly(async () => {
    const begun = performance.now()
    const found = await asked('overview')
    if (record.value && found) overview.value = found
    lag.value = performance.now() - begun
  })
  watch([record, today], () => void work())

  return {
    ask: asked,
    askBeside: askedBeside,
    words,
    titleOf: (of: PlanSession | Unplaced): string => words.value?.title(of) ?? '',
    labelsOf: (of: PlanSession | Unplaced): string[] => words.value?.labels(of) ?? [],
    whyOf: (of: PlanSession | Unplaced): string => words.value?.why(of) ?? '',
    overview,
    lag,
  }
}
