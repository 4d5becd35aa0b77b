import { logistic, logit } from '../../exact/functions'
import { normalFrom } from '../../exact/normal'
import { randomFrom, shuffle } from '../../exact/random'
import { chanceExplains, type ReadItem, reachedInOrder } from './item'

/** Where the answers of one section begin to fall below what its topics let expect. */
export interface Drift {
  section: string
  /** Items that were looked at. */
  items: number
  /** The largest sum of what the answers were above expectation up to some item (and so below it after). */
  cusum: number
  /** Chance of one as large where nothing drifts, by permutation. */
  p: number
  /** The first item of the worse stretch, and its place among those looked at, from 0. */
  from: { item: number; place: number }
  /** Seconds since the section's start when it was taken up; undefined where times are not known. */
  second?: number
  /** Share right before and from there on, and what was expected of both. */
  before: { right: number; expected: number }
  after: { right: number; expected: number }
  /** Running sums, one for each item looked at. */
  sums: number[]
}

/** Fewer items say nothing of a trend. */
export const leastForDrift = 15
const draws = 1999
/** So many draws as large as what was found are enough to know that chance explains it. */
const enough = 200

/** Expected chances, moved alike on the logit scale until they come to what was got: one test is better or worse as a whole. */
function levelled(expected: number[], right: number): number[] {
  const wanted = Math.min(expected.length - 0.25, Math.max(0.25, right))
  const logits = expected.map((p) => logit(Math.min(0.995, Math.max(0.005, p))))
  let low = -12
  let high = 12
  for (let step = 0; step < 60; step++) {
    const middle = (low + high) / 2
    const sum = logits.reduce((total, own) => total + logistic(own + middle), 0)
    if (sum < wanted) low = middle
    else high = middle
  }
  return logits.map((own) => logistic(own + (low + high) / 2))
}

/** Running sums that end at nothing, the largest of them, and after how many items it stands. */
function largest(residuals: readonly number[]): { sums: number[]; top: number; after: number } {
  const mean = residuals.reduce((a, b) => a + b, 0) / residuals.length
  let sum = 0
  let top = 0
  let after = 0
  const sums = residuals.map((own, at) => {
    sum += own - mean
    if (sum > top + 1e-12) {
      top = sum
      after = at + 1
    }
    return sum
  })
  return { sums, top, after }
}

/** A section as it was sat once: its items that were got to, in their order. */
interface Run {
  items: ReadItem[]
  residuals: number[]
}

const runOf = (items: readonly ReadItem[]): Run => {
  const reached = reachedInOrder(items)
  const right = reached.map(({ outcome }) => (outcome === 'right' ? 1 : 0))
  const expected = levelled(
    reached.map((one) => one.expected),
    right.reduce<number>((a, b) => a + b, 0),
  )
  return { items: reached, residuals: right.map((own, at) => own - expected[at]!) }
}

/** Residuals of several runs of one section, place by place. */
const together = (runs: readonly number[][]): number[] =>
  Array.from({ length: Math.max(...runs.map(({ length }) => length)) }, (_, place) =>
    runs.reduce((sum, own) => sum + (own[place] ?? 0), 0),
  )

/** Which topic stands at each place of each run, and how far what is expected of each may be off. */
function topicsOf(runs: readonly Run[]): { at: Int32Array[]; unsure: number[] } {
  const known = new Map<string, number>()
  const unsure: number[] = []
  const at = runs.map(({ items }) =>
    Int32Array.from(items, ({ section, topic = section, unsure: own = 0 }) => {
      const found = known.get(topic)
      if (found !== undefined) return found
      known.set(topic, unsure.length)
      return unsure.push(own) - 1
    }),
  )
  return { at, unsure }
}

/**
 * Share of draws whose largest sum is as large (sequential: Besag and Clifford 1991). A draw permutes each run's own residuals
 * and then moves each topic's items alike, in all runs, by as much as what is known of the topic may be off: topics that stand
 * in blocks and were misjudged look like a drift.
 */
function chanceOf(top: number, of: readonly Run[], random: () => number): number {
  const runs = of.map(({ residuals }) => residuals)
  const mixed = runs.map((residuals) => Float64Array.from(residuals))
  const topics = topicsOf(of)
  const moves = topics.unsure.some((sd) => sd > 0)
  const offsets = new Float64Array(topics.unsure.length)
  const sums = new Float64Array(Math.max(...runs.map(({ length }) => length)))
  const mean = runs.flat().reduce((a, b) => a + b, 0) / sums.length
  let asLarge = 0
  for (let draw = 1; draw <= draws; draw++) {
    sums.fill(0)
    if (moves)
      topics.unsure.forEach((sd, topic) => {
        offsets[topic] = sd && sd * normalFrom(random())
      })
    mixed.forEach((own, run) => {
      shuffle(own, random)
      for (let at = 0; at < own.length; at++) sums[at]! += own[at]!
      if (moves) addOffsets(sums, topics.at[run]!, offsets)
    })
    let sum = 0
    for (const own of sums) {
      sum += own - mean
      if (sum >= top - 1e-9) {
        asLarge += 1
        break
      }
    }
    if (asLarge === enough) return asLarge / draw
  }
  return (asLarge + 1) / (draws + 1)
}

/** Adds what topics are off, less their mean: a run was levelled as a whole. */
function addOffsets(sums: Float64Array, topics: Int32Array, offsets: Float64Array): void {
  let mean = 0
  for (const topic of topics) mean += offsets[topic]! / topics.length
  topics.forEach((topic, at) => (sums[at]! += offsets[topic]! - mean))
}

const shareOf = (items: readonly ReadItem[], of: (item: ReadItem) => number): number =>
  items.length ? items.reduce((sum, item) => sum + of(item), 0) / items.length : 0

/**
 * Whether accuracy falls along a section beyond what its topics and their difficulty let expect: the largest CUSUM of what the
 * answers were above expectation, with its chance under permutation of each run's own residuals. Expectation is moved alike for
 * all items of a run until it comes to what was got, so that a good or bad day is no drift. Several runs of the same section are
 * laid over each other place by place; `unsure` of their items widens what chance can do. Undefined where fewer than
 * `leastForDrift` items were got to. `seed` draws the permutations; items not reached are left out. Sources: Page 1954;
 * docs/models.md, 7.
 */
export function driftIn(
  section: string,
  sat: readonly (readonly ReadItem[])[],
  seed: number,
): Drift | undefined {
  const runs = sat.map(runOf).filter(({ items }) => items.length >= leastForDrift)
  const [first] = runs
  if (!first) return undefined
  const longest = runs.reduce((a, b) => (b.items.length > a.items.length ? b : a))
  const residuals = runs.map((run) => run.residuals)
  const found = largest(together(residuals))
  const place = Math.min(found.after, longest.items.length - 1)
  const before = runs.flatMap(({ items }) => items.slice(0, place))
  const after = runs.flatMap(({ items }) => items.slice(place))
  const right = ({ outcome }: ReadItem) => (outcome === 'right' ? 1 : 0)
  const expected = (item: ReadItem) => item.expected
  const seconds = longest.items.slice(0, place)
  return {
    section,
    items: runs.reduce((sum, { items }) => sum + items.length, 0),
    cusum: found.top,
    p: chanceOf(found.top, runs, randomFrom(seed)),
    from: { item: longest.items[place]!.item, place },
    second: seconds.every((one) => one.seconds !== undefined)
      ? seconds.reduce((sum, one) => sum + (one.seconds ?? 0), 0)
      : undefined,
    before: { right: shareOf(before, right), expected: shareOf(before, expected) },
    after: { right: shareOf(after, right), expected: shareOf(after, expected) },
    sums: found.sums,
  }
}

/** Whether a drift is more than chance explains, where so many sections were looked at (Sidak 1967). */
export const drifts = ({ p }: Pick<Drift, 'p'>, looked: number): boolean => {
  let none = 1
  for (let at = 0; at < looked; at++) none *= 1 - p
  return 1 - none <= chanceExplains
}
