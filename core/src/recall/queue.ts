import { cardsIn, chanceOf, type Deck, gainOf, isBegun, secondsExpected, timesLost } from './deck'
import { daysUntil, type Keeping } from './memory'

/** How the days until the exam are spent on a deck. */
export interface Policy {
  /** A card comes again when its chance has fallen to this share. */
  retention: number
  /** In so many days before the exam what comes is what pays on the day itself. */
  sweep: number
  /** New cards a day until then; in those days they come where they pay. */
  fresh: number
}

/** Less is not worth an answer. */
const leastGain = 0.005

/** A card with its place in the day's order. */
interface Placed {
  card: number
  rank: number
  seconds: number
}
const inOrder = (one: Placed, two: Placed): number => two.rank - one.rank || one.card - two.card

/**
 * The cards of a day in the order in which they come, as many as its seconds hold; `left` is the number of days until the exam. Before
 * the last days a card is due when its chance has fallen to the policy's share, the surest of them first: where not all fit, what is
 * nearly kept is kept, and the rest is learned again later. In the last days the order is what a second adds to the chances on the exam
 * day. On the exam day and after it nothing comes.
 */
export function queueOf(
  deck: Deck,
  day: number,
  left: number,
  policy: Policy,
  seconds: number,
  keeping: Keeping,
): number[] {
  if (left < 1) return []
  const sweeps = left <= policy.sweep
  const due = daysUntil(policy.retention)
  const found: Placed[] = []
  let fresh = sweeps ? Infinity : policy.fresh
  // All new cards gain alike, whatever their rows hold.
  let ofNew: number | undefined
  for (let card = 0; card < cardsIn(deck); card++) {
    const isNew = !isBegun(deck, card)
    const elapsed = day - (deck.last[card] ?? 0)
    if (isNew ? fresh-- < 1 : elapsed < 1 || (!sweeps && elapsed < (deck.stability[card] ?? 0) * due))
      continue
    const chance = chanceOf(deck, card, day)
    const price = secondsExpected(deck, card, day, chance)
    if (!sweeps) {
      found.push({ card, rank: isNew ? -1 : chance, seconds: price })
      continue
    }
    const gain = isNew
      ? (ofNew ??= gainOf(deck, card, day, left, keeping))
      : gainOf(deck, card, day, left, keeping)
    if (gain > leastGain) found.push({ card, rank: (gain * (deck.worth[card] ?? 1)) / price, seconds: price })
  }
  found.sort(inOrder)
  const chosen: number[] = []
  let used = 0
  for (const one of found) {
    used += one.seconds
    if (used > seconds) break
    chosen.push(one.card)
  }
  return chosen
}

/** Whether a card still fits into a day of which so many seconds are left, even if it does not come back. */
export const fits = (deck: Deck, card: number, seconds: number): boolean =>
  (deck.seconds[card] ?? 0) * timesLost <= seconds
