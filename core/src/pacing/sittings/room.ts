import type { Draws } from '../draws'

/**
 * Sittings that are worked at together, item by item: what belongs to an item stays in registers and the nearest cache
 * while it is looked at in all of them, and no sitting waits for itself.
 */
export const together = 128

/**
 * The sittings of one block, a bench of each level of knowledge. What a seat holds moves when a sitting before it runs out of
 * time.
 */
export interface Room {
  /** By sitting of the block: its number, place in the random sequence, and level of knowledge. */
  number: Int32Array
  counter: Int32Array
  level: Int32Array
  /** Ticks on the clock, and when the leg began. */
  clock: Int32Array
  begun: Int32Array
  earned: Float64Array
  /** Items done before time ran out, and the place after its last item in the list of what is left. */
  reached: Int32Array
  listed: Int32Array
  /** What is left, `width` places a sitting. */
  left: Int32Array
  width: number
  /**
   * By seat, for the time of the first look. They and what is left are views of one array, `bench`: that the innermost loop
   * has but one array to write to is worth a quarter of its time.
   */
  bench: Int32Array
  seat: Seats
}

interface Seats {
  sitting: Int32Array
  counter: Int32Array
  clock: Int32Array
  listed: Int32Array
}

/** What all sittings share. */
export interface Desk extends Draws {
  seed: number
  levels: number
  kinds: number
  /** Random numbers are kept free for so many items a sitting. */
  items: number
  marks: Float64Array
  wrong: Float64Array
  blank: Float64Array
  guess: Float64Array
  /** Nothing is guessed and blanks earn nothing: what is left need not be looked at again. */
  silent: boolean
  room: Room
  sums: Sums
}

/** Sums over all sittings. */
export interface Sums {
  notReached: number
  leftOver: number
  used: number
  draws: number
  passEnds: [Float64Array, Float64Array]
}
export const mostPasses = 6

export function roomFor(width: number, size: number): Room {
  const whole = () => new Int32Array(size)
  // One place more for each: what is solved is listed too, and written over.
  const bench = new Int32Array(3 * together + size * (width + 1))
  return {
    number: whole(),
    counter: whole(),
    level: whole(),
    clock: whole(),
    begun: whole(),
    earned: new Float64Array(size),
    reached: whole(),
    listed: whole(),
    bench,
    left: bench.subarray(3 * together),
    width: width + 1,
    seat: {
      sitting: new Int32Array(together),
      counter: bench.subarray(0, together),
      clock: bench.subarray(together, 2 * together),
      listed: bench.subarray(2 * together, 3 * together),
    },
  }
}
