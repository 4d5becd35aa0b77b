import { exp } from '../exact/functions'
import { normalQuantile } from '../exact/normal'
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

/** A draw's first 11 bits choose one of so many equally likely times; the bits after them decide at the edge of p. */
export const bins = 2048
export const lowBits = 21
/** Times are whole ticks inside the simulation: 64 to a second. */
export const tick = 64
/** Longer than any stay, and short enough to be added to. */
export const never = 1 << 29
export const stride32 = 0x6d2b79f5

/** Bound once: looked up on the global object, it is slow in some hosts (Node's vm contexts, where the tests run). */
export const { imul } = Math

export const ticks = (seconds: number): number => Math.min(never, Math.round(seconds * tick))
export const allTicks = (seconds: number[]): Int32Array => Int32Array.from(seconds, ticks)

/** The 32-bit hash of one counter: uniform over all of them, with a sign, as the processor has them. */
export function hash(counter: number): number {
  let mixed = imul(counter ^ (counter >>> 15), 1 | counter)
  mixed = (mixed + imul(mixed ^ (mixed >>> 7), 61 | mixed)) ^ mixed
  return mixed ^ (mixed >>> 14)
}

/** Ticks in which an item is solved, of a draw; at the edge of p the low bits decide whether it can be. */
export function solvingTicks({ table, edge, within }: Draws, kind: number, u: number): number {
  const bin = u >>> lowBits
  return bin !== edge[kind]! || (u & ((1 << lowBits) - 1)) < within[kind]! ? table[kind * bins + bin]! : never
}

let quantiles: Float64Array | undefined
/** Normal quantiles at the middles of equally likely bins; the lower half mirrors the upper. */
function normalBins(): Float64Array {
  if (quantiles) return quantiles
  quantiles = new Float64Array(bins)
  for (let bin = bins / 2; bin < bins; bin++) {
    const z = normalQuantile((bin + 0.5) / bins)
    quantiles[bin] = z
    quantiles[bins - 1 - bin] = -z
  }
  return quantiles
}

/** What the draws of some classes stand for; row `level x classes + class`. */
export interface Draws {
  /** Solving times in ticks, a row of `bins` for each; what cannot be solved stands at the end. */
  table: Int32Array
  /** By row: the bin in which p ends, and the low bits below which a draw of that bin still lies within p. */
  edge: Int32Array
  within: Int32Array
}
export const levelsOf = (classes: SatClass[]): number =>
  Math.max(1, ...classes.map((own) => own.levels?.length ?? 1))
/** Tables of the classes met last: a search sits the same paper hundreds of times. */
const kept = new WeakMap<SatClass[], Draws>()

/** Solving times by level, class and draw. Units: ticks. */
export function drawsOf(classes: SatClass[]): Draws {
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
