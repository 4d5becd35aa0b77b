import { hash, imul, solvingTicks, stride32 } from '../draws'
import type { Prepared, PreparedPass } from './paper'
import { type Desk, mostPasses, type Room } from './room'

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
export function finish(desk: Desk, leg: Prepared, which: 0 | 1, sitting: number): void {
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
