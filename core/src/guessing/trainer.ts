import { randomFrom } from '../exact/random'
import { adviceAt, type GuessTable, noDifference } from './table'

/** One situation to decide: answer all the unsure items, or leave them all. */
export interface Situation {
  safe: number
  unsure: number
  /** Options left on each of the unsure items. */
  left: number
  answer: number
  leave: number
  /** How many to answer at best, and the odds so. */
  best: number
  odds: number
}

/** What a decision gives away, in chance of the target. */
export const costOf = ({ answer, leave }: Situation, answered: boolean): number =>
  Math.max(0, (answered ? leave : answer) - (answered ? answer : leave))

/** A decision matters from a hundredth on; the trainer asks about nothing else. */
const leastDifference = 0.01

/**
 * Situations of one section, seeded: such that the decision matters, and as many of them one way as the other where
 * the arithmetic allows it. `tables` are by options left. Fewer than asked for where there are not so many.
 */
export function situationsOf(tables: Map<number, GuessTable>, count: number, seed: number): Situation[] {
  const random = randomFrom(seed)
  const all: Situation[] = []
  for (const [left, table] of tables)
    for (let safe = 0; safe < table.size; safe++)
      for (let unsure = 2; safe + unsure < table.size; unsure++) {
        const cell = safe * table.size + unsure
        const [answer, leave] = [table.all[cell]!, table.none[cell]!]
        if (adviceAt(table, safe, unsure) === undefined || Math.abs(answer - leave) < leastDifference)
          continue
        all.push({ safe, unsure, left, answer, leave, best: table.best[cell]!, odds: table.odds[cell]! })
      }
  const shuffled = (own: Situation[]) =>
    own
      .map((situation) => ({ situation, place: random() }))
      .sort((a, b) => a.place - b.place)
      .map(({ situation }) => situation)
  const answering = shuffled(all.filter(({ answer, leave }) => answer > leave + noDifference))
  const leaving = shuffled(all.filter(({ answer, leave }) => leave > answer + noDifference))
  const half = Math.max(count - leaving.length, Math.ceil(count / 2))
  const picked = [
    ...answering.slice(0, half),
    ...leaving.slice(0, Math.max(count - answering.length, count - half)),
  ]
  return shuffled(picked).slice(0, count)
}

/** Where somebody's decisions stand: how many, what they gave away, and which way they err. */
export interface Habit {
  decided: number
  best: number
  cost: number
  answeredTooOften: number
  leftTooOften: number
}

export function habitOf(decisions: { situation: Situation; answered: boolean }[]): Habit {
  const wrong = decisions.filter(({ situation, answered }) => costOf(situation, answered) > 0)
  return {
    decided: decisions.length,
    best: decisions.length - wrong.length,
    cost: wrong.reduce((sum, { situation, answered }) => sum + costOf(situation, answered), 0),
    answeredTooOften: wrong.filter(({ answered }) => answered).length,
    leftTooOften: wrong.filter(({ answered }) => !answered).length,
  }
}
