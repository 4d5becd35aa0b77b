import type { Card, CardHistory } from '@climber/contract'
import { type CardAnswers, keepingOf } from './keeping'
import { type AskedKind, type KnownCard, knownOf, secondsOf, tellingOf } from './known'
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

/** An item that was missed, reviewed and tried again since: from then on it is asked like a card. */
export interface QueuedItem {
  id: string
  kind: 'item'
  topic?: string
  /** The day of its review. */
  added: string
  row?: undefined
  suspended?: undefined
  rests?: undefined
  looked?: undefined
  /** Its review, and the times that it was met elsewhere since. */
  before: Answers
}

/** A card with what is known of it. */
export interface StockedCard {
  card: Card | QueuedItem
  known: KnownCard
}

/** Cards whose answers say how a memory keeps; more say the same again. */
const mostTelling = 300
/** Every so many of a list, so that no more are left than that. */
export const thinned = <T>(list: readonly T[], most: number): T[] => {
  const step = Math.max(1, list.length / most)
  return Array.from({ length: Math.min(list.length, most) }, (_, at) => list[Math.floor(at * step)]!)
}

/** How a memory keeps, by what was answered. */
function keepingIn(histories: Iterable<Answers>): Keeping {
  const telling: CardAnswers[] = []
  for (const answers of histories) {
    const found = tellingOf(answers)
    if (found) telling.push(found)
  }
  return keepingOf(thinned(telling, mostTelling))
}

/** A memory as it was known at the beginning of a day. */
export interface KnownMemory {
  keeping: Keeping
  /** Seconds of an answer that comes back, by kind. */
  seconds: Record<AskedKind, number>
}

/** As code units go, which is faster than as people sort. */
const compared = (one: string, two: string): number => (one < two ? -1 : one > two ? 1 : 0)
type Added = Pick<Card, 'id' | 'added' | 'row'>
/** As they were added: by day, and of one day as they stood in their table. */
export const asAdded = (one: Added, two: Added): number =>
  compared(one.added ?? '', two.added ?? '') || (one.row ?? 0) - (two.row ?? 0) || compared(one.id, two.id)

/** Answers of earlier days; the same list where there are no others, as of nearly all cards. */
const before = (answers: Answers, day: number): Answers =>
  (answers.at(-1)?.[0] ?? -Infinity) < day ? answers : answers.filter(([on]) => on < day)

/** Whether two lists have the same items with the same answers. */
const areSame = (some: readonly QueuedItem[], others: readonly QueuedItem[]): boolean =>
  some.length === others.length &&
  some.every((one, at) => {
    const other = others[at]!
    return one.id === other.id && one.topic === other.topic && one.before.join() === other.before.join()
  })

const itemPrefix = 'item:'
/** What answers to a missed item name. */
export const itemName = (attempt: string, item: number): string => `${itemPrefix}${attempt}:${item}`
export const isItem = (card: string): boolean => card.startsWith(itemPrefix)

/**
 * The cards that are held where questions of them are answered. What is known of a card is worked out anew only where its answers, or
 * how the memory keeps, changed.
 */
export class HeldCards {
  private readonly cards = new Map<string, Card>()
  private readonly histories = new Map<string, Answers>()
  private items: readonly QueuedItem[] = []
  private order?: (Card | QueuedItem)[]
  /** What is known, row by row in that order; and the cards whose answers changed since. */
  private known?: { keeping: Keeping; rows: StockedCard[]; rowOf: Map<string, number> }
  private readonly changed = new Set<string>()

  open({ cards, histories }: RecallStock): void {
    this.cards.clear()
    this.histories.clear()
    this.known = undefined
    this.change({ cards, histories })
  }
  change({ cards = [], gone = [], histories = [] }: RecallChange): void {
    for (const card of cards) this.cards.set(card.id, card)
    for (const id of gone) this.cards.delete(id)
    for (const { card, answers } of histories) {
      this.histories.set(card, answers)
      this.changed.add(card)
    }
    if (cards.length || gone.length) this.order = this.known = undefined
  }

  /** Takes the missed items that are asked with the cards; where they are the same, a large deck is not put in order anew. */
  queue(items: readonly QueuedItem[]): void {
    if (items === this.items || areSame(items, this.items)) return
    this.items = items
    this.order = this.known = undefined
  }

  allAnswers(): Iterable<[card: string, answers: Answers]> {
    return this.histories
  }
  /** Items of which no card was made: that is asked in their place. */
  private itemsOnly(): QueuedItem[] {
    if (!this.items.length) return []
    const made = new Set([...this.cards.values()].map(({ of }) => of && itemName(of.attempt, of.item)))
    return this.items.filter(({ id }) => !made.has(id))
  }
  /** Of an item with those that it had elsewhere, in the order of their days. */
  private answersOf(asked: Card | QueuedItem): Answers {
    const own = this.histories.get(asked.id) ?? []
    if (asked.kind !== 'item') return own
    // Where it was reviewed anew, it begins anew.
    const [[reviewed] = [0]] = asked.before
    return [...asked.before, ...own.filter(([day]) => day >= reviewed)].sort(([one], [two]) => one - two)
  }
  /** The memory as it was known before a day. */
  memoryBefore(day: number): KnownMemory {
    const histories = new Map([...this.histories].map(([card, answers]) => [card, before(answers, day)]))
    const ofCards = [...histories].filter(([card]) => !isItem(card)).map(([, answers]) => answers)
    return { keeping: keepingIn(ofCards), seconds: secondsOf(this.inOrder(), histories) }
  }
  /** So many of the cards that are asked, with what was known of each before a day, and what share of all they are. */
  askedBefore(day: number, keeping: Keeping, most: number): { cards: StockedCard[]; share: number } {
    const asked = this.inOrder().filter(({ suspended }) => !suspended)
    const cards = thinned(asked, most).map((card) => ({
      card,
      known: knownOf(card.id, before(this.answersOf(card), day), keeping),
    }))
    return { cards, share: asked.length ? cards.length / asked.length : 1 }
  }
  /** What is asked in the order in which new ones come: as they were added. */
  inOrder(): readonly (Card | QueuedItem)[] {
    this.order ??= [...this.cards.values(), ...this.itemsOnly()].sort(asAdded)
    return this.order
  }
  /**
   * The same with what is known of each, by how the memory keeps, and the rows that changed since this was last asked; all of them
   * where it is another list.
   */
  allKnown(keeping: Keeping): { rows: readonly StockedCard[]; touched: readonly number[] } {
    const knownNow = (card: Card | QueuedItem): StockedCard => ({
      card,
      known: knownOf(card.id, this.answersOf(card), keeping),
    })
    const touched: number[] = []
    if (this.known?.keeping !== keeping) {
      const rows = this.inOrder().map(knownNow)
      this.known = { keeping, rows, rowOf: new Map(rows.map(({ card }, row) => [card.id, row])) }
    } else
      for (const id of this.changed) {
        const row = this.known.rowOf.get(id)
        if (row === undefined) continue
        this.known.rows[row] = knownNow(this.known.rows[row]!.card)
        touched.push(row)
      }
    this.changed.clear()
    return { rows: this.known.rows, touched }
  }
}
