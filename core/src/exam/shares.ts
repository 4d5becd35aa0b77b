/** Shares are made to sum in tenths of a per cent. */
export const shareStep = 0.001

/**
 * Shares scaled to add up to exactly 1: each keeps its proportion, is cut to `step`, and the steps left over go to the
 * largest remainders, the earlier first (Hamilton's method). None falls below one step. Empty and all-zero lists are
 * shared out evenly.
 */
export function makeSum(shares: number[], step = shareStep): number[] {
  if (!shares.length) return []
  const total = shares.reduce((a, b) => a + b, 0)
  const steps = Math.round(1 / step)
  const wished = shares.map((share) => (total > 0 ? share / total : 1 / shares.length) * steps)
  const whole = wished.map((wish) => Math.max(1, Math.floor(wish + 1e-9)))
  let left = steps - whole.reduce((a, b) => a + b, 0)
  const order = wished
    .map((wish, at) => ({ at, rest: wish - whole[at]! }))
    .sort((a, b) => b.rest - a.rest || a.at - b.at)
  for (let turn = 0; left > 0; turn++, left--) whole[order[turn % order.length]!.at]! += 1
  for (let turn = order.length - 1; left < 0; turn = (turn + order.length - 1) % order.length) {
    const { at } = order[turn]!
    if (whole[at]! <= 1) continue
    whole[at]! -= 1
    left += 1
  }
  return whole.map((count) => Number((count / steps).toFixed(6)))
}
