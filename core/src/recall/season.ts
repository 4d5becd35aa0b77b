import { answer, cardsIn, chanceOf, type Deck, isBegun, knownAtFirst, rowsOf, timesLost } from './deck'
import { climb } from './climb'
import { type Keeping, ordinary } from './memory'
import { fits, type Policy, queueOf } from './queue'
import { thinned } from './stock'

/** The days until an exam, and what of them there is for recall. */
export interface Season {
  today: number
  exam: number
  /** Seconds for recall, by days from today. */
  seconds: (ahead: number) => number
  /** The deck is so much of a whole one, and has as much of its time and of its new cards; 1 unless it is said. */
  share?: number
}

/** What a day brings. */
export interface DayLoad {
  day: number
  again: number
  fresh: number
  seconds: number
}
/** The days of a season as one course of luck makes them, and what comes back on the exam day in the mean. */
export interface Played {
  days: DayLoad[]
  recalled: number
}

/** What falls on one of the days when a number that is no whole one falls on each. */
const wholeOn = (perDay: number, ahead: number): number =>
  Math.floor(perDay * (ahead + 1)) - Math.floor(perDay * ahead)

/**
 * Plays the days until the exam: what comes each day by a policy, answered as a memory that keeps so would answer. No day of a whole deck
 * has more than its time. Of a part of one, whose share of a day may be less than a card takes, a day may borrow from the next, or leave
 * it what one card takes.
 */
export function play(
  deck: Deck,
  { today, exam, seconds, share = 1 }: Season,
  policy: Policy,
  keeping: Keeping,
  random: () => number,
): Played {
  const isWhole = share === 1
  const own = rowsOf(deck, [...deck.last.keys()])
  const days: DayLoad[] = []
  const longest = timesLost * own.seconds.reduce((most, one) => Math.max(most, one), 0)
  let carried = 0
  for (let day = today; day < exam; day++) {
    const load = { day, again: 0, fresh: 0, seconds: 0 }
    const ahead = day - today
    const room = seconds(ahead) * share + carried
    const onDay = { ...policy, fresh: wholeOn(policy.fresh * share, ahead) }
    for (const card of queueOf(own, day, exam - day, onDay, isWhole ? room : Infinity, keeping)) {
      if (isWhole ? !fits(own, card, room - load.seconds) : load.seconds >= room) break
      const isNew = !isBegun(own, card)
      const back = random() < (isNew ? knownAtFirst : chanceOf(own, card, day))
      load.seconds += (own.seconds[card] ?? 0) * (isNew || !back ? timesLost : 1)
      load[isNew ? 'fresh' : 'again'] += 1
      answer(own, card, day, back, keeping)
    }
    if (!isWhole) carried = Math.min(room - load.seconds, longest)
    days.push(load)
  }
  let recalled = 0
  for (let card = 0; card < cardsIn(own); card++)
    recalled += (own.worth[card] ?? 1) * chanceOf(own, card, exam)
  return { days, recalled }
}

/** Cards that a policy is tried on: more change little of it, and take longer. */
export const mostTried = 200
const ladders = {
  retention: [0.5, 0.6, 0.7, 0.75, 0.8, 0.85, 0.9, 0.95],
  sweep: [1, 2, 4, 7, 10, 14, 21, 30, 45, 60, 90],
  fresh: [0, 2, 4, 6, 8, 10, 15, 20, 30, 60],
}

/**
 * The policy under which most comes back on the exam day: tried on the candidate's own deck (of a large one on some hundred cards with
 * their share of the time), from the one that was followed until now. Where memory keeps otherwise than most, it is tried on one half
 * way between as well: what is known of a memory is never sure. `wish` names new cards a day that are chosen already. A deck of which the
 * season says that it is a part is tried as it is.
 */
export function policyFor(
  deck: Deck,
  season: Season,
  keeping: Keeping,
  random: () => () => number,
  wish: { from?: Policy; fresh?: number } = {},
): Policy {
  const share = season.share ?? Math.min(1, mostTried / Math.max(1, cardsIn(deck)))
  const some = season.share === undefined ? rowsOf(deck, thinned([...deck.last.keys()], mostTried)) : deck
  const halfWay = { first: Math.sqrt(keeping.first), growth: Math.sqrt(keeping.growth) }
  const memories =
    keeping.first === ordinary.first && keeping.growth === ordinary.growth ? [keeping] : [keeping, halfWay]
  const left = Math.max(1, season.exam - season.today)
  const { fresh } = wish
  const from = wish.from ?? { retention: 0.8, sweep: Math.min(14, Math.ceil(left / 3)), fresh: 20 }
  const tried = {
    ...ladders,
    sweep: ladders.sweep.filter((days) => days <= left),
    ...(fresh !== undefined && { fresh: [fresh] }),
  }
  return climb({ ...from, ...(fresh !== undefined && { fresh }) }, tried, (policy) =>
    memories.reduce(
      (sum, memory) => sum + play(some, { ...season, share }, policy, memory, random()).recalled,
      0,
    ),
  )
}
