import { normalQuantile } from '../src/exact/normal'
import { markSeconds } from '../src/pacing/leave'
import { type Approach, type Paper, returnSeconds, type SatClass } from '../src/pacing/sittings/paper'

/** Everything in ticks of a 64th of a second, as docs/models.md, 5 has it. */
const ticks = (seconds: number) => Math.min(2 ** 29, Math.round(seconds * 64))
const never = 2 ** 29
const stride = 0x6d2b79f5
const quantiles = Array.from({ length: 2048 }, (_, at) => normalQuantile((at + 0.5) / 2048))
const { imul, exp } = Math

/** Draw `number` of a seed: 32-bit mulberry, uniform over the whole numbers below 2^32. */
function draw(seed: number, number: number): number {
  const counter = (seed + imul(number, stride)) | 0
  let mixed = imul(counter ^ (counter >>> 15), 1 | counter)
  mixed = (mixed + imul(mixed ^ (mixed >>> 7), 61 | mixed)) ^ mixed
  return (mixed ^ (mixed >>> 14)) >>> 0
}

/** Solving ticks of a draw: the first 11 bits choose the bin, the low bits decide in the bin that p ends in. */
function solving(own: SatClass, level: number, u: number): number {
  const p = (own.levels?.[level] ?? own.p) * 2048
  const bin = Math.floor(u / 2 ** 21)
  const edge = Math.floor(p)
  if (bin > edge || (bin === edge && u % 2 ** 21 >= Math.round((p - edge) * 2 ** 21))) return never
  const place = ((bin + Math.min(bin + 1, p)) / 2 / p) * 2048 - 0.5
  const low = Math.min(2047, Math.max(0, Math.floor(place)))
  const high = Math.min(2047, low + 1)
  const z = (at: number) => quantiles[at]!
  return ticks(own.median * exp(own.s * (z(low) + (z(high) - z(low)) * Math.max(0, place - low))))
}

/**
 * One sitting, the long way: a list of items, each with what has been given to it, gone through pass by pass. Written from
 * the model and apart from `sitMany`, whose marks it must give sitting by sitting.
 */
export function plainSitting(paper: Paper, approach: Approach, seed: number, number: number): number {
  const { classes } = paper
  const levels = Math.max(1, ...classes.map((own) => own.levels?.length ?? 1))
  const longest = Math.max(0, ...(paper.second ?? []).map(({ of }) => of.length))
  const items = paper.first.of.length + longest
  let clock = 0
  const leg = ({ of, reading, setStart, until }: Paper['first'], passes: number[][], firstDraw: number) => {
    const fill = (at: number) => (classes[of[at]!]!.guess > 0 ? 2 : 0)
    const after = (from: number) => of.slice(from).reduce((sum, _, at) => sum + fill(from + at), 0)
    const end = of.reduce((last, _, at) => (passes[0]![at]! > 0 ? at + 1 : last), 0)
    const toRead = reading.map(ticks)
    const own = of.map((kind, at) => ({
      kind,
      given: 0,
      solved: false,
      solve: solving(classes[kind]!, number % levels, draw(seed, 2 * (number * items + firstDraw + at) + 1)),
      luck: draw(seed, 2 * (number * items + firstDraw + at) + 2),
    }))
    let out = false
    passes.forEach((limits, pass) => {
      for (const [at, item] of own.entries()) {
        const limit = ticks(limits[at]!)
        if (out || item.solved || (pass === 0 && at >= end)) continue
        // Where the first pass goes past an item, its mark of doubt still costs.
        const start = pass === 0 ? setStart[at]! : at
        const read = pass === 0 && limit <= 0 ? 0 : toRead[start]!
        if (pass > 0 && limit <= item.given) continue
        const back = pass > 0 && item.given > 0 ? ticks(returnSeconds) : read
        const missed = item.solve > limit
        const mark = pass === 0 && missed ? ticks(markSeconds) : 0
        const latest = pass === 0 ? ticks(until - after(at + 1)) : ticks(until) - ticks(after(end))
        const next = clock + back + Math.min(item.solve, limit) - item.given + mark
        if (next > latest) {
          clock = ticks(until)
          out = true
          continue
        }
        if (back === read) toRead[start] = 0
        clock = next
        item.given = limit
        item.solved = !missed
      }
    })
    return own.reduce((sum, { kind, solved, luck }) => {
      const { marks, wrong, blank, guess } = classes[kind]!
      return sum + (solved ? marks : guess <= 0 ? blank : luck < guess * 2 ** 32 ? marks : -wrong)
    }, 0)
  }
  const first = leg(paper.first, approach.first, 0)
  if (!paper.second) return first
  let stage = 0
  for (const [at, { from }] of paper.second.entries()) if (at > 0 && first >= from - 1e-9) stage = at
  return first + leg(paper.second[stage]!, approach.second![stage]!, paper.first.of.length)
}
