import type { Card, CardHistory } from '@climber/contract'
import { type Deck, forget, freshDeck, remember } from './deck'
import type { CardAnswers } from './keeping'
import { answered, type Keeping, type Memory, type RecallGrade } from './memory'

/** What is known of one thing that is asked. */
export interface KnownCard {
  id: string
  /** Answers, and days on which it had been begun and did not come back. */
  answers: number
  lapses: number
  /** Nothing where it was never answered. */
  memory?: Memory
}
type Answers = CardHistory['answers']
/** What is asked: a card of some kind, or an item that was missed. */
export type AskedKind = Card['kind'] | 'item'

/** Lapses from which a card is told as one that does not stay, and is worth a review of its own: a choice. */
const leechFrom = 6
/** Seconds of an answer that comes back, by kind, before there are answers of one's own: choices. */
export const usualSeconds: Record<AskedKind, number> = { card: 8, place: 15, numbers: 75, item: 90 }
/** So many answers of one's own say how long one takes. */
const enough = 5

const asGrade = (grade: number): RecallGrade => Math.min(4, Math.max(1, Math.round(grade))) as RecallGrade

/** A card's answers put together, from the first to the last. */
export function knownOf(id: string, answers: Answers, keeping: Keeping): KnownCard {
  let memory: Memory | undefined
  let lapses = 0
  for (const [day, grade] of answers) {
    // What does not come back twice on a day was forgotten once.
    if (grade === 1 && memory && day > memory.day) lapses += 1
    memory = answered(memory, asGrade(grade), day, keeping)
  }
  return { id, answers: answers.length, lapses, ...(memory && { memory }) }
}
/** Whether something does not stay: as often forgotten since it was looked at for that. */
export const isLeech = ({ lapses }: KnownCard, looked = 0): boolean => lapses - looked >= leechFrom

/** A card's answers as they tell how a memory keeps: of each day the first. Undefined where there is only one day, which tells nothing. */
export function tellingOf(answers: Answers): CardAnswers | undefined {
  const firsts = answers.filter(([day], at) => day !== answers[at - 1]?.[0])
  const [first, ...later] = firsts
  if (!first || !later.length) return undefined
  return {
    known: first[1] > 1,
    later: later.map(([day, grade], at) => ({ days: day - (firsts[at]?.[0] ?? day), back: grade > 1 })),
  }
}

const medianOf = (values: number[]): number => values.sort((a, b) => a - b)[values.length >> 1] ?? 0

/** Seconds that an answer that comes back takes, by kind: the middle of one's own, or the usual ones. */
export function secondsOf(
  cards: readonly { id: string; kind: AskedKind }[],
  histories: ReadonlyMap<string, Answers>,
): Record<AskedKind, number> {
  const own: Record<AskedKind, number[]> = { card: [], place: [], numbers: [], item: [] }
  for (const { id, kind } of cards)
    for (const [, grade, seconds] of histories.get(id) ?? [])
      if (grade > 1 && seconds > 0) own[kind].push(seconds)
  const of = (kind: AskedKind) => (own[kind].length < enough ? usualSeconds[kind] : medianOf(own[kind]))
  return { card: of('card'), place: of('place'), numbers: of('numbers'), item: of('item') }
}

type Decked = { card: { kind: AskedKind; topic?: string }; known: KnownCard }
/** Writes a card into its row; `worth` says what a topic's cards are worth against others. */
export function intoRow(
  deck: Deck,
  row: number,
  { card: { kind, topic }, known: { memory } }: Decked,
  seconds: Record<AskedKind, number>,
  worth: (topic: string | undefined) => number = () => 1,
): void {
  deck.seconds[row] = seconds[kind]
  deck.worth[row] = worth(topic)
  if (memory) remember(deck, row, memory)
  else forget(deck, row)
}
/** Cards as a deck to schedule, a row each in their order. */
export function deckFrom(
  cards: readonly Decked[],
  seconds: Record<AskedKind, number>,
  worth?: (topic: string | undefined) => number,
): Deck {
  const deck = freshDeck(cards.length)
  for (let row = 0; row < cards.length; row++) intoRow(deck, row, cards[row]!, seconds, worth)
  return deck
}
