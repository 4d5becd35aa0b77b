import { ln, square } from '../exact/functions'
import { climb } from './climb'
import { begun, chanceAfter, type Keeping, ordinary, strengthAfter } from './memory'

/** One card's answers: whether it was known at first, and of each after that the days since the one before and whether it came back. */
export interface CardAnswers {
  known: boolean
  later: readonly { days: number; back: boolean }[]
}

const ladders = {
  first: [0.2, 0.28, 0.4, 0.56, 0.75, 1, 1.4, 2, 2.8, 4, 5.6],
  growth: [0.3, 0.42, 0.56, 0.75, 1, 1.33, 1.8, 2.4],
}
/** How far people are known to differ: the spread of the logarithms of both factors. A choice. */
const spread = 0.5
/** Answers that count; more say the same again, of a memory that is only much like this one. A choice. */
const mostAnswers = 200
/** Nothing is ever surer than this: hands slip, and guesses meet. */
const surest = 0.99

/** The logarithm of how likely a card's answers are, where memory keeps so. */
function likelihoodOf({ known, later }: CardAnswers, keeping: Keeping): number {
  let strength = begun(known, keeping)
  let sum = 0
  for (const { days, back } of later) {
    const chance = Math.min(surest, Math.max(1 - surest, chanceAfter(strength.stability, days)))
    sum += ln(back ? chance : 1 - chance)
    strength = strengthAfter(strength, chance, back, keeping)
  }
  return sum
}

/** How a memory keeps, by its own answers: the likeliest of both factors, with what is known of people before any answer. */
export function keepingOf(cards: readonly CardAnswers[]): Keeping {
  const answers = cards.reduce((sum, { later }) => sum + later.length, 0)
  const weight = Math.min(1, mostAnswers / Math.max(1, answers))
  return climb({ ...ordinary }, ladders, (keeping) => {
    const prior = -(square(ln(keeping.first)) + square(ln(keeping.growth))) / (2 * square(spread))
    return prior + weight * cards.reduce((sum, card) => sum + likelihoodOf(card, keeping), 0)
  })
}
