import { FSRSAlgorithm, type Grade, generatorParameters } from 'ts-fsrs'
import { exp, ln } from '../exact/functions'

/** How an answer came back: not, hardly, well, at once. */
export type RecallGrade = 1 | 2 | 3 | 4

/** What is remembered of one card: days until its chance is 90%, how hard it is from 1 to 10, and the day of its last answer. */
export interface Memory {
  stability: number
  difficulty: number
  day: number
}

/**
 * How somebody's memory differs from that of the many whose answers the library's numbers were fitted to: `first` times as many days
 * after a first answer, `growth` times as much gained by each that came back.
 */
export interface Keeping {
  first: number
  growth: number
}
export const ordinary: Keeping = { first: 1, growth: 1 }

/** FSRS 6 with the library's own numbers (Ye, Su and Cao 2022; ts-fsrs 5). */
const library = new FSRSAlgorithm(generatorParameters({ enable_short_term: true }))
/** Days. */
const leastStability = 0.05
const mostStability = 36_500

/** The library's curve, R = (1 + factor t / S) ^ -decay, whose R is .9 at t = S. */
const [decay] = library.parameters.w.slice(20) as [number]
const factor = exp(-ln(0.9) / decay) - 1
/** The chance, from 0 to 1, that something comes back `days` after its last answer. */
export const chanceAfter = (stability: number, days: number): number =>
  days <= 0 ? 1 : exp(-decay * ln(1 + (factor * days) / stability))
/** Days, as a share of the stability, after which the chance has fallen to a share: the curve read the other way. */
export const daysUntil = (share: number): number => (exp(-ln(share) / decay) - 1) / factor

export const chanceOn = ({ stability, day }: Memory, today: number): number =>
  chanceAfter(stability, today - day)

const within = (stability: number): number => Math.min(mostStability, Math.max(leastStability, stability))

/** What an answer leaves, on the day it was given; the first of a card has nothing before it. */
export function answered(
  before: Memory | undefined,
  grade: RecallGrade,
  day: number,
  keeping: Keeping = ordinary,
): Memory {
  if (!before) {
    const { stability, difficulty } = library.next_state(null, 0, grade as Grade)
    return { stability: within(stability * keeping.first), difficulty, day }
  }
  const days = Math.max(0, day - before.day)
  const { stability, difficulty } = library.next_state(before, days, grade as Grade)
  const gained = stability - before.stability
  const kept = gained > 0 && days > 0 ? before.stability + gained * keeping.growth : stability
  return { stability: within(kept), difficulty, day: Math.max(day, before.day) }
}

/** Stability and difficulty of a card, without a day. */
type Strength = Pick<Memory, 'stability' | 'difficulty'>

/** Stability after an answer that came back well at such a chance. */
export const keptBy = (stability: number, difficulty: number, chance: number, { growth }: Keeping): number =>
  within(stability + (library.next_recall_stability(difficulty, stability, chance, 3) - stability) * growth)
/** Stability after one that did not, and was learned again on the same day. */
export const relearned = (stability: number, difficulty: number, chance: number): number =>
  within(library.next_short_term_stability(library.next_forget_stability(difficulty, stability, chance), 3))
/** What an answer leaves that came back well at such a chance, or did not and was learned again on the day. */
export const strengthAfter = (
  { stability, difficulty }: Strength,
  chance: number,
  back: boolean,
  keeping: Keeping,
): Strength => ({
  stability: back ? keptBy(stability, difficulty, chance, keeping) : relearned(stability, difficulty, chance),
  difficulty: library.next_difficulty(difficulty, back ? 3 : 1),
})

/** What the first answer leaves: where the card was known, or was learned again on the day. */
export function begun(known: boolean, { first }: Keeping): Strength {
  const { stability, difficulty } = library.next_state(null, 0, known ? 3 : 1)
  return {
    stability: within((known ? stability : library.next_short_term_stability(stability, 3)) * first),
    difficulty,
  }
}
