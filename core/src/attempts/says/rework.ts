import type { ReadItem } from './item'

/** Items of a test beside the same items reworked without a clock. */
export interface Reworked {
  /** Right both times: known. */
  known: number[]
  /** Wrong both times: content. */
  content: number[]
  /** Right only without a clock: pressure. */
  pressure: number[]
  /** Right only against the clock: luck. */
  luck: number[]
}

/** Timed against untimed, for the items that were reworked; `untimed` says by item number whether it came out right. */
export function reworked(items: readonly ReadItem[], untimed: ReadonlyMap<number, boolean>): Reworked {
  const found: Reworked = { known: [], content: [], pressure: [], luck: [] }
  for (const { item, outcome } of items) {
    const again = untimed.get(item)
    if (again === undefined) continue
    const then = outcome === 'right'
    const kind = then ? (again ? 'known' : 'luck') : again ? 'pressure' : 'content'
    found[kind].push(item)
  }
  return found
}
