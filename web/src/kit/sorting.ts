import { computed, type ComputedRef, reactive } from 'vue'

type Key = number | string | undefined

/** By which column a table is sorted, and which way; by none it stands as it was given. */
export interface SortState {
  by: string | undefined
  down: boolean
  press: (key: string) => void
}

/** What is unknown stands last, whichever way. */
function compare(a: Key, b: Key, down: boolean): number {
  if (a === undefined || b === undefined) return Number(a === undefined) - Number(b === undefined)
  const order = typeof a === 'number' && typeof b === 'number' ? a - b : String(a).localeCompare(String(b))
  return down ? -order : order
}

/** Rows that sort by a press on a head (SortHead.vue): figures from the largest, words from A; again the other way, then as given. */
export function sorted<T>(
  rows: () => readonly T[],
  keys: Readonly<Record<string, (row: T) => Key>>,
): { rows: ComputedRef<readonly T[]>; head: SortState } {
  const isFigure = (key: string) => rows().some((row) => typeof keys[key]?.(row) === 'number')
  const state: SortState = reactive<SortState>({ by: undefined, down: false, press })
  function press(key: string): void {
    const first = isFigure(key)
    if (state.by !== key) Object.assign(state, { by: key, down: first })
    else if (state.down === first) state.down = !first
    else state.by = undefined
  }
  return {
    rows: computed(() => {
      const of = state.by === undefined ? undefined : keys[state.by]
      return of ? [...rows()].sort((a, b) => compare(of(a), of(b), state.down)) : rows()
    }),
    head: state,
  }
}
