import { exp } from '../exact/functions'
import { normalCdf } from '../forecast/normal'
import { markSeconds } from './leave'
import type { Solving } from './solving'

/** How items of one class go and count in a simulated sitting. */
export interface SatClass extends Solving {
  marks: number
  wrong: number
  blank: number
  /** Chance that a guess is right; 0 where a blank is left instead. */
  guess: number
  /** `p` at each level of knowledge; just `p` when absent. */
  levels?: number[]
}

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
/** A draw's first 11 bits choose one of so many equally likely times; the bits after them decide at the edge of p. */
const bins = 2048
const lowBits = 21
/** Times are whole ticks inside the simulation: 64 to a second. */
const tick = 64
/** Longer than any stay, and short enough to be added to. */
const never = 1 << 29
const stride32 = 0x6d2b79f5

/** Bound once: looked up on the global object, it is slow in some hosts (Node's vm contexts, where the tests run). */
const { imul } = Math

let quantiles: Float64Array | undefined
/** Normal quantiles at the middles of equally likely bins, by Newton's method from one to the next. */
function normalBins(): Float64Array {
  if (quantiles) return quantiles
  quantiles = new Float64Array(bins)
  let z = 0
  for (let bin = bins / 2; bin < bins; bin++) {
    const wanted = (bin + 0.5) / bins
    for (let step = 0; step < 6; step++) {
      const density = exp((-z * z) / 2) / Math.sqrt(2 * Math.PI)
      z += (wanted - normalCdf(z)) / density
    }
    quantiles[bin] = z
    quantiles[bins - 1 - bin] = -z
  }
  return quantiles
}

const ticks = (seconds: number): number => Math.min(never, Math.round(seconds * tick))
const allTicks = (seconds: number[]): Int32Array => Int32Array.from(seconds, ticks)

/** A leg with its times in ticks. */
interface Prepared {
  n: number
  of: Int32Array
  firstDraw: number
  until: number
  passes: Int32Array[]
  /** Ticks before an item is worked at in the first pass: its reading. */
  before: Int32Array
  /** Reading still to do when an item is first worked at in a later pass. */
  later: Int32Array
  /** When an item must be done, so that everything after it can still be filled in. */
  latest: Int32Array
  /** The same when all items but those never looked at are done. */
  fill: number
  /** Items from here on are not looked at in the first pass. */
  end: number
  from: number
}

function prepare(classes: SatClass[], leg: Leg, passes: Passes, firstDraw: number, from: number): Prepared {
  const n = leg.of.length
  const fill = new Array<number>(n + 1).fill(0)
  for (let at = n - 1; at >= 0; at--)
    fill[at] = fill[at + 1]! + (classes[leg.of[at]!]!.guess > 0 ? fillSeconds : 0)
  const before = new Array<number>(n).fill(0)
  const later = new Array<number>(n).fill(0)
  const read = new Set<number>()
  const first = passes[0]!
  for (let at = 0; at < n; at++) {
    const start = leg.setStart[at]!
    if (first[at]! > 0 && !read.has(start)) {
      read.add(start)
      before[at] = leg.reading[start]!
    }
  }
  for (let at = 0; at < n; at++) if (!read.has(at)) later[at] = leg.reading[at]!
  let end = n
  while (end > 0 && first[end - 1]! <= 0) end--
  return {
    n,
    of: Int32Array.from(leg.of),
    firstDraw,
    until: ticks(leg.until),
    passes: passes.map(allTicks),
    before: allTicks(before),
    later: allTicks(later),
    latest: allTicks(Array.from({ length: n }, (_, at) => leg.until - fill[at + 1]!)),
    fill: ticks(fill[end]!),
    end,
    from,
  }
}

export interface Outcome {
  /** Raw marks of each sitting. */
  raw: Float64Array
  sittings: number
  /** Means over the sittings. */
  notReached: number
  /** Items left after a look at them, and still not solved at the end. */
  leftOver: number
  /** Seconds until everything is done. */
  used: number
  /** Seconds from the start of the first leg, and of the second, to the end of each of its passes. */
  passEnds: number[][]
  /** Place of the second stage that each sitting led to, of an adaptive section. */
  stage?: Uint8Array
  /** Random numbers drawn in all. */
  draws: number
}

/** Places of the running sums, and of what one step hands to the next. */
const clock = 0
const notReached = 1
const leftOver = 2
const used = 3
const draws = 4
const reached = 5
const listed = 6
/** From here on the ends of the passes, `mostPasses` for each leg. */
const ends = 7
const mostPasses = 6

/** What all sittings share. */
interface Desk {
  seed: number
  levels: number
  kinds: number
  most: number
  /** Solving times in ticks by level, class and first bits of the draw; what cannot be solved stands at the end. */
  table: Int32Array
  /** By level and class: the bin in which p ends, and the low bits below which it still lies within p. */
  edge: Int32Array
  within: Int32Array
  marks: Float64Array
  wrong: Float64Array
  blank: Float64Array
  guess: Float64Array
  solvingTime: Int32Array
  left: Int32Array
  elapsed: Int32Array
  /** Nothing is guessed and blanks earn nothing: what is left need not be looked at again. */
  silent: boolean
  tally: Float64Array
}

const markTicks = markSeconds * tick
const returnTicks = returnSeconds * tick

/** The 32-bit hash of one counter: uniform over all of them, with a sign, as the processor has them. */
function hash(counter: number): number {
  let mixed = imul(counter ^ (counter >>> 15), 1 | counter)
  mixed = (mixed + imul(mixed ^ (mixed >>> 7), 61 | mixed)) ^ mixed
  return mixed ^ (mixed >>> 14)
}

/** At the edge of p the low bits decide whether the item can be solved. */
const atEdge = (desk: Desk, kind: number, u: number, solve: number): number =>
  (u & ((1 << lowBits) - 1)) < desk.within[kind]! ? solve : never

/**
 * The first pass of a leg: marks earned. `counter` is the leg's own place in the random sequence; every item has two draws,
 * one for its solving and one for a guess. What is not solved is listed in the order of the paper. Whether an item is
 * solved is a coin toss to the processor, so it is worked out without branching.
 */
function firstLook(desk: Desk, leg: Prepared, counter: number, level: number): number {
  const { of, before, latest, end } = leg
  const { table, edge, marks, solvingTime, left, elapsed, tally } = desk
  const limits = leg.passes[0]!
  let earned = 0
  let many = 0
  let at = 0
  let time = tally[clock]! | 0
  let state = (counter + stride32) | 0
  for (; at < end; at++) {
    const kind = of[at]!
    const limit = limits[at]!
    const u = hash(state)
    const bin = u >>> lowBits
    let solve = table[(level + kind) * bins + bin]!
    if (bin === edge[level + kind]!) solve = atEdge(desk, level + kind, u, solve)
    // All ones where it takes longer than the limit, else 0.
    const missed = (limit - solve) >> 31
    const next = (time + before[at]! + solve + (missed & (limit + markTicks - solve))) | 0
    if (next > latest[at]!) break
    time = next
    left[many] = at
    solvingTime[many] = solve
    elapsed[many] = limit
    earned += marks[kind]! * (1 + missed)
    many = (many - missed) | 0
    state = (state + 2 * stride32) | 0
  }
  tally[draws]! += at
  tally[reached] = at
  tally[listed] = many
  tally[clock] = at < end ? leg.until : time
  return earned
}

/** One more pass through what is left; marks earned. */
function anotherPass(desk: Desk, leg: Prepared, own: Int32Array): number {
  const { of, until, later } = leg
  const { marks, solvingTime, left, elapsed, tally } = desk
  const many = tally[listed]! | 0
  // Filling in what was never marked is still to come.
  const latest = until - leg.fill
  let time = tally[clock]! | 0
  let earned = 0
  let kept = 0
  let place = 0
  for (; place < many; place++) {
    const item = left[place]!
    const solve = solvingTime[place]!
    let done = elapsed[place]!
    const limit = own[item]!
    if (limit > done) {
      const next = time + (done > 0 ? returnTicks : later[item]!) + Math.min(solve, limit) - done
      done = limit
      if (next > latest) {
        time = until
        elapsed[place] = done
        break
      }
      time = next
      if (solve <= limit) {
        earned += marks[of[item]!]!
        continue
      }
    }
    left[kept] = item
    solvingTime[kept] = solve
    elapsed[kept++] = done
  }
  for (; place < many; place++) {
    left[kept] = left[place]!
    solvingTime[kept] = solvingTime[place]!
    elapsed[kept++] = elapsed[place]!
  }
  tally[listed] = kept
  tally[clock] = time
  return earned
}

/** What stays unsolved is guessed where that pays, else left blank; the marks of it. */
function settle(desk: Desk, leg: Prepared, counter: number): number {
  const { of } = leg
  const { guess, marks, wrong, blank, left, tally } = desk
  if (desk.silent) return 0
  const many = tally[listed]! | 0
  let earned = 0
  let drawn = 0
  for (let place = 0; place < many; place++) {
    const item = left[place]!
    const kind = of[item]!
    if (guess[kind]! > 0) {
      drawn++
      const u = hash((counter + imul(2 * item + 2, stride32)) | 0) >>> 0
      earned += u < guess[kind]! ? marks[kind]! : -wrong[kind]!
    } else earned += blank[kind]!
  }
  tally[draws]! += drawn
  return earned
}

/** Items that the first pass does not look at, at its end, are listed after the others. */
function listRest(desk: Desk, leg: Prepared, counter: number, level: number, from: number): void {
  const { n, of } = leg
  const { table, edge, solvingTime, left, elapsed, tally } = desk
  let many = tally[listed]!
  for (let at = from; at < n; at++) {
    const kind = of[at]!
    const u = hash((counter + imul(2 * at + 1, stride32)) | 0)
    const bin = u >>> lowBits
    const solve = table[(level + kind) * bins + bin]!
    left[many] = at
    solvingTime[many] = bin === edge[level + kind]! ? atEdge(desk, level + kind, u, solve) : solve
    elapsed[many++] = 0
  }
  tally[draws]! += n - from
  tally[listed] = many
}

/** One leg of a sitting, the first (0) or the second (1); marks earned. Leaves the clock where it ended. */
function sit(desk: Desk, leg: Prepared, number: number, which: number): number {
  const { tally, left, elapsed } = desk
  const counter = (desk.seed + imul(imul(number, desk.most) + leg.firstDraw, 2 * stride32)) | 0
  const level = (number % desk.levels) * desk.kinds
  const begun = tally[clock]!
  let earned = firstLook(desk, leg, counter, level)
  const end = ends + which * mostPasses
  let pass = 1
  tally[end]! += tally[clock]! - begun
  const at = tally[reached]!
  let untouched = 0
  if (at < leg.end) {
    // Time ran out at item `at`; it and all after it are filled in if that pays.
    let many = tally[listed]!
    untouched = leg.n - at - 1
    if (desk.silent) many += leg.n - at
    else
      for (let item = at; item < leg.n; item++) {
        left[many] = item
        elapsed[many++] = -1
      }
    tally[listed] = many
  } else {
    if (at < leg.n) listRest(desk, leg, counter, level, at)
    for (pass = 1; pass < leg.passes.length && tally[clock]! < leg.until; pass++) {
      earned += anotherPass(desk, leg, leg.passes[pass]!)
      tally[end + pass]! += tally[clock]! - begun
    }
    const many = tally[listed]! | 0
    for (let place = 0; place < many; place++) if (elapsed[place] === 0) untouched++
  }
  for (; pass < mostPasses; pass++) tally[end + pass]! += tally[clock]! - begun
  tally[notReached]! += untouched
  tally[leftOver]! += tally[listed]! - untouched
  tally[used]! += tally[clock]! - begun
  return earned + settle(desk, leg, counter)
}

interface Draws {
  table: Int32Array
  edge: Int32Array
  within: Int32Array
}
const levelsOf = (classes: SatClass[]): number =>
  Math.max(1, ...classes.map((own) => own.levels?.length ?? 1))
/** Tables of the classes met last: a search sits the same paper hundreds of times. */
const kept = new WeakMap<SatClass[], Draws>()

/** Solving times by level, class and draw. */
function drawsOf(classes: SatClass[]): Draws {
  const found = kept.get(classes)
  if (found) return found
  const kinds = classes.length
  const levels = levelsOf(classes)
  const z = normalBins()
  const table = new Int32Array(levels * kinds * bins).fill(never)
  const edge = new Int32Array(levels * kinds)
  const within = new Int32Array(levels * kinds)
  for (let level = 0; level < levels; level++)
    classes.forEach((own, kind) => {
      const p = (own.levels?.[level] ?? own.p) * bins
      const place = level * kinds + kind
      const solvable = Math.min(bins, Math.ceil(p))
      edge[place] = Math.floor(p)
      within[place] = Math.round((p - Math.floor(p)) * (1 << lowBits))
      // The solvable part of the draws, in equal steps of its own distribution.
      for (let bin = 0; bin < solvable; bin++) {
        const middle = ((bin + Math.min(bin + 1, p)) / 2 / p) * bins - 0.5
        const low = Math.min(bins - 1, Math.max(0, Math.floor(middle)))
        const high = Math.min(bins - 1, low + 1)
        const quantile = z[low]! + (z[high]! - z[low]!) * Math.max(0, middle - low)
        table[place * bins + bin] = ticks(own.median * exp(own.s * quantile))
      }
    })
  kept.set(classes, { table, edge, within })
  return { table, edge, within }
}

/**
 * Simulated sittings of one section. Each item's solving time is drawn from its class; what is not solved when it is left
 * is guessed, or left blank. Sitting `i` of one seed meets the same items, times and luck whatever the approach (common
 * random numbers), so that small differences between approaches show. `from` is the number of the first sitting. Levels of
 * knowledge are taken in turn. 32-bit mulberry counter; docs/models.md, 5.
 */
export function sitMany(paper: Paper, approach: Approach, sittings: number, seed: number, from = 0): Outcome {
  const { classes } = paper
  const kinds = classes.length
  const levels = levelsOf(classes)
  const { table, edge, within } = drawsOf(classes)
  const marks = Float64Array.from(classes, (own) => own.marks)
  const wrong = Float64Array.from(classes, (own) => own.wrong)
  const blank = Float64Array.from(classes, (own) => own.blank)
  const guess = Float64Array.from(classes, (own) => own.guess * 4294967296)
  const first = prepare(classes, paper.first, approach.first, 0, -Infinity)
  const second = (paper.second ?? []).map((leg, at) =>
    prepare(classes, leg, approach.second![at]!, first.n, leg.from),
  )
  const most = first.n + Math.max(0, ...second.map(({ n }) => n))

  const desk: Desk = {
    seed,
    levels,
    kinds,
    most,
    table,
    edge,
    within,
    marks,
    wrong,
    blank,
    guess,
    solvingTime: new Int32Array(most),
    left: new Int32Array(most),
    elapsed: new Int32Array(most),
    silent: classes.every((own) => own.guess <= 0 && own.blank === 0),
    tally: new Float64Array(ends + 2 * mostPasses),
  }
  const { tally } = desk
  const raw = new Float64Array(sittings)
  const stage = second.length ? new Uint8Array(sittings) : undefined
  for (let sitting = 0; sitting < sittings; sitting++) {
    tally[clock] = 0
    const number = from + sitting
    let earned = sit(desk, first, number, 0)
    if (stage) {
      let taken = 0
      for (let at = 1; at < second.length; at++) if (earned >= second[at]!.from - 1e-9) taken = at
      stage[sitting] = taken
      earned += sit(desk, second[taken]!, number, 1)
    }
    raw[sitting] = earned
  }
  return {
    raw,
    sittings,
    notReached: tally[notReached]! / sittings,
    leftOver: tally[leftOver]! / sittings,
    used: tally[used]! / sittings / tick,
    passEnds: (second.length ? [[first], second] : [[first]]).map((legs, which) =>
      Array.from({ length: Math.max(...legs.map(({ passes }) => passes.length)) }, (_, pass) => {
        const at = ends + which * mostPasses + pass
        return tally[at]! / sittings / tick
      }),
    ),
    stage,
    draws: tally[draws]!,
  }
}

/** Mean of the raw marks. */
export const meanOf = (raw: Float64Array): number => raw.reduce((sum, value) => sum + value, 0) / raw.length
