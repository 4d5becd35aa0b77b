import type { ReviewItem } from './item'

/**
 * Items in the order in which reviewing them pays: those first whose topic is worth most points an hour, what was missed before what
 * was not; items of one set, or on one stimulus, stay together and come when the best of them does.
 */
export function inPayingOrder<I extends ReviewItem>(items: readonly I[]): I[] {
  const sets = new Map<string, I[]>()
  for (const item of items) {
    const key = `${item.attempt} ${item.set ?? item.item}`
    sets.set(key, [...(sets.get(key) ?? []), item])
  }
  const missed = (own: readonly I[]) => own.some(({ lost }) => lost > 0)
  const best = (own: readonly I[]) =>
    Math.max(...own.filter(({ lost }) => lost > 0 || !missed(own)).map((item) => item.yield))
  return [...sets.values()]
    .map((own) => [...own].sort((a, b) => a.item - b.item))
    .sort(
      (a, b) =>
        Number(missed(b)) - Number(missed(a)) || best(b) - best(a) || (a[0]?.item ?? 0) - (b[0]?.item ?? 0),
    )
    .flat()
}
