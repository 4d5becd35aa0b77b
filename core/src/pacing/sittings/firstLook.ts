import { bins, type Draws, imul, stride32, tick } from '../draws'
import { markSeconds } from '../leave'
import type { Prepared } from './paper'
import { type Desk, together } from './room'

const markTicks = markSeconds * tick

/**
 * One item looked at in the sittings of the seats from `seat` on: those who do not solve it within `limit` list
 * it. Whether an item is solved is a coin toss to the processor, so it is worked out without branching.
 * Returns the first seat whose sitting would not be done by `latest`, or `end`. Nothing is called from inside, and
 * `hash`, `lowBits` and `never` are written out: bundled, a name of the module is read anew for every seat.
 */
function lookAt(
  bench: Int32Array,
  seat: number,
  end: number,
  { table, edge, within }: Draws,
  kind: number,
  item: number,
  limit: number,
  before: number,
  latest: number,
): number {
  const mul = imul
  const clocks = together
  const lists = 2 * together
  const step = mul(2 * item + 1, stride32)
  const given = (limit + markTicks) | 0
  const row = mul(kind, bins)
  const last = edge[kind]!
  const low = within[kind]!
  for (; seat < end; seat++) {
    const own = (bench[seat]! + step) | 0
    let u = mul(own ^ (own >>> 15), 1 | own)
    u = (u + mul(u ^ (u >>> 7), 61 | u)) ^ u
    u ^= u >>> 14
    const bin = u >>> 21
    let solve = table[row + bin]!
    if (bin === last && (u & 0x1fffff) >= low) solve = 0x20000000
    // All ones where it takes longer than the limit, else 0.
    const missed = (limit - solve) >> 31
    const next = (bench[seat + clocks]! + before + solve + (missed & (given - solve))) | 0
    if (next > latest) break
    bench[seat + clocks] = next
    const place = bench[seat + lists]!
    bench[place] = item
    bench[seat + lists] = place - missed
  }
  return seat
}

/** The first pass of a leg by `sittings` of the room, in rising order of their level of knowledge. */
export function firstLook(desk: Desk, leg: Prepared, sittings: Int32Array): void {
  const { level } = desk.room
  for (let first = 0, after = 0; first < sittings.length; first = after) {
    const own = level[sittings[first]!]!
    while (after < sittings.length && level[sittings[after]!] === own) after++
    sitDown(desk, leg, own * desk.kinds, sittings.subarray(first, after))
  }
}

/** The same by sittings of one level, as many as have a seat; `row` is where the level's classes begin. */
function sitDown(desk: Desk, leg: Prepared, row: number, sittings: Int32Array): void {
  const { room } = desk
  const { seat: seats, bench } = room
  const { limits } = leg.passes[0]!
  let end = sittings.length
  for (let seat = 0; seat < end; seat++) {
    const sitting = sittings[seat]!
    seats.sitting[seat] = sitting
    seats.counter[seat] = room.counter[sitting]!
    seats.clock[seat] = room.clock[sitting]!
    seats.listed[seat] = 3 * together + sitting * room.width
  }
  const standUp = (seat: number, clock: number, reached: number) => {
    const sitting = seats.sitting[seat]!
    room.clock[sitting] = clock
    room.reached[sitting] = reached
    room.listed[sitting] = seats.listed[seat]! - 3 * together
  }
  const move = (from: number, to: number) => {
    seats.sitting[to] = seats.sitting[from]!
    seats.counter[to] = seats.counter[from]!
    seats.clock[to] = seats.clock[from]!
    seats.listed[to] = seats.listed[from]!
  }
  for (let item = 0; item < leg.end && end > 0; item++) {
    const kind = row + leg.of[item]!
    const limit = limits[item]!
    const before = leg.before[item]!
    const latest = leg.latest[item]!
    for (let seat = 0; ;) {
      seat = lookAt(bench, seat, end, desk, kind, item, limit, before, latest)
      if (seat === end) break
      // Its time is over: the last takes its seat.
      standUp(seat, leg.until, item)
      move(--end, seat)
    }
  }
  for (let seat = 0; seat < end; seat++) standUp(seat, seats.clock[seat]!, leg.end)
}
