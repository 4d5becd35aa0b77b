import { computed, ref, shallowRef } from 'vue'
import type { StoredSession, Unplaced } from '@climber/contract'
import { type Board, boardOf, dateOf, dayNumber, minuteOf, type Spot, timeOf } from '@climber/core'
import { useWorkspace } from '../../stores/workspace'
import { plain } from '../../workers/core'

/** Minutes that a dragged piece snaps to. */
export const snap = 5
/** How far a free place is looked for, days. */
const farthest = 60

export type Piece = StoredSession | Unplaced

/** Where a piece stands in the plan; nowhere while it waits in the tray. */
const placeOf = (piece: Piece): Spot | undefined =>
  'date' in piece && piece.status === 'planned'
    ? { date: piece.date, start: piece.start, minutes: piece.minutes }
    : undefined
const same = (a: Spot | undefined, b: Spot): boolean =>
  a !== undefined && a.date === b.date && a.start === b.start && a.minutes === b.minutes

/** A piece held over the plan: the spot it would go to, and the rule that stands against it there, asked of the core at each step. */
export function useHolding() {
  const workspace = useWorkspace()
  const held = shallowRef<Piece>()
  const spot = ref<Spot>()
  const refusal = ref<string>()
  let board: Board | undefined

  function lift(piece: Piece): void {
    const record = workspace.record
    if (!record?.plan) return
    board = boardOf({ ...record, plan: record.plan }, workspace.now)
    held.value = plain(piece)
    refusal.value = undefined
    spot.value = placeOf(piece)
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
    return piece !== undefined && to !== undefined && !same(placeOf(piece), to)
  })
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
  /** The nearest allowed place for a piece, from where it stands or from today on. */
  function nearest(piece: Piece): Spot | undefined {
    lift(piece)
    const date = 'date' in piece && piece.date >= workspace.today ? piece.date : workspace.today
    const start = 'start' in piece ? piece.start : (workspace.sitting?.start ?? '09:00')
    const found = board?.nearest(piece, { date, start, minutes: piece.minutes }, farthest)
    letGo()
    return found
  }

  return { held, spot, refusal, moved, lift, over, letGo, step, nearest }
}
