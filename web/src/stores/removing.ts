import { computed, ref, shallowRef } from 'vue'
import type { StoredAttempt } from '@climber/contract'
import { useWorkspace } from './workspace'

/** What was deleted last, wherever one went since. */
const last = shallowRef<{ candidateId: string; attempt: StoredAttempt }>()

/** Deletes something that was sat, and puts it back where that was a slip. */
export function useRemoving() {
  const workspace = useWorkspace()
  const problem = ref('')
  const gone = computed(() =>
    last.value && last.value.candidateId === workspace.candidate?.id ? last.value.attempt : undefined,
  )
  async function remove(id: string): Promise<void> {
    problem.value = ''
    const candidateId = workspace.candidate!.id
    const attempt = workspace.attempts.find((one) => one.id === id)
    try {
      await workspace.deleteAttempt(id)
      last.value = attempt && { candidateId, attempt }
    } catch (error) {
      problem.value = (error as Error).message
    }
  }
  async function back(): Promise<void> {
    const { value: attempt } = gone
    if (!attempt) return
    last.value = undefined
    const { version: _version, ...document } = attempt
    await workspace.saveAttempt(document, 0)
  }
  return { gone, problem, remove, back }
}
