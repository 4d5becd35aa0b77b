import { exp, ln, square } from '../exact/functions'
import { type Candidates, candidatesAt, each, knownBy } from './candidates'
import { normals } from './draws'
import type { Fit } from './fit'
import type { Problem } from './layout'
import { least } from './look'
import { lnReached, paceAfter } from './pace'
import { prior } from './prior'

/** The columns of L'^-1 z, in place of those of z: one of each part. */
function spread({ lower }: Fit, columns: Float64Array[], size: number): Float64Array[] {
  const wide = columns.length
  for (let row = wide - 1; row >= 0; row--) {
    const own = columns[row]!
    const pivot = lower[row * wide + row]!
    for (let one = 0; one < size; one++) own[one]! /= pivot
    for (let at = 0; at < row; at++) {
      const by = lower[row * wide + at]!
      if (!by) continue
      const other = columns[at]!
      for (let one = 0; one < size; one++) other[one]! -= by * own[one]!
    }
  }
  return columns
}

/** Parts of a day for every candidate, drawn with the candidate's own, and the logarithm of how much likelier they are than so drawn. */
function drawnDay(
  fit: Fit,
  at: number,
  variance: number,
  off: Float64Array[],
  size: number,
  into: Float64Array,
): Float64Array[] {
  const { mode, lower, cross } = fit.days[at]!
  const parts = Math.round(Math.sqrt(lower.length))
  const wide = off.length
  const columns = Array.from({ length: parts }, (_, part) => normals(`answers ${at} ${part}`, size))
  for (const own of columns) for (let one = 0; one < size; one++) into[one]! += square(own[one]!) / 2
  // L' d = z - L^-1 C x, so that d lies about -(L L')^-1 C x.
  const pushed = Array.from({ length: parts }, (_, part) => {
    const found = new Float64Array(size)
    for (let place = 0; place < wide; place++) {
      const by = cross[part * wide + place]!
      if (!by) continue
      const own = off[place]!
      for (let one = 0; one < size; one++) found[one]! += by * own[one]!
    }
    return found
  })
  for (let row = 0; row < parts; row++) {
    const own = pushed[row]!
    for (let before = 0; before < row; before++) {
      const by = lower[row * parts + before]!
      const other = pushed[before]!
      for (let one = 0; one < size; one++) own[one]! -= by * other[one]!
    }
    const pivot = lower[row * parts + row]!
    for (let one = 0; one < size; one++) {
      own[one]! /= pivot
      columns[row]![one]! -= own[one]!
    }
  }
  for (let row = parts - 1; row >= 0; row--) {
    const own = columns[row]!
    const pivot = lower[row * parts + row]!
    for (let one = 0; one < size; one++) own[one]! /= pivot
    for (let before = 0; before < row; before++) {
      const by = lower[row * parts + before]!
      const other = columns[before]!
      for (let one = 0; one < size; one++) other[one]! -= by * own[one]!
    }
  }
  columns.forEach((own, part) => {
    const spreads = part ? square(prior.day.section) : variance
    for (let one = 0; one < size; one++) {
      own[one]! += mode[part]!
      into[one]! -= square(own[one]!) / (2 * spreads)
    }
  })
  return columns
}

/** Powers to an exponent, by products where it is a small whole number; not below what a number can hold. */
function timesOf(exponent: number): (base: number) => number {
  if (!Number.isInteger(exponent) || exponent > 15) return (base) => exp(Math.max(-340, exponent * ln(base)))
  return (base) => {
    let [found, by, left] = [1, base, exponent]
    while (left > 0) {
      if (left & 1) found *= by
      by *= by
      left >>= 1
    }
    return found
  }
}

/** Adds the logarithm of the likelihood of some answers for every candidate. */
function addLikelihood(
  problem: Problem,
  at: number,
  candidates: Candidates,
  days: Float64Array[],
  into: Float64Array,
): void {
  const { size, blanks } = candidates
  const { cells, maker, reached, variance } = problem.answers[at]!
  const { sectionOf, taus } = problem
  const exposure = problem.exposures[at]!
  const known = knownBy(candidates, taus, exposure, { only: new Set(cells.flatMap(({ topics }) => topics)) })
  const shared = variance > 0
  const ofMaker = maker === undefined ? undefined : candidates.makers.get(maker)!
  const factors = candidates.paces.map((_, section) =>
    each(size, (one) =>
      shared || ofMaker
        ? exp((ofMaker?.[one] ?? 0) + (shared ? days[0]![one]! + days[1 + section]![one]! : 0))
        : 1,
    ),
  )
  const chances = new Float64Array(size).fill(1)
  for (const cell of cells) {
    const { topics, shares, guess, right, wrong, blank, easier } = cell
    const own = exp(easier)
    const [rights, wrongs, lefts] = [timesOf(right), timesOf(wrong), timesOf(blank)]
    for (let one = 0; one < size; one++) {
      let all = 0
      for (let place = 0; place < topics.length; place++) {
        const topic = topics[place]!
        const factor = own * factors[sectionOf[topic]!]![one]!
        const before = known[topic]![one]!
        all += (shares[place]! * before * factor) / (1 - before + before * factor)
      }
      const missed = 1 - all
      const left = blanks[one]!
      let chance = chances[one]!
      if (right) chance *= rights(Math.max(least, all + missed * (1 - left) * guess))
      if (wrong) chance *= wrongs(Math.max(least, missed * (1 - left) * (1 - guess)))
      if (blank) chance *= lefts(Math.max(least, missed * left))
      // A logarithm costs as much as many products.
      if (chance < 1e-150) {
        into[one]! += ln(chance)
        chance = 1
      }
      chances[one] = chance
    }
  }
  for (let one = 0; one < size; one++) into[one]! += ln(chances[one]!)
  for (const one of reached) {
    const sections = one.section === undefined ? candidates.paces.map((_, section) => section) : [one.section]
    for (let which = 0; which < size; which++) {
      const pace =
        sections.reduce((sum, section) => sum + candidates.paces[section]![which]!, 0) / sections.length
      into[which]! += lnReached(one, paceAfter(pace, exposure.timed))
    }
  }
}

/** Weights as large as leave at least half of the candidates telling: w^a with a at most 1 (tempering). */
function settled(
  logs: Float64Array,
  size: number,
  most: number,
): { weights: Float64Array; effective: number; power: number } {
  const peak = logs.reduce((most, log) => Math.max(most, log), -Infinity)
  const at = (power: number) => {
    const weights = each(size, (one) => exp(power * (logs[one]! - peak)))
    const sum = weights.reduce((a, b) => a + b, 0)
    const squares = weights.reduce((a, b) => a + b * b, 0)
    return {
      weights: weights.map((weight) => (weight * size) / sum),
      effective: (sum * sum) / squares,
      power,
    }
  }
  let found = at(most)
  if (found.effective >= size / 2) return found
  let [low, high] = [0, most]
  for (let step = 0; step < 20; step++) {
    const middle = (low + high) / 2
    found = at(middle)
    if (found.effective >= size / 2) low = middle
    else high = middle
  }
  return at(low)
}

/** Numbers, of cells and candidates, up to which they are weighed; with so much evidence the normal distribution is near enough. */
const mostWeighed = 400_000
/** From here on they are weighed less and less, so that nothing jumps where one more test comes. */
const fullyWeighed = 200_000

/** Times that the distribution they are drawn from is moved to where the likely ones are. */
const rounds = 2
/** The least that a round narrows it to. */
const narrowest = 0.4

/**
 * Possible candidates drawn from the normal distribution about the likeliest, and weighed by how much likelier each is than so drawn, its
 * days drawn along with it (importance sampling; Kloek and van Dijk 1978). Where less than half of them tell, they are drawn again about
 * the mean of those that do, as widely as those lie (adaptive importance sampling; Bugallo and others 2017); what is left of it by then is
 * tempered.
 */
export function candidatesOf(problem: Problem, fit: Fit, size: number): Candidates {
  const { layout, answers } = problem
  const work = size * answers.reduce((sum, { cells }) => sum + cells.length, 0)
  const most = Math.min(1, Math.max(0, (mostWeighed - work) / (mostWeighed - fullyWeighed)))
  const middle = new Float64Array(layout.size)
  const wide = new Float64Array(layout.size).fill(1)
  for (let round = 0; ; round++) {
    const z = layout.names.map((name, at) => {
      const own = normals(name, size)
      return each(size, (one) => middle[at]! + wide[at]! * own[one]!)
    })
    const off = spread(
      fit,
      z.map((own) => own.slice()),
      size,
    )
    const candidates = candidatesAt(problem, fit.mode, off, size)
    if (!answers.length || !most) return candidates
    const logs = new Float64Array(size)
    layout.names.forEach((name, at) => {
      const own = normals(name, size)
      const from = off[at]!
      const mode = fit.mode[at]!
      for (let one = 0; one < size; one++) logs[one]! += (square(own[one]!) - square(mode + from[one]!)) / 2
    })
    answers.forEach(({ variance }, at) => {
      const days = variance > 0 ? drawnDay(fit, at, variance, off, size, logs) : []
      addLikelihood(problem, at, candidates, days, logs)
    })
    const { weights, effective, power } = settled(logs, size, most)
    if (power === most || round === rounds) return { ...candidates, weights, effective }
    z.forEach((own, at) => {
      let [first, second] = [0, 0]
      for (let one = 0; one < size; one++) first += (weights[one]! * own[one]!) / size
      for (let one = 0; one < size; one++) second += (weights[one]! * square(own[one]! - first)) / size
      middle[at] = first
      wide[at] = Math.max(narrowest, Math.sqrt(second))
    })
  }
}
