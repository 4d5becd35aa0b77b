import { exp, ln } from '../exact/functions'
import { allocate, type Allocation, knownAfter, type Learnable } from './allocate'

export interface CutGroup {
  /** Indices of the section's topics. */
  topics: number[]
  /** Expected scaled score of the section for its topics' knowledge, in the order of `topics`. */
  expected: (known: number[]) => number
  /** What the section's weight adds to each topic's value, in the order of `topics`; its value when absent. */
  lift?: number[]
  cut: number
}

export interface CutAllocation extends Allocation {
  /** Weight that each section's topics were given, 1 where the cut was met without help. */
  weights: number[]
  /** Sections (indices into `cuts`) that miss their cut in expectation even so. */
  missed: number[]
}

const sweeps = 12
const heaviest = 4096
/** Scaled points by which a cut may be passed or missed. */
const tolerance = 1e-6

/**
 * `allocate` with section cuts: topics of a section that falls short count for more until its expected score meets its
 * cut. Each weight is found by root-finding with the others held, swept until all agree. Where one section cannot be
 * lifted, or only by dropping another below its own cut, it is named in `missed`.
 */
export function allocateWithCuts(topics: Learnable[], hours: number, cuts: CutGroup[]): CutAllocation {
  const weights = cuts.map(() => 1)
  const solve = (): Allocation => {
    const weighted = topics.map((topic) => ({ ...topic }))
    cuts.forEach((group, at) => {
      group.topics.forEach((index, place) => {
        weighted[index]!.value += (weights[at]! - 1) * (group.lift?.[place] ?? topics[index]!.value)
      })
    })
    return allocate(weighted, hours)
  }
  const shortBy = (at: number, allocation: Allocation): number => {
    const group = cuts[at]!
    return (
      group.cut -
      group.expected(group.topics.map((index) => knownAfter(topics[index]!, allocation.hours[index]!)))
    )
  }
  let allocation = solve()
  // A section that all the hours cannot lift stays out: the others' weights only grow, so it never comes into reach.
  const hopeless = new Set<number>()
  for (let sweep = 0; sweep < sweeps; sweep++) {
    let moved = false
    for (let at = 0; at < cuts.length; at++) {
      if (hopeless.has(at) || shortBy(at, allocation) <= tolerance) continue
      moved = true
      const before = weights[at]!
      weights[at] = heaviest
      if (shortBy(at, solve()) > 0) {
        // Out of reach alone: no weight helps, so let the others have the hours.
        hopeless.add(at)
        weights[at] = before
        allocation = solve()
        continue
      }
      // Illinois variant of regula falsi on the logarithm of the weight; `high` always meets the cut.
      const short = (log: number): number => {
        weights[at] = exp(log)
        return shortBy(at, solve())
      }
      let low = ln(before)
      let high = ln(heaviest)
      let above = short(low)
      let below = short(high)
      let side = 0
      for (let step = 0; step < 40 && below < -tolerance && high - low > 1e-9; step++) {
        const middle = (low * below - high * above) / (below - above)
        const value = short(middle)
        if (value > 0) {
          low = middle
          above = value
          if (side === 1) below /= 2
          side = 1
        } else {
          high = middle
          below = value
          if (side === -1) above /= 2
          side = -1
        }
      }
      weights[at] = exp(high)
      allocation = solve()
    }
    if (!moved) break
  }
  const points = topics.reduce(
    (sum, topic, at) => sum + topic.value * knownAfter(topic, allocation.hours[at]!),
    0,
  )
  const missed = cuts.flatMap((_, at) => (shortBy(at, allocation) > tolerance ? [at] : []))
  return { ...allocation, points, weights, missed }
}
