import { allTicks, type SatClass, tick, ticks } from '../draws'

export type { SatClass } from '../draws'

/** A run of items that is worked through by itself: a section, or one stage of an adaptive one. */
export interface Leg {
  /** Class of each item, in the order in which they are taken. */
  of: number[]
  /** Seconds of reading before each item. */
  reading: number[]
  /** First item of the item set that each belongs to, or the item itself. */
  setStart: number[]
  /** The leg must be over so many seconds after the section's start. */
  until: number
}

export interface Paper {
  classes: SatClass[]
  first: Leg
  /** Second stages of an adaptive section, by rising routing score. */
  second?: (Leg & { from: number })[]
}

/**
 * How a leg is gone through: for each pass the second, counted from the first look, at which each item is left. 0 in the
 * first pass passes over it. Later passes take what is left, in order.
 */
export type Passes = number[][]
export interface Approach {
  first: Passes
  second?: Passes[]
}

/** Seconds to find one's way back into an item that was left half done. */
export const returnSeconds = 8
/** Seconds to fill in an answer, unread, when time runs out. */
const fillSeconds = 2
const returnTicks = returnSeconds * tick

/** A leg with its times in ticks. */
export interface Prepared {
  n: number
  of: Int32Array
  firstDraw: number
  until: number
  /** Ticks before an item is worked at in the first pass: its reading. */
  before: Int32Array
  /** When an item must be done, so that everything after it can still be filled in. */
  latest: Int32Array
  /** The same in later passes, when all items but those never looked at are done. */
  lastly: number
  /** Items from here on are not looked at in the first pass. */
  end: number
  /** Marks of all items before each, and of each item where all have the same. */
  upTo: Float64Array
  each?: number
  passes: PreparedPass[]
  from: number
}

export interface PreparedPass {
  /** Ticks, counted from the first look, at which each item is left. */
  limits: Int32Array
  /** Ticks given to each item before this pass. */
  before: Int32Array
  /** Ticks of coming back to it, or of reading what was not read. */
  back: Int32Array
  /** Some items have not been looked at before this pass. */
  fresh: boolean
}

export function prepare(
  classes: SatClass[],
  leg: Leg,
  passes: Passes,
  firstDraw: number,
  from: number,
): Prepared {
  const n = leg.of.length
  const fill = new Array<number>(n + 1).fill(0)
  for (let at = n - 1; at >= 0; at--)
    fill[at] = fill[at + 1]! + (classes[leg.of[at]!]!.guess > 0 ? fillSeconds : 0)
  const reading = new Array<number>(n).fill(0)
  const read = new Set<number>()
  const first = passes[0]!
  for (let at = 0; at < n; at++) {
    const start = leg.setStart[at]!
    if (first[at]! > 0 && !read.has(start)) {
      read.add(start)
      reading[at] = leg.reading[start]!
    }
  }
  const unread = leg.reading.map((seconds, at) => (read.has(at) ? 0 : ticks(seconds)))
  let end = n
  while (end > 0 && first[end - 1]! <= 0) end--
  const until = ticks(leg.until)
  let before = new Int32Array(n)
  const upTo = new Float64Array(n + 1)
  leg.of.forEach((kind, at) => (upTo[at + 1] = upTo[at]! + classes[kind]!.marks))
  const marks = new Set(leg.of.map((kind) => classes[kind]!.marks))
  return {
    n,
    of: Int32Array.from(leg.of),
    firstDraw,
    until,
    before: allTicks(reading),
    latest: allTicks(Array.from({ length: n }, (_, at) => leg.until - fill[at + 1]!)),
    lastly: until - ticks(fill[end]!),
    end,
    upTo,
    ...(marks.size === 1 && { each: [...marks][0]! }),
    passes: passes.map((limits) => {
      const pass = {
        limits: allTicks(limits),
        before,
        back: before.map((spent, at) => (spent > 0 ? returnTicks : unread[at]!)),
        fresh: before.includes(0),
      }
      before = before.map((spent, at) => Math.max(spent, pass.limits[at]!))
      return pass
    }),
    from,
  }
}
