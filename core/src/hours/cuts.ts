import { allocate, type Allocation, knownAfter, type Learnable } from './allocate'

export interface CutGroup {
  /** Indices of the section's topics. */
  topics: number[]
  /** Expected scaled score of the section for its topics' knowledge, in the order of `topics`. */
  expected: (known: number[]) => number
  cut: number
}

export interface CutAllocation extends Allocation {
  /** Weight that each section's topics were given, 1 where the cut was met without help. */
  weights: number[]
  /** Sections (indices into `cuts`) that miss their cut in expectation even so. */
  missed: number[]
}

const sweeps = 12
const heaviest = 2 ** 12

/**
 * `allocate` with section cuts: topics of a section that falls short count for more until its expected score meets its
 * cut. Each weight is found by bisection with the others held, swept until all agree. Where one section cannot be
 * lifted, or only by dropping another below its own cut, it is named in `missed`.
 */
export function allocateWithCuts(topics: Learnable[], hours: number, cuts: CutGroup[]): CutAllocation {
  const weights = cuts.map(() => 1)
  const solve = (): Allocation => {
    const weighted = topics.map((topic) => ({ ...topic }))
    cuts.forEach((group, at) => {
      for (const index of group.topics) weighted[index]!.value *= weights[at]!
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
  for (let sweep = 0; sweep < sweeps; sweep++) {
    let moved = false
    for (let at = 0; at < cuts.length; at++) {
      if (shortBy(at, allocation) <= 1e-6) continue
      moved = true
      const before = weights[at]!
      weights[at] = heaviest
      if (shortBy(at, solve()) > 0) {
        // Out of reach alone: no weight helps, so let the others have the hours.
        weights[at] = before
        allocation = solve()
        continue
      }
      let low = Math.log(before)
      let high = Math.log(heaviest)
      for (let step = 0; step < 40; step++) {
        const middle = (low + high) / 2
        weights[at] = Math.exp(middle)
        if (shortBy(at, solve()) > 0) low = middle
        else high = middle
      }
      weights[at] = Math.exp(high)
      allocation = solve()
    }
    if (!moved) break
  }
  const points = topics.reduce(
    (sum, topic, at) => sum + topic.value * knownAfter(topic, allocation.hours[at]!),
    0,
  )
  const missed = cuts.flatMap((_, at) => (shortBy(at, allocation) > 1e-6 ? [at] : []))
  return { ...allocation, points, weights, missed }
}
