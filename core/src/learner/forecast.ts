import { square } from '../exact/functions'
import { leastThatRounds } from '../scoring/conversion'
import { normalCdf, z80 } from '../exact/normal'

/** A scored practice test as the forecast sees it. */
export interface Observation {
  /** Days since the plan's start, and points that the learning model says the work until then was worth. */
  day: number
  gain: number
  score: number
  /** Standard deviation of one test's score about the level: the form's error and the binomial's. */
  sd: number
  source: 'publisher' | 'other'
}

export interface ForecastModel {
  start: number
  startSd: number
  /** The rate multiplies the predicted gain; mean 1. */
  rateSd: number
  /** Variance of the random walk a day. */
  walk: number
  /** Spread of other makers' difficulty about the publisher's. */
  offsetSd: number
  dayOfSd: number
}

export interface Forecast {
  mean: number
  sd: number
  /** The central 80%. */
  low: number
  high: number
  /** Posterior of what the tests taught: learning rate and the other makers' offset. */
  rate: number
  offset: number
}

/** Solves A x = b for several right sides by Gaussian elimination with pivoting; small systems only. */
function solve(matrix: number[][], sides: number[][]): number[][] {
  const n = matrix.length
  const rows = matrix.map((row, at) => [...row, ...sides.map((side) => side[at]!)])
  for (let column = 0; column < n; column++) {
    let pivot = column
    for (let row = column + 1; row < n; row++)
      if (Math.abs(rows[row]![column]!) > Math.abs(rows[pivot]![column]!)) pivot = row
    ;[rows[column], rows[pivot]] = [rows[pivot]!, rows[column]!]
    const lead = rows[column]!
    for (let row = 0; row < n; row++) {
      if (row === column) continue
      const factor = rows[row]![column]! / lead[column]!
      if (factor) for (let at = column; at < lead.length; at++) rows[row]![at]! -= factor * lead[at]!
    }
  }
  return sides.map((_, side) => rows.map((row, at) => row[n + side]! / row[at]!))
}

/**
 * Level on a day after `tests`: score_j = start + rate x gain_j + walk(day_j) + offset(source_j) + noise_j, all
 * Gaussian, so the exam-day level given the tests is the conditional of a joint Gaussian (Rasmussen and Williams 2006,
 * ch. 2). `dayOf` adds the day's own noise: true for the exam, false for the level itself.
 */
export function forecast(
  model: ForecastModel,
  tests: Observation[],
  at: { day: number; gain: number },
  dayOf = true,
): Forecast {
  const rateVariance = square(model.rateSd)
  const startVariance = square(model.startSd)
  const level = (a: { day: number; gain: number }, b: { day: number; gain: number }) =>
    startVariance + rateVariance * a.gain * b.gain + model.walk * Math.min(a.day, b.day)
  const offset = (a: Observation, b: Observation) =>
    a.source === 'other' && b.source === 'other' ? square(model.offsetSd) : 0
  const priorMean = model.start + at.gain
  const priorVariance = level(at, at)
  let mean = priorMean
  let variance = priorVariance
  let rate = 1
  let shift = 0
  if (tests.length) {
    const covariance = tests.map((a, row) =>
      tests.map((b, column) => level(a, b) + offset(a, b) + (row === column ? square(a.sd) : 0)),
    )
    const cross = tests.map((test) => level(test, at))
    const residual = tests.map((test) => test.score - model.start - test.gain)
    const [weights, spread] = solve(covariance, [residual, cross]) as [number[], number[]]
    const dot = (a: number[], b: number[]) => a.reduce((sum, value, index) => sum + value * b[index]!, 0)
    mean += dot(cross, weights)
    variance -= dot(cross, spread)
    rate += dot(
      tests.map((test) => rateVariance * test.gain),
      weights,
    )
    shift = dot(
      tests.map((test) => (test.source === 'other' ? square(model.offsetSd) : 0)),
      weights,
    )
  }
  const sd = Math.sqrt(Math.max(0, variance) + (dayOf ? square(model.dayOfSd) : 0))
  return { mean, sd, low: mean - z80 * sd, high: mean + z80 * sd, rate, offset: shift }
}

/**
 * P(reported score >= target): a score is reported in steps of the scale, so from half a step below the first reading
 * that is enough. `step` 0 is for a target that is not a fixed number.
 */
export function oddsOf({ mean, sd }: { mean: number; sd: number }, target: number, step: number): number {
  const least = leastThatRounds(target, step)
  return sd > 0 ? normalCdf((mean - least) / sd) : mean >= least ? 1 : 0
}
