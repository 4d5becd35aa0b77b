import { square } from '../exact/functions'

/** A middle, and the ends of what holds 8 in 10. */
export interface Estimate {
  mean: number
  sd: number
  low: number
  high: number
}

/** The value below which a share of the weight lies; between two neighbours where the share falls between their middles. */
export function quantile(
  values: Float64Array,
  weights: Float64Array,
  share: number,
  order = orderOf(values),
): number {
  let all = 0
  for (const weight of weights) all += weight
  let below = 0
  let [before, beforeAt] = [values[order[0]!]!, 0]
  for (const one of order) {
    const middle = (below + weights[one]! / 2) / all
    if (middle >= share) {
      const value = values[one]!
      return middle > beforeAt
        ? before + ((value - before) * (share - beforeAt)) / (middle - beforeAt)
        : value
    }
    ;[before, beforeAt] = [values[one]!, middle]
    below += weights[one]!
  }
  return before
}

const orderOf = (values: Float64Array): Uint32Array =>
  Uint32Array.from(values, (_, at) => at).sort((a, b) => values[a]! - values[b]!)

/** Mean, standard deviation and the tenths of one number a possible candidate, each as heavy as it weighs. */
export function estimateOf(values: Float64Array, weights: Float64Array): Estimate {
  const size = values.length
  let [mean, second] = [0, 0]
  for (let one = 0; one < size; one++) mean += (weights[one]! * values[one]!) / size
  for (let one = 0; one < size; one++) second += (weights[one]! * square(values[one]! - mean)) / size
  const order = orderOf(values)
  return {
    mean,
    sd: Math.sqrt(second),
    low: quantile(values, weights, 0.1, order),
    high: quantile(values, weights, 0.9, order),
  }
}

/** The mean alone. */
export function weightedMean(values: Float64Array, weights: Float64Array): number {
  let mean = 0
  for (let one = 0; one < values.length; one++) mean += weights[one]! * values[one]!
  return mean / values.length
}
