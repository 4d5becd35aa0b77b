import { oneMore } from './paper'

/** Expected marks of answering with `left` options that cannot be told apart. */
export const guessValue = (left: number, perRight: number, perWrong: number): number =>
  perRight / left - (perWrong * (left - 1)) / left

/** Distribution of the number right of `items` independent ones, each right with chance `p`: length items + 1. */
export function binomial(items: number, p: number): Float64Array {
  let row: Float64Array = Float64Array.of(1)
  for (let item = 0; item < items; item++) row = oneMore(row, p)
  return row
}

export interface Doubts {
  /** Answers thought safe, and the measured rate at which such answers are right. */
  safe: number
  safeRate: number
  /** Items not known, and the options left on each. */
  unsure: number
  optionsLeft: number
  perRight: number
  perWrong: number
  /** Least raw score that reaches the target. */
  rawNeeded: number
}

/**
 * P(raw >= needed) for answering 0, 1, ... all of the unsure items: exact, by convolution of two binomials
 * (a Poisson binomial with two rates). The array has `unsure` + 1 entries.
 */
export function guessingOdds(doubts: Doubts): Float64Array {
  const { perRight, perWrong, rawNeeded } = doubts
  const safe = binomial(doubts.safe, doubts.safeRate)
  // tail[r]: chance of at least r right among the safe ones.
  const tail = new Float64Array(safe.length + 1)
  for (let right = safe.length - 1; right >= 0; right--) tail[right] = tail[right + 1]! + safe[right]!
  const odds = new Float64Array(doubts.unsure + 1)
  const p = 1 / doubts.optionsLeft
  let guesses: Float64Array = Float64Array.of(1)
  for (let guessed = 0; guessed <= doubts.unsure; guessed++) {
    let sum = 0
    for (let lucky = 0; lucky <= guessed; lucky++) {
      // least number right among the safe: r perRight - (safe - r) perWrong + lucky perRight - (guessed - lucky) perWrong >= needed
      const rest = rawNeeded - lucky * perRight + (guessed - lucky) * perWrong + doubts.safe * perWrong
      const least = Math.max(0, Math.ceil(rest / (perRight + perWrong) - 1e-9))
      sum += guesses[lucky]! * (least < tail.length ? tail[least]! : 0)
    }
    odds[guessed] = Math.min(1, sum)
    guesses = oneMore(guesses, p)
  }
  return odds
}

/** How many of the unsure items to answer, and the odds there, with none and with all answered. */
export function bestGuessing(doubts: Doubts): { best: number; odds: number; none: number; all: number } {
  const odds = guessingOdds(doubts)
  let best = 0
  for (let guessed = 1; guessed < odds.length; guessed++)
    if (odds[guessed]! > odds[best]! + 1e-12) best = guessed
  return { best, odds: odds[best]!, none: odds[0]!, all: odds[odds.length - 1]! }
}
