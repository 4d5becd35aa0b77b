import { ref, shallowRef } from 'vue'
import type { Move } from '@climber/contract'
import type { ApiFailure } from '../../api'
import { useWorkspace } from '../../stores/workspace'
import type { Clash } from '../../widgets/Conflict.vue'
import { type Piece, useHolding } from './holding'

/** A change of the plan under way: whether it is, what came of it, and what to choose between where somebody else was first. */
function useChanging() {
  const workspace = useWorkspace()
  const problem = ref('')
  const clash = shallowRef<Clash>()
  const said = ref('')
  const busy = ref(false)

  function quiet(): void {
    problem.value = ''
    said.value = ''
  }
  async function run(work: () => Promise<void>, done: string): Promise<void> {
    busy.value = true
    quiet()
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
  return { problem, clash, said, busy, quiet, run }
}

/** Moving sessions by hand, by pointer or by keys. Nothing is stored before a piece is put down. */
export function useArranging() {
  const workspace = useWorkspace()
  const holding = useHolding()
  const { quiet, ...changing } = useChanging()
  const { problem } = changing
  const arrange = (moves: Move[], done: string) => changing.run(() => workspace.arrangePlan(moves), done)

  function lift(piece: Piece): void {
    quiet()
    holding.lift(piece)
  }
  /** Puts the piece down where it is held; a refused spot changes nothing and stays explained. */
  async function putDown(): Promise<void> {
    const [piece, to] = [holding.held.value, holding.spot.value]
    const against = holding.refusal.value
    const changed = holding.moved.value
    holding.letGo()
    if (!piece || !to || !changed) return
    if (against) problem.value = against
    else await arrange([{ id: piece.id, ...to }], `${workspace.titleOf(piece)}: ${to.date}, ${to.start}.`)
  }
  /** The nearest allowed place for a piece of the tray. */
  async function placeNearest(piece: Piece): Promise<void> {
    quiet()
    const found = holding.nearest(piece)
    if (!found) problem.value = `There is no free place of ${piece.minutes} minutes for it before the exam.`
    else
      await arrange(
        [{ id: piece.id, ...found, pinned: false }],
        `${workspace.titleOf(piece)}: ${found.date}, ${found.start}.`,
      )
  }

  return { ...holding, ...changing, lift, putDown, arrange, placeNearest }
}
export type Arranging = ReturnType<typeof useArranging>
