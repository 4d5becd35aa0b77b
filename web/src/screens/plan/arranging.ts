import { computed, ref, shallowRef } from 'vue'
import type { Move, StoredSession, Unplaced } from '@climber/contract'
import { type Board, boardOf, dateOf, dayNumber, minuteOf, type Spot, timeOf } from '@climber/core'
import type { ApiFailure } from '../../api'
import { useWorkspace } from '../../stores/workspace'
import type { Clash } from '../../widgets/Conflict.vue'
import { plain } from '../../workers/core'

/** Minutes that a dragged piece snaps to. */
export const snap = 5

/**
 * Moving sessions by hand, by pointer or by keys: the piece that is held, the spot it would go to, and the rule that
 * stands against it there, asked of the core at every step. Nothing is stored before it is put down.
 */
export function useArranging() {
  const workspace = useWorkspace()
  const held = shallowRef<StoredSession | Unplaced>()
  const spot = ref<Spot>()
  const refusal = ref<string>()
  const problem = ref('')
  const clash = shallowRef<Clash>()
  const said = ref('')
  const busy = ref(false)
  let board: Board | undefined

  function lift(piece: StoredSession | Unplaced): void {
    const record = workspace.record
    if (!record?.plan) return
    problem.value = ''
    said.value = ''
    board = boardOf({ ...record, plan: record.plan }, workspace.now)
    held.value = plain(piece)
    refusal.value = undefined
    spot.value =
      'date' in piece && piece.status === 'planned'
        ? { date: piece.date, start: piece.start, minutes: piece.minutes }
        : undefined
  }
  function over(next: Spot): void {
    if (!held.value || !board) return
    spot.value = next
    refusal.value = board.refusal(held.value, next)
  }
  function letGo(): void {
    held.value = undefined
    spot.value = undefined
    refusal.value = undefined
    board = undefined
  }
  const moved = computed(() => {
    const [piece, to] = [held.value, spot.value]
    if (!piece || !to) return false
    return !(
      'date' in piece &&
      piece.status === 'planned' &&
      piece.date === to.date &&
      piece.start === to.start &&
      piece.minutes === to.minutes
    )
  })

  async function run(work: () => Promise<void>, done: string): Promise<void> {
    busy.value = true
    problem.value = ''
    said.value = ''
    clash.value = undefined
    try {
      await work()
      said.value = done
    } catch (error) {
      const failure = error as ApiFailure
      if (failure.code === 'conflict')
        clash.value = {
          message: failure.message,
          theirs: workspace.reload,
          mine: async () => {
            await workspace.reload()
            await work()
            said.value = done
          },
        }
      else problem.value = failure.failure?.issues?.[0]?.message ?? failure.message
    }
    busy.value = false
  }
  const arrange = (moves: Move[], done: string) => run(() => workspace.arrangePlan(moves), done)

  /** Puts the piece down where it is held; a refused spot changes nothing and stays explained. */
  async function putDown(): Promise<void> {
    const [piece, to] = [held.value, spot.value]
    const against = refusal.value
    const changed = moved.value
    letGo()
    if (!piece || !to || !changed) return
    if (against) {
      problem.value = against
      return
    }
    await arrange([{ id: piece.id, ...to }], `${workspace.titleOf(piece)}: ${to.date}, ${to.start}.`)
  }
  /** Steps of a held piece by keys: minutes along the ruler, days down, minutes longer. */
  function step(minutes: number, days: number, longer = 0): void {
    const to = spot.value
    if (!to) return
    const start = Math.min(1440 - to.minutes, Math.max(0, minuteOf(to.start) + minutes))
    over({
      date: dateOf(dayNumber(to.date) + days),
      start: timeOf(start),
      minutes: Math.max(snap, to.minutes + longer),
    })
  }
  /** The nearest allowed place for a piece of the tray. */
  async function placeNearest(piece: StoredSession | Unplaced): Promise<void> {
    lift(piece)
    const from = 'date' in piece && piece.date >= workspace.today ? piece.date : workspace.today
    const start = 'start' in piece ? piece.start : (workspace.sitting?.start ?? '09:00')
    const found = board?.nearest(piece, { date: from, start, minutes: piece.minutes }, 60)
    letGo()
    if (!found) {
      problem.value = `There is no free place of ${piece.minutes} minutes for it before the exam.`
      return
    }
    await arrange(
      [{ id: piece.id, ...found, pinned: false }],
      `${workspace.titleOf(piece)}: ${found.date}, ${found.start}.`,
    )
  }

  return {
    held,
    spot,
    refusal,
    moved,
    problem,
    clash,
    said,
    busy,
    lift,
    over,
    letGo,
    putDown,
    step,
    arrange,
    run,
    placeNearest,
  }
}
export type Arranging = ReturnType<typeof useArranging>
