import { begun, chanceAfter, type Keeping, keptBy, type Memory, relearned, strengthAfter } from './memory'

/** What is remembered of many cards, a row each. */
export interface Deck {
  /** Days and 1 to 10, as in `Memory`; of a card that was begun. */
  stability: Float64Array
  difficulty: Float64Array
  /** The day of the last answer, and `unbegun` where there was none. */
  last: Float64Array
  /** Seconds that an answer takes when it comes back. */
  seconds: Float64Array
  /** What it is worth that a card comes back on the exam day, against the others. */
  worth: Float64Array
}
const unbegun = -1e9
/** What does not come back is looked up and learned again, as a new card is learned: so many times the seconds of one that does. */
export const timesLost = 2.5
/** Of new cards so many are known at the first sight: a choice, until their own answers say more. */
export const knownAtFirst = 0.6

/** Cards of which nothing is remembered yet. */
export const freshDeck = (cards: number, seconds = 8): Deck => ({
  stability: new Float64Array(cards),
  difficulty: new Float64Array(cards),
  last: new Float64Array(cards).fill(unbegun),
  seconds: new Float64Array(cards).fill(seconds),
  worth: new Float64Array(cards).fill(1),
})
/** A deck of some rows of another. */
export function rowsOf(deck: Deck, rows: readonly number[]): Deck {
  const take = (column: Float64Array) => Float64Array.from(rows, (row) => column[row] ?? 0)
  return {
    stability: take(deck.stability),
    difficulty: take(deck.difficulty),
    last: take(deck.last),
    seconds: take(deck.seconds),
    worth: take(deck.worth),
  }
}
export const cardsIn = ({ last }: Deck): number => last.length
export const isBegun = ({ last }: Deck, card: number): boolean => last[card] !== unbegun

/** Writes the memory of a card into its row. */
export function remember(deck: Deck, card: number, { stability, difficulty, day }: Memory): void {
  deck.stability[card] = stability
  deck.difficulty[card] = difficulty
  deck.last[card] = day
}
/** Of a card whose only answer was taken back nothing is remembered. */
export const forget = (deck: Deck, card: number): void => void (deck.last[card] = unbegun)
/** The chance that a card comes back on a day; none before it was begun. */
export const chanceOf = (deck: Deck, card: number, day: number): number =>
  isBegun(deck, card) ? chanceAfter(deck.stability[card] ?? 0, day - (deck.last[card] ?? 0)) : 0

/** Seconds that an answer takes, as far as is known before it is given. */
export function secondsExpected(
  deck: Deck,
  card: number,
  day: number,
  chance = chanceOf(deck, card, day),
): number {
  const seconds = deck.seconds[card] ?? 0
  return seconds * (chance + (1 - chance) * timesLost)
}

/** Writes what an answer leaves: one that came back well, or did not and was learned again on the day. */
export function answer(deck: Deck, card: number, day: number, back: boolean, keeping: Keeping): void {
  if (!isBegun(deck, card)) return remember(deck, card, { ...begun(back, keeping), day })
  const before = { stability: deck.stability[card] ?? 0, difficulty: deck.difficulty[card] ?? 0 }
  remember(deck, card, { ...strengthAfter(before, chanceOf(deck, card, day), back, keeping), day })
}

/** What answering a card today adds to the chance that it comes back on the exam day, `left` days from today. */
export function gainOf(deck: Deck, card: number, day: number, left: number, keeping: Keeping): number {
  if (!isBegun(deck, card))
    return (
      knownAtFirst * chanceAfter(begun(true, keeping).stability, left) +
      (1 - knownAtFirst) * chanceAfter(begun(false, keeping).stability, left)
    )
  const stability = deck.stability[card] ?? 0
  const difficulty = deck.difficulty[card] ?? 0
  const chance = chanceOf(deck, card, day)
  const back = chanceAfter(keptBy(stability, difficulty, chance, keeping), left)
  const lost = chanceAfter(relearned(stability, difficulty, chance), left)
  return chance * back + (1 - chance) * lost - chanceOf(deck, card, day + left)
}
