import { exp, ln } from '../exact/functions'
/** Counts that bear on knowledge: right, wrong, and blanks that were reached and passed over. */
export interface Evidence {
  right: number
  wrong: number
  skipped: number
}

/** Evidence from items with so many options each; infinite where guessing does not help. */
export interface Observed extends Evidence {
  choices: number
}

export interface Estimate {
  mean: number
  sd: number
  /** The 10th and 90th hundredths of the posterior. */
  low: number
  high: number
}

const cells = 400
const knownAt = (cell: number): number => (cell + 0.5) / cells
const grid = (of: (k: number) => number): Float64Array =>
  Float64Array.from({ length: cells }, (_, cell) => of(knownAt(cell)))

// The logarithms that every posterior needs, on the grid.
const lnKnown = grid(ln)
const lnUnknown = grid((k) => ln(1 - k))
const lnRightByChoices = new Map<number, Float64Array>()
function lnRight(choices: number): Float64Array {
  let logs = lnRightByChoices.get(choices)
  if (!logs) {
    logs = grid((k) => ln(k + (1 - k) / choices))
    lnRightByChoices.set(choices, logs)
  }
  return logs
}

/** Strength of the prior, in items. */
export const priorStrength = 4

/** Posterior of k from evidence of one kind of item. */
export const posterior = (priorMean: number, evidence: Evidence, choices: number): Estimate =>
  posteriorOf(priorMean, [{ ...evidence, choices }])

/**
 * Posterior of k, the share of a topic's questions really known, on a grid of 400 cells: Beta prior with mean
 * `priorMean` and strength 4 items x the likelihood of the answers. P(right | answered) = k + (1-k)/choices; a skipped
 * item was not known. Counts may be fractions: an old test counts for less, a written answer may be half right.
 */
export function posteriorOf(priorMean: number, observed: Observed[], strength = priorStrength): Estimate {
  const mean = Math.min(0.999, Math.max(0.001, priorMean))
  const a = mean * strength - 1
  const b = (1 - mean) * strength - 1
  // A wrong answer was not known and guessed wrong: (1-k)(1 - 1/choices), whose second factor is the same everywhere.
  const missed = observed.reduce((sum, { wrong, skipped }) => sum + wrong + skipped, 0)
  const logs = new Float64Array(cells)
  for (let cell = 0; cell < cells; cell++) logs[cell] = a * lnKnown[cell]! + (b + missed) * lnUnknown[cell]!
  for (const { right, choices } of observed) {
    if (!right) continue
    const logRight = lnRight(choices)
    for (let cell = 0; cell < cells; cell++) logs[cell]! += right * logRight[cell]!
  }
  let peak = -Infinity
  for (const log of logs) if (log > peak) peak = log
  let total = 0
  let first = 0
  let second = 0
  for (let cell = 0; cell < cells; cell++) {
    const k = knownAt(cell)
    const weight = exp(logs[cell]! - peak)
    logs[cell] = weight
    total += weight
    first += weight * k
    second += weight * k * k
  }
  const quantile = (share: number): number => {
    let below = 0
    for (let cell = 0; cell < cells; cell++) {
      const weight = logs[cell]! / total
      if (below + weight >= share) return (cell + (share - below) / weight) / cells
      below += weight
    }
    return 1
  }
  const centre = first / total
  return {
    mean: centre,
    sd: Math.sqrt(Math.max(0, second / total - centre * centre)),
    low: quantile(0.1),
    high: quantile(0.9),
  }
}
