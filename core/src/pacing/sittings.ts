import {
  allTicks,
  bins,
  type Draws,
  drawsOf,
  hash,
  imul,
  levelsOf,
  type SatClass,
  solvingTicks,
  stride32,
  tick,
  ticks,
} from './draws'
import { markSeconds } from './leave'

export type { SatClass } from './draws'

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
const markTicks = markSeconds * tick
const returnTicks = returnSeconds * tick

/** A leg with its times in ticks. */
interface Prepared {
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

interface PreparedPass {
  /** Ticks, counted from the first look, at which each item is left. */
  limits: Int32Array
  /** Ticks given to each item before this pass. */
  before: Int32Array
  /** Ticks of coming back to it, or of reading what was not read. */
  back: Int32Array
  /** Some items have not been looked at before this pass. */
  fresh: boolean
}

function prepare(classes: SatClass[], leg: Leg, passes: Passes, firstDraw: number, from: number): Prepared {
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

/**
 * Sittings that are worked at together, item by item: what belongs to an item stays in registers and the nearest cache
 * while it is looked at in all of them, and no sitting waits for itself.
 */
const together = 128

/**
 * The sittings of one block, a bench of each level of knowledge. What a seat holds moves when a sitting before it runs out of
 * time.
 */
interface Room {
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
interface Desk extends Draws {
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
interface Sums {
  notReached: number
  leftOver: number
  used: number
  draws: number
  passEnds: [Float64Array, Float64Array]
}
const mostPasses = 6

function roomFor(width: number, size: number): Room {
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
function firstLook(desk: Desk, leg: Prepared, sittings: Int32Array): void {
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

/** One more pass of a sitting through what is left. Returns how many of it have not been looked at. */
function anotherPass(desk: Desk, leg: Prepared, pass: PreparedPass, sitting: number): number {
  const { room, marks } = desk
  const { left } = room
  const { limits, before, back, fresh } = pass
  const { of, lastly } = leg
  const start = sitting * room.width
  const end = room.listed[sitting]!
  const counter = room.counter[sitting]!
  const row = room.level[sitting]! * desk.kinds
  let clock = room.clock[sitting]!
  let earned = room.earned[sitting]!
  let kept = start
  let unseen = 0
  let place = start
  for (; place < end; place++) {
    const item = left[place]!
    const limit = limits[item]!
    const spent = before[item]!
    if (limit > spent) {
      const kind = of[item]!
      const solve = solvingTicks(desk, row + kind, hash((counter + imul(2 * item + 1, stride32)) | 0))
      const next = clock + back[item]! + (solve < limit ? solve : limit) - spent
      if (next > lastly) {
        clock = leg.until
        break
      }
      clock = next
      if (solve <= limit) {
        earned += marks[kind]!
        continue
      }
    } else if (spent === 0) unseen++
    left[kept++] = item
  }
  // The one at which time ran out was looked at.
  if (place < end) left[kept++] = left[place++]!
  if (kept === place && !fresh) kept = end
  else
    for (; place < end; place++) {
      const item = left[place]!
      if (before[item] === 0) unseen++
      left[kept++] = item
    }
  room.listed[sitting] = kept
  room.clock[sitting] = clock
  room.earned[sitting] = earned
  return unseen
}

/** What stays unsolved is guessed where that pays, else left blank; the marks of it. */
function settle(desk: Desk, leg: Prepared, sitting: number): number {
  const { room, guess, marks, wrong, blank } = desk
  const { of } = leg
  const counter = room.counter[sitting]!
  const end = room.listed[sitting]!
  let earned = 0
  let drawn = 0
  for (let place = sitting * room.width; place < end; place++) {
    const item = room.left[place]!
    const kind = of[item]!
    if (guess[kind]! > 0) {
      drawn++
      const u = hash((counter + imul(2 * item + 2, stride32)) | 0) >>> 0
      earned += u < guess[kind]! ? marks[kind]! : -wrong[kind]!
    } else earned += blank[kind]!
  }
  desk.sums.draws += drawn
  return earned
}

/** Marks of what the first pass has solved: of all that it looked at, less what it listed. */
function solvedMarks({ marks, room }: Desk, { of, upTo, each }: Prepared, sitting: number): number {
  const reached = room.reached[sitting]!
  const start = sitting * room.width
  const end = room.listed[sitting]!
  if (each !== undefined) return each * (reached - (end - start))
  let left = 0
  for (let place = start; place < end; place++) left += marks[of[room.left[place]!]!]!
  return upTo[reached]! - left
}

/** After the first look at a leg: later passes, then what is left at the end. */
function finish(desk: Desk, leg: Prepared, which: 0 | 1, sitting: number): void {
  const { room, sums, silent } = desk
  const { left, listed } = room
  const ends = sums.passEnds[which]
  const begun = room.begun[sitting]!
  const reached = room.reached[sitting]!
  let unseen = 0
  let pass = 1
  let unlisted = 0
  ends[0]! += room.clock[sitting]! - begun
  sums.draws += reached
  room.earned[sitting] = solvedMarks(desk, leg, sitting)
  if (reached < leg.end) {
    // Time ran out at this item; it and all after it are filled in if that pays.
    unseen = leg.n - reached - 1
    if (silent) unlisted = leg.n - reached
    else for (let item = reached; item < leg.n; item++) left[listed[sitting]!++] = item
  } else {
    // Items that the first pass does not look at, at its end, are listed after the others.
    for (let item = leg.end; item < leg.n; item++) left[listed[sitting]!++] = item
    sums.draws += leg.n - leg.end
    unseen = unseenAfter(leg, room, sitting)
    for (; pass < leg.passes.length && room.clock[sitting]! < leg.until; pass++) {
      unseen = anotherPass(desk, leg, leg.passes[pass]!, sitting)
      ends[pass]! += room.clock[sitting]! - begun
    }
  }
  const used = room.clock[sitting]! - begun
  for (; pass < mostPasses; pass++) ends[pass]! += used
  sums.notReached += unseen
  sums.leftOver += listed[sitting]! - sitting * room.width + unlisted - unseen
  sums.used += used
  if (!silent) room.earned[sitting]! += settle(desk, leg, sitting)
}

/** How many of those listed in the first pass it has gone past. */
function unseenAfter({ passes, end, n }: Prepared, { left, listed, width }: Room, sitting: number): number {
  const { limits } = passes[0]!
  let unseen = n - end
  for (let place = sitting * width; place < listed[sitting]! - (n - end); place++)
    if (limits[left[place]!]! <= 0) unseen++
  return unseen
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
  const marks = Float64Array.from(classes, (own) => own.marks)
  const wrong = Float64Array.from(classes, (own) => own.wrong)
  const blank = Float64Array.from(classes, (own) => own.blank)
  const guess = Float64Array.from(classes, (own) => own.guess * 4294967296)
  const first = prepare(classes, paper.first, approach.first, 0, -Infinity)
  const second = (paper.second ?? []).map((leg, at) =>
    prepare(classes, leg, approach.second![at]!, first.n, leg.from),
  )
  const width = Math.max(first.n, ...second.map(({ n }) => n))
  // So many that a whole bench of each level is found among them.
  const size = Math.min(sittings, together * levels)
  const room = roomFor(width, size)
  const sums: Sums = {
    notReached: 0,
    leftOver: 0,
    used: 0,
    draws: 0,
    passEnds: [new Float64Array(mostPasses), new Float64Array(mostPasses)],
  }
  const desk: Desk = {
    seed,
    levels,
    kinds,
    items: first.n + Math.max(0, ...second.map(({ n }) => n)),
    ...drawsOf(classes),
    marks,
    wrong,
    blank,
    guess,
    silent: classes.every((own) => own.guess <= 0 && own.blank === 0),
    room,
    sums,
  }
  const raw = new Float64Array(sittings)
  const stage = second.length ? new Uint8Array(sittings) : undefined
  const order = new Int32Array(size)
  for (let begin = 0; begin < sittings; begin += size) {
    const many = Math.min(size, sittings - begin)
    const inOrder = order.subarray(0, many)
    let seat = 0
    for (let level = 0; level < levels; level++) {
      // The first sitting of the block that is of this level, and every so many after it.
      const start = (level - ((from + begin) % levels) + levels) % levels
      for (let at = start; at < many; at += levels) {
        inOrder[seat++] = at
        room.number[at] = from + begin + at
        room.level[at] = level
        room.clock[at] = 0
      }
    }
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
