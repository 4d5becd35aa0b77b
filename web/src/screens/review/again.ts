import { computed, onMounted, reactive, ref, type Ref, shallowRef } from 'vue'
import type { Attempt, Confidence, ItemResponse } from '@climber/contract'
import { type MissedItem, timeOf, topicCounts } from '@climber/core'
import { useWorkspace } from '../../stores/workspace'
import { plain } from '../../workers/core'

/** An item as it was tried again. */
export interface Tried {
  answer: string
  right: boolean
  confidence?: Confidence
  seconds: number
}

/** What a retest is of. */
export interface Retest {
  of?: string
  session?: string
  topic?: string
}

const responseOf = ([place, tried]: [number, Tried], { id, key, topic }: MissedItem): ItemResponse => ({
  item: place + 1,
  order: place + 1,
  ...(id !== undefined && { id }),
  answer: tried.answer,
  ...(key ? { key } : { right: tried.right }),
  ...(topic !== undefined && { topic }),
  ...(tried.confidence && { confidence: tried.confidence }),
  seconds: tried.seconds,
})

/** A retest as an attempt of its own. */
function retestOf(
  id: string,
  began: { date: string; minute: number },
  { of, session, topic }: Retest,
  items: readonly MissedItem[],
  tried: ReadonlyMap<number, Tried>,
): Attempt {
  const seconds = [...tried.values()].reduce((sum, one) => sum + one.seconds, 0)
  const responses = [...tried].map((one) => responseOf(one, items[one[0]]!))
  return {
    id,
    kind: 'retest',
    date: began.date,
    start: timeOf(began.minute),
    minutes: Math.max(1, Math.round(seconds / 60)),
    ...(of !== undefined && { of }),
    ...(session !== undefined && { session }),
    ...(topic !== undefined && { scope: { topics: [topic] } }),
    seen: true,
    conditions: { untimed: true },
    counts: { groups: {}, topics: topicCounts(responses) },
    items: responses,
  }
}

/** Missed items tried again, one after the other; each answer is kept as it is given. */
export function useAgain(items: Ref<readonly MissedItem[]>, of: () => Retest) {
  const workspace = useWorkspace()
  const id = crypto.randomUUID()
  const began = workspace.now
  const at = ref(0)
  const tried = reactive(new Map<number, Tried>())
  const item = computed(() => items.value[at.value])
  const own = computed(() => tried.get(at.value))

  function took(one: Tried): void {
    tried.set(at.value, one)
    const version = workspace.attempts.find((attempt) => attempt.id === id)?.version ?? 0
    void workspace.saveAttempt(plain(retestOf(id, began, of(), items.value, tried)), version)
  }
  return { id, at, item, own, tried, took, on: (): void => void at.value++ }
}

/** What was answered when one began: what is tried meanwhile leaves the list of what is due, and not this. */
export function useFixed<T>(ask: () => Promise<T | undefined>): Ref<T | undefined> {
  const found = shallowRef<T>()
  onMounted(async () => (found.value = await ask()))
  return found
}
