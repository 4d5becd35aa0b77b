import type { Card, CardHistory } from '@climber/contract'
import { type CardAnswers, keepingOf } from './keeping'
import { type KnownCard, knownOf, secondsOf, tellingOf } from './known'
import type { Keeping } from './memory'

type Answers = CardHistory['answers']

/** All cards of a candidate with what was answered to them. */
export interface RecallStock {
  cards: readonly Card[]
  histories: readonly CardHistory[]
}
/** What changed of it. */
export interface RecallChange {
  cards?: readonly Card[]
  gone?: readonly string[]
  histories?: readonly CardHistory[]
}

/** A card with what is known of it. */
export interface StockedCard {
  card: Card
  known: KnownCard
}

/** Cards whose answers say how a memory keeps; more say the same again. */
const mostTelling = 300
/** Every so many of a list, so that no more are left than that. */
const thinned = <T>(list: readonly T[], most: number): T[] => {
  const step = Math.max(1, list.length / most)
  return Array.from({ length: Math.min(list.length, most) }, (_, at) => list[Math.floor(at * step)]!)
}

/** How a memory keeps, by what was answered before a day. */
export function keepingBefore(histories: Iterable<Answers>, day: number): Keeping {
  const telling: CardAnswers[] = []
  for (const answers of histories) {
    const found = tellingOf(answers.filter(([on]) => on < day))
    if (found) telling.push(found)
  }
  return keepingOf(thinned(telling, mostTelling))
}

/**
 * The cards that are held where questions of them are answered. What is known of a card is worked out anew only where its answers, or
 * how the memory keeps, changed.
 */
export class HeldCards {
  private readonly cards = new Map<string, Card>()
  private readonly histories = new Map<string, Answers>()
  private known = new Map<string, { answers: Answers | undefined; of: KnownCard }>()
  private keeping?: Keeping
  private order?: Card[]

  open({ cards, histories }: RecallStock): void {
    this.cards.clear()
    this.histories.clear()
    this.known.clear()
    this.change({ cards, histories })
  }
  change({ cards = [], gone = [], histories = [] }: RecallChange): void {
    for (const card of cards) this.cards.set(card.id, card)
    for (const id of gone) this.cards.delete(id)
    for (const { card, answers } of histories) this.histories.set(card, answers)
    if (cards.length || gone.length) this.order = undefined
  }

  answersTo(id: string): Answers {
    return this.histories.get(id) ?? []
  }
  keepingBefore(day: number): Keeping {
    return keepingBefore(this.histories.values(), day)
  }
  secondsByKind(): Record<Card['kind'], number> {
    return secondsOf(this.inOrder(), this.histories)
  }
  /** Cards in the order in which new ones come: as they were added. */
  inOrder(): readonly Card[] {
    this.order ??= [...this.cards.values()].sort(
      (one, two) => (one.added ?? '').localeCompare(two.added ?? '') || one.id.localeCompare(two.id),
    )
    return this.order
  }
  /** The same with what is known of each, by how the memory keeps. */
  allKnown(keeping: Keeping): StockedCard[] {
    if (this.keeping !== keeping) this.known = new Map()
    this.keeping = keeping
    return this.inOrder().map((card) => {
      const answers = this.histories.get(card.id)
      const before = this.known.get(card.id)
      if (before && before.answers === answers) return { card, known: before.of }
      const of = knownOf(card.id, answers ?? [], keeping)
      this.known.set(card.id, { answers, of })
      return { card, known: of }
    })
  }
}
