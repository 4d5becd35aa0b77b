import { computed, ref, shallowRef } from 'vue'
import type { RoomSetup, StoredAttempt } from '@climber/contract'
import { dropSat, keepSat } from './attending'
import { useWorkspace } from './workspace'

/** What was deleted last, wherever one went since. */
const last = shallowRef<{
  candidateId: string
  attempt: StoredAttempt
  /** Where it was sat here: its room. */
  room: Promise<RoomSetup | undefined>
}>()

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
      const room = dropSat(candidateId, id).catch(() => undefined)
      last.value = attempt && { candidateId, attempt, room }
    } catch (error) {
      problem.value = (error as Error).message
    }
  }
  async function back(): Promise<void> {
    if (!gone.value || !last.value) return
    const { candidateId, attempt, room } = last.value
    last.value = undefined
    const { version: _version, ...document } = attempt
    await workspace.saveAttempt(document, 0)
    const sat = await room
    if (sat) await keepSat(candidateId, sat)
  }
  return { gone, problem, remove, back }
}
