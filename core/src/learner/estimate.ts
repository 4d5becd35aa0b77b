import { square } from '../exact/functions'

/** A middle, and the ends of what holds 8 in 10. */
export interface Estimate {
  mean: number
  sd: number
  low: number
  high: number
}

/**
 * The value below which a share of the weight lies: values that are alike stand for their middle, and between two of them it is taken on
 * the line. `sorted` holds the values in rising order. Found by halving: some sums take less time than an order by comparing.
 */
export function quantile(
  values: Float64Array,
  weights: Float64Array,
  share: number,
  sorted: Float64Array = values.slice().sort(),
): number {
  const size = values.length
  let all = 0
  for (const weight of weights) all += weight
  /** The share up to the middle of what is worth `value`. */
  const middleOf = (value: number) => {
    let below = 0
    for (let one = 0; one < size; one++) {
      const weight = weights[one]!
      if (values[one]! < value) below += weight
      else if (values[one] === value) below += weight / 2
    }
    return below / all
  }
  let [low, high] = [0, size - 1]
  if (middleOf(sorted[low]!) >= share) return sorted[low]!
  if (middleOf(sorted[high]!) < share) return sorted[high]!
  while (high - low > 1) {
    const at = (low + high) >> 1
    if (middleOf(sorted[at]!) >= share) high = at
    else low = at
  }
  const [from, to] = [sorted[low]!, sorted[high]!]
  const [before, after] = [middleOf(from), middleOf(to)]
  return after > before ? from + ((to - from) * (share - before)) / (after - before) : to
}

/** Mean, standard deviation and the tenths of one number a possible candidate, each as heavy as it weighs. */
export function estimateOf(values: Float64Array, weights: Float64Array): Estimate {
  const size = values.length
  let [mean, second] = [0, 0]
  for (let one = 0; one < size; one++) mean += (weights[one]! * values[one]!) / size
  for (let one = 0; one < size; one++) second += (weights[one]! * square(values[one]! - mean)) / size
  const sorted = values.slice().sort()
  return {
    mean,
    sd: Math.sqrt(second),
    low: quantile(values, weights, 0.1, sorted),
    high: quantile(values, weights, 0.9, sorted),
  }
}

/** The mean alone. */
export function weightedMean(values: Float64Array, weights: Float64Array): number {
  let mean = 0
  for (let one = 0; one < values.length; one++) mean += weights[one]! * values[one]!
  return mean / values.length
}
