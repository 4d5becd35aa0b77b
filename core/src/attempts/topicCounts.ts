import type { Counts, ItemResponse } from '@climber/contract'
import { judge } from './responses'

/** Counts by topic of items that have numbers of their own: a set, a retest. Items without a topic are left out. */
export function topicCounts(items: readonly ItemResponse[]): Record<string, Counts> {
  const found: Record<string, Counts> = {}
  for (const response of items) {
    if (response.topic === undefined) continue
    const own = (found[response.topic] ??= { right: 0, wrong: 0, blank: 0, notReached: 0 })
    const judged = judge({ kind: 'choice', perRight: 1 }, response)
    if (typeof judged !== 'number') own[judged] += 1
  }
  return found
}
