import type { Answer, CardHistory, RecallAnswer, StoredCard } from '@climber/contract'
import { dayNumber } from '@climber/core'
import { actionOf, type Entry } from './entry'
import type { Settled } from './outbox'

/** A deck as the server has it. */
export type StoredDeck = Answer<'readRecall'>

/** A list in which some took the place of those of the same name, or were put behind; the same list where there are none. */
function replaced<T>(list: T[], fresh: readonly T[], nameOf: (one: T) => string): T[] {
  if (!fresh.length) return list
  const found = new Map(list.map((one) => [nameOf(one), one]))
  for (const one of fresh) found.set(nameOf(one), one)
  return [...found.values()]
}
const idOf = ({ id }: StoredCard): string => id
const cardOf = ({ card }: CardHistory): string => card

/** A deck as it was read, with what the server confirmed since. */
export function confirmedDeck(deck: StoredDeck, { route, answer, body }: Settled): StoredDeck {
  if (route === 'saveCards') {
    const { saved, gone } = answer as Answer<'saveCards'>
    const versions = new Map(deck.cards.map(({ id, version }) => [id, version]))
    const news = saved.filter(({ id, version }) => version >= (versions.get(id) ?? 0))
    const left = gone.length ? deck.cards.filter(({ id }) => !gone.includes(id)) : deck.cards
    return { ...deck, cards: replaced(left, news, idOf) }
  }
  if (route === 'answerCards') {
    const { histories } = answer as Answer<'answerCards'>
    const ids = (body as { answers: RecallAnswer[] }).answers.map(({ id }) => id)
    return {
      ...deck,
      histories: replaced(deck.histories, histories, cardOf),
      recent: [...new Set([...deck.recent, ...ids])],
    }
  }
  return deck
}

type Answers = CardHistory['answers']
const sameAs =
  ([day, grade, seconds]: Answers[number]) =>
  (one: Answers[number]): boolean =>
    one[0] === day && one[1] === grade && one[2] === seconds

/** A history with one answer more, or without one that was taken back. */
function withAnswer(
  answers: Answers,
  { on, grade, seconds, undone }: RecallAnswer,
  isThere: boolean,
): Answers {
  const own: Answers[number] = [dayNumber(on), grade, Math.round(seconds)]
  if (!undone) return isThere ? answers : [...answers, own].sort((one, two) => one[0] - two[0])
  const at = isThere ? answers.findLastIndex(sameAs(own)) : -1
  return at < 0 ? answers : answers.toSpliced(at, 1)
}

/** A deck with what waits to be sent on top, as the server will have it. */
export function withWaitingCards(deck: StoredDeck, waiting: readonly Entry[]): StoredDeck {
  const changed: StoredCard[] = []
  const gone = new Set<string>()
  const histories = new Map<string, Answers>()
  const known = new Set(deck.recent)
  const before = new Map(deck.histories.map((one) => [one.card, one.answers]))
  for (const entry of waiting) {
    const { cards = [], gone: deleted = [] } = actionOf(entry, 'saveCards')?.body ?? {}
    for (const { card, version } of cards) {
      gone.delete(card.id)
      changed.push({ ...card, version })
    }
    for (const { id } of deleted) gone.add(id)
    for (const one of actionOf(entry, 'answerCards')?.body.answers ?? [])
      histories.set(
        one.card,
        withAnswer(histories.get(one.card) ?? before.get(one.card) ?? [], one, known.has(one.id)),
      )
  }
  const cards = replaced(deck.cards, changed, idOf)
  return {
    ...deck,
    cards: gone.size ? cards.filter(({ id }) => !gone.has(id)) : cards,
    histories: replaced(
      deck.histories,
      [...histories].map(([card, answers]) => ({ card, answers })),
      cardOf,
    ),
  }
}
