import { drawsOf, imul, levelsOf, type SatClass, stride32, tick } from '../draws'
import { finish } from './finish'
import { firstLook } from './firstLook'
import { type Approach, type Paper, type Prepared, prepare } from './paper'
import { type Desk, mostPasses, roomFor, together } from './room'

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

/** One leg, the first (0) or the second (1), by some sittings of the room. */
function sit(desk: Desk, leg: Prepared, which: 0 | 1, sittings: Int32Array): void {
  const { room } = desk
  for (const sitting of sittings) {
    room.counter[sitting] =
      (desk.seed + imul(imul(room.number[sitting]!, desk.items) + leg.firstDraw, 2 * stride32)) | 0
    room.begun[sitting] = room.clock[sitting]!
  }
  firstLook(desk, leg, sittings)
  for (const sitting of sittings) finish(desk, leg, which, sitting)
}

/** What sittings of a paper share, with a room for `size` of them at once. */
function deskFor(classes: SatClass[], first: Prepared, second: Prepared[], size: number, seed: number): Desk {
  const longest = Math.max(0, ...second.map(({ n }) => n))
  return {
    seed,
    levels: levelsOf(classes),
    kinds: classes.length,
    items: first.n + longest,
    ...drawsOf(classes),
    marks: Float64Array.from(classes, (own) => own.marks),
    wrong: Float64Array.from(classes, (own) => own.wrong),
    blank: Float64Array.from(classes, (own) => own.blank),
    guess: Float64Array.from(classes, (own) => own.guess * 4294967296),
    silent: classes.every((own) => own.guess <= 0 && own.blank === 0),
    room: roomFor(Math.max(first.n, longest), size),
    sums: {
      notReached: 0,
      leftOver: 0,
      used: 0,
      draws: 0,
      passEnds: [new Float64Array(mostPasses), new Float64Array(mostPasses)],
    },
  }
}

/** Fills the room with the sittings from number `from` on; `inOrder` gets their places by rising level of knowledge. */
function comeIn({ room, levels }: Desk, inOrder: Int32Array, from: number): void {
  let seat = 0
  for (let level = 0; level < levels; level++) {
    // The first sitting of the block that is of this level, and every so many after it.
    const start = (level - (from % levels) + levels) % levels
    for (let at = start; at < inOrder.length; at += levels) {
      inOrder[seat++] = at
      room.number[at] = from + at
      room.level[at] = level
      room.clock[at] = 0
    }
  }
}

/**
 * Simulated sittings of one section. Each item's solving time is drawn from its class; what is not solved when it is left
 * is guessed, or left blank. Sitting `i` of one seed meets the same items, times and luck whatever the approach (common
 * random numbers), so that small differences between approaches show. `from` is the number of the first sitting. Levels of
 * knowledge are taken in turn. 32-bit mulberry counter; docs/models.md, 5.
 */
export function sitMany(paper: Paper, approach: Approach, sittings: number, seed: number, from = 0): Outcome {
  const { classes } = paper
  const levels = levelsOf(classes)
  const first = prepare(classes, paper.first, approach.first, 0, -Infinity)
  const second = (paper.second ?? []).map((leg, at) =>
    prepare(classes, leg, approach.second![at]!, first.n, leg.from),
  )
  // So many that a whole bench of each level is found among them.
  const size = Math.min(sittings, together * levels)
  const desk = deskFor(classes, first, second, size, seed)
  const { room, sums } = desk
  const raw = new Float64Array(sittings)
  const stage = second.length ? new Uint8Array(sittings) : undefined
  const order = new Int32Array(size)
  for (let begin = 0; begin < sittings; begin += size) {
    const many = Math.min(size, sittings - begin)
    const inOrder = order.subarray(0, many)
    comeIn(desk, inOrder, from + begin)
    sit(desk, first, 0, inOrder)
    for (let at = 0; at < many; at++) raw[begin + at] = room.earned[at]!
    if (!stage) continue
    for (let at = 0; at < many; at++)
      for (let led = 1; led < second.length; led++)
        if (raw[begin + at]! >= second[led]!.from - 1e-9) stage[begin + at] = led
    second.forEach((leg, led) =>
      sit(
        desk,
        leg,
        1,
        inOrder.filter((at) => stage[begin + at] === led),
      ),
    )
    for (let at = 0; at < many; at++) raw[begin + at]! += room.earned[at]!
  }
  return {
    raw,
    sittings,
    notReached: sums.notReached / sittings,
    leftOver: sums.leftOver / sittings,
    used: sums.used / sittings / tick,
    passEnds: (second.length ? [[first], second] : [[first]]).map((legs, which) =>
      Array.from(
        { length: Math.max(...legs.map(({ passes }) => passes.length)) },
        (_, pass) => sums.passEnds[which]![pass]! / sittings / tick,
      ),
    ),
    stage,
    draws: sums.draws,
  }
}

/** Mean of the raw marks. */
export const meanOf = (raw: Float64Array): number => raw.reduce((sum, value) => sum + value, 0) / raw.length
