import { exp, ln } from '../exact/functions'
import { normalCdf } from '../exact/normal'

/**
 * How an item goes: it can be solved at all with probability `p`; if so, the time to solve it is lognormal with this
 * median (seconds) and `s`, the standard deviation of its logarithm.
 */
export interface Solving {
  p: number
  median: number
  s: number
}

const root2pi = Math.sqrt(2 * Math.PI)

/** Chance that an item which can be solved is solved by `t` seconds. */
export const solvedBy = ({ median, s }: Solving, t: number): number =>
  t <= 0 ? 0 : normalCdf(ln(t / median) / s)

/** Chance of solving in the next second when not solved by `t`: p f(t) / (1 - p F(t)). */
export function hazard(solving: Solving, t: number): number {
  if (t <= 0) return 0
  const { p, median, s } = solving
  const z = ln(t / median) / s
  return (p * exp((-z * z) / 2)) / (t * s * root2pi) / (1 - p * normalCdf(z))
}

/** Expected seconds spent on an item that is left after `t`: E[min(solving time, t)], in closed form. */
export function expectedSeconds(solving: Solving, t: number): number {
  if (t <= 0) return 0
  const { p, median, s } = solving
  const z = ln(t / median) / s
  const solvedMean = median * exp((s * s) / 2) * normalCdf(z - s)
  return t * (1 - p * normalCdf(z)) + p * solvedMean
}

/** Leave times are found to a millionth of a second. */
const leaveTolerance = 1e-6
const valueTolerance = 1e-13
/** Nobody stays longer on an item than this many medians. */
const longest = 40

/** The second at which the hazard is highest: it rises to one peak and falls from there on. */
export function hazardPeak(solving: Solving): number {
  // The hazard peaks between the mode of the lognormal and a multiple of its median; ternary search over ln t.
  let low = ln(solving.median) - 4 * solving.s
  let high = ln(solving.median) + 4 * solving.s
  for (let step = 0; step < 60; step++) {
    const a = low + (high - low) / 3
    const b = high - (high - low) / 3
    if (hazard(solving, exp(a)) < hazard(solving, exp(b))) low = a
    else high = b
  }
  return exp((low + high) / 2)
}

/**
 * When to leave an item: the second at which `worth` x hazard falls below `mu`, what a second brings elsewhere (marks); 0,
 * at once, where it never reaches it. `worth` is what solving adds to leaving: the marks, less what a guess or a blank
 * earns. Source: the marginal value theorem (Charnov 1976) and optimal search (Stone 1975); docs/models.md, 5.
 */
export function leaveTime(solving: Solving, worth: number, mu: number, peak = hazardPeak(solving)): number {
  if (mu <= 0) return longest * solving.median
  if (worth * hazard(solving, peak) < mu) return 0
  let low = peak
  let high = longest * solving.median
  let above = worth * hazard(solving, low) - mu
  let below = worth * hazard(solving, high) - mu
  if (below >= 0) return high
  // Regula falsi; the end that stays twice counts half (Dowell and Jarratt 1971, the Illinois rule).
  let stayed = 0
  while (high - low > leaveTolerance) {
    const t = (low * below - high * above) / (below - above)
    const value = worth * hazard(solving, t) - mu
    if (value >= 0) {
      if (stayed > 0) below /= 2
      ;[low, above, stayed] = [t, value, 1]
    } else {
      if (stayed < 0) above /= 2
      ;[high, below, stayed] = [t, value, -1]
    }
    if (Math.abs(value) < valueTolerance) return t
  }
  return low
}

/** What a start gains over leaving at once, in marks: worth x P(solved) - mu x (seconds spent - seconds saved). */
export function startValue(
  solving: Solving,
  worth: number,
  mu: number,
  cost: number,
  peak = hazardPeak(solving),
): number {
  const leave = leaveTime(solving, worth + mu * cost, mu, peak)
  if (leave <= 0) return -Infinity
  const solved = solving.p * solvedBy(solving, leave)
  return worth * solved - mu * (expectedSeconds(solving, leave) - cost * solved)
}

/**
 * The best marks a second that an item gives, over all leave times, leaving it costing `cost` seconds: the mu at which
 * starting it ceases to pay.
 */
export function bestRate(solving: Solving, worth: number, cost = 0, peak = hazardPeak(solving)): number {
  const highest = hazard(solving, peak)
  let low = 0
  // Leaving at once costs too: with `cost` the threshold worth x hz / (1 - cost x hz) is reached at a higher mu.
  let high = cost * highest < 0.9 ? (worth * highest) / (1 - cost * highest) : 10 * worth * highest
  for (let step = 0; step < 50; step++) {
    const mu = (low + high) / 2
    if (startValue(solving, worth, mu, cost, peak) > 0) low = mu
    else high = mu
  }
  return low
}
