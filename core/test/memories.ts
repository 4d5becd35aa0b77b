import { randomFrom } from '../src/exact/random'
import { answer, freshDeck, timesLost } from '../src/recall/deck'
import { type CardAnswers, keepingOf } from '../src/recall/keeping'
import { ordinary } from '../src/recall/memory'
import { fits, type Policy, queueOf } from '../src/recall/queue'
import { policyFor } from '../src/recall/season'

/** A memory of another kind than the one that the queue believes in: what is really kept of each card. */
export interface Kept {
  /** The chance that a card that was begun comes back. */
  chance(card: number, day: number): number
  /** It was seen, and came back or was learned again. */
  seen(card: number, day: number, back: boolean): void
}
/** About normal, with a spread of a half. */
const spreadOf = (random: () => number): number => random() + random() + random() - 1.5

/**
 * Traces that fade by a power of time, each the faster the more of the card was present when it was laid (Pavlik and Anderson 2005); a
 * card comes back where their sum is loud enough. A day counts as 36 of their minutes, since most forgetting outside of the session is
 * slower than within it.
 */
export function traces(cards: number, seed: number): Kept {
  const random = randomFrom(seed)
  const ease = Array.from({ length: cards }, () => 0.6 * spreadOf(random))
  const laid: { day: number; decay: number }[][] = Array.from({ length: cards }, () => [])
  const present = (card: number, day: number): number =>
    Math.log(laid[card]!.reduce((sum, one) => sum + (36 * Math.max(0.3, day - one.day)) ** -one.decay, 0))
  return {
    chance: (card, day) => 1 / (1 + Math.exp((-0.704 - present(card, day) - ease[card]!) / 0.255)),
    seen(card, day) {
      const now = laid[card]!.length ? present(card, day) : -3
      laid[card]!.push({ day, decay: Math.min(0.9, 0.217 * Math.exp(now) + 0.177) })
    },
  }
}

/**
 * Chances that fall by a power of time alone, (1 + t) ^ -p (Wixted and Ebbesen 1991); what comes back makes p smaller, by `learns` and
 * the more the less sure it was.
 */
export const power =
  (learns: number) =>
  (cards: number, seed: number): Kept => {
    const random = randomFrom(seed)
    const p = Array.from({ length: cards }, () => 0.35 * Math.exp(0.8 * spreadOf(random)))
    const last = new Map<number, number>()
    const chance = (card: number, day: number) => (1 + day - (last.get(card) ?? day)) ** -p[card]!
    return {
      chance,
      seen(card, day, back) {
        const hard = 1 - chance(card, day)
        if (last.has(card))
          p[card] = back
            ? p[card]! * (1 - learns * Math.min(1, 0.2 + 2 * hard))
            : Math.min(0.6, p[card]! * 1.15)
        last.set(card, day)
      },
    }
  }

/** A power of time that is slowed to the half by whatever comes back, however soon: to this memory, space between answers is nothing. */
export function slowed(cards: number, seed: number): Kept {
  const random = randomFrom(seed)
  const pace = Array.from({ length: cards }, () => Math.exp(1.2 * spreadOf(random)))
  const last = new Map<number, number>()
  return {
    chance: (card, day) => (1 + pace[card]! * (day - (last.get(card) ?? day))) ** -0.3,
    seen(card, day, back) {
      if (last.has(card)) pace[card]! *= back ? 0.5 : 1.2
      last.set(card, day)
    },
  }
}

/** What was got out of a season. */
export interface Got {
  recalled: number
  minutes: number
  begun: number
  /** Of the longest day. */
  longest: number
}
interface Course {
  cards: number
  days: number
  /** A day. */
  minutes: number
}
/** What comes on a day, by what is kept in the books of whoever schedules. */
type Scheduler = (day: number) => number[]
/** A scheduler with its books, which hears of every answer. */
interface Clerk {
  come: Scheduler
  hear(card: number, day: number, back: boolean): void
}

/** A season by a clerk on a memory: the same seconds, the same cap and the same luck for all of them. */
export function season(kept: Kept, { cards, days, minutes }: Course, clerk: Clerk, seed: number): Got {
  const random = randomFrom(seed)
  const [seconds, deck] = [8, freshDeck(cards)]
  let [all, longest] = [0, 0]
  const begun = new Set<number>()
  for (let day = 0; day < days; day++) {
    let used = 0
    for (const card of clerk.come(day)) {
      if (!fits(deck, card, minutes * 60 - used)) break
      const back = begun.has(card) ? random() < kept.chance(card, day) : random() < 0.6
      used += seconds * (begun.has(card) && back ? 1 : timesLost)
      kept.seen(card, day, back)
      clerk.hear(card, day, back)
      begun.add(card)
    }
    all += used
    longest = Math.max(longest, used)
  }
  const recalled = [...begun].reduce((sum, card) => sum + kept.chance(card, days), 0)
  return { recalled, minutes: all / 60, begun: begun.size, longest: longest / 60 }
}

/** The library's plain schedule: again when the chance is .9, and new cards while there is time. */
export function plain({ cards, days, minutes }: Course): Clerk {
  const deck = freshDeck(cards)
  const policy: Policy = { retention: 0.9, sweep: 0, fresh: 20 }
  return {
    come: (day) => queueOf(deck, day, days - day, policy, minutes * 60, ordinary),
    hear: (card, day, back) => answer(deck, card, day, back, ordinary),
  }
}

const ladder = [1, 3, 7, 14, 30, 60, 120, 240]
/** Fixed intervals, one longer after each answer that came back and from the first again after one that did not. */
export function fixed({ cards }: Course): Clerk {
  const rung = new Map<number, number>()
  const last = new Map<number, number>()
  return {
    come(day) {
      const due = [...last].filter(([card, then]) => day - then >= ladder[rung.get(card) ?? 0]!)
      const fresh = Array.from({ length: cards }, (_, card) => card).filter((card) => !last.has(card))
      return [...due.map(([card]) => card), ...fresh.slice(0, 20)]
    },
    hear(card, day, back) {
      if (last.has(card)) rung.set(card, back ? Math.min(ladder.length - 1, (rung.get(card) ?? 0) + 1) : 0)
      last.set(card, day)
    },
  }
}

/** Bent to the exam day, as the application does it: how memory keeps and the policy are found anew after a week and every fortnight. */
export function bent({ cards, days, minutes }: Course): Clerk {
  let deck = freshDeck(cards)
  let keeping = ordinary
  let policy: Policy | undefined
  const answers = new Map<
    number,
    { first: number; last: number; known: boolean; later: { days: number; back: boolean }[] }
  >()
  const again = (): void => {
    keeping = keepingOf([...answers.values()] satisfies CardAnswers[])
    deck = freshDeck(cards)
    for (const [card, { first, known, later }] of answers) {
      let day = first
      answer(deck, card, day, known, keeping)
      for (const one of later) answer(deck, card, (day += one.days), one.back, keeping)
    }
  }
  return {
    come(day) {
      const season = { today: day, exam: days, seconds: () => minutes * 60 }
      if (day === 7 || day % 14 === 0) {
        if (day) again()
        policy = policyFor(deck, season, keeping, () => randomFrom(77), { from: policy })
      }
      return queueOf(deck, day, days - day, policy!, minutes * 60, keeping)
    },
    hear(card, day, back) {
      answer(deck, card, day, back, keeping)
      const own = answers.get(card)
      if (!own) answers.set(card, { first: day, last: day, known: back, later: [] })
      else {
        own.later.push({ days: day - own.last, back })
        own.last = day
      }
    },
  }
}
