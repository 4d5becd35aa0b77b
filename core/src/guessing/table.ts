import { type Answers, oneMore, rawsOfAnswers, type Worth, worthWith } from './paper'

/** What the table asks: one group of items with a price on answering, seen from how sure somebody is. */
export interface TableQuestion {
  /** Items of the group. */
  items: number
  perRight: number
  perWrong: number
  perBlank: number
  /** Chance that an answer thought safe is right, and that an unsure one is. */
  sure: number
  unsure: number
  /** What else the section has, answered in any case. */
  others: Answers[]
  worth: Worth
}

export type Advice = 'answer' | 'leave' | 'some'

/**
 * The table over safe answers (rows) and unsure ones (columns), `size` = items + 1 a side; only cells with safe + unsure
 * <= items mean anything, the rest of the paper being left blank.
 */
export interface GuessTable {
  size: number
  /** How many of the unsure to answer, at row x size + column. */
  best: Int16Array
  /** Chance of the target so, with none and with all of the unsure answered. */
  odds: Float64Array
  none: Float64Array
  all: Float64Array
}

/** Two chances closer than this are told apart by nobody. */
export const noDifference = 0.0005

/**
 * The whole table, exact. Which of g answers are right depends on the row and on g alone, so one row's curve gives all
 * its columns: items^3 steps in all.
 */
export function guessTable(question: TableQuestion): GuessTable {
  const { items, perRight, perWrong, perBlank } = question
  const size = items + 1
  const rest = worthWith(rawsOfAnswers(question.others), question.worth)
  // worths[n][r]: of n answers r right, all others left blank.
  const worths = Array.from({ length: size }, (_, answered) =>
    Float64Array.from({ length: answered + 1 }, (__, right) =>
      rest(right * perRight - (answered - right) * perWrong + (items - answered) * perBlank),
    ),
  )
  const table: GuessTable = {
    size,
    best: new Int16Array(size * size),
    odds: new Float64Array(size * size),
    none: new Float64Array(size * size),
    all: new Float64Array(size * size),
  }
  let row: Float64Array = Float64Array.of(1)
  for (let safe = 0; safe < size; safe++) {
    let right = row
    let best = 0
    let highest = -1
    let none = 0
    for (let unsure = 0; safe + unsure < size; unsure++) {
      if (unsure) right = oneMore(right, question.unsure)
      const own = worths[safe + unsure]!
      let odds = 0
      for (let at = 0; at < right.length; at++) odds += right[at]! * own[at]!
      odds = Math.min(1, odds)
      if (!unsure) none = odds
      if (odds > highest + 1e-12) [best, highest] = [unsure, odds]
      const cell = safe * size + unsure
      table.best[cell] = best
      table.odds[cell] = highest
      table.none[cell] = none
      table.all[cell] = odds
    }
    row = oneMore(row, question.sure)
  }
  return table
}

/** What a cell says; `undefined` where it makes no difference: out of reach, or reached whatever is done. */
export function adviceAt(table: GuessTable, safe: number, unsure: number): Advice | undefined {
  const cell = safe * table.size + unsure
  const [odds, none, all] = [table.odds[cell]!, table.none[cell]!, table.all[cell]!]
  if (!unsure || odds - Math.min(none, all) < noDifference) return undefined
  if (odds - all < 1e-12) return 'answer'
  if (odds - none < 1e-12) return 'leave'
  return 'some'
}

/** What to do with all unsure answers while fewer than `flips` are safe, and from then on. */
export interface GuessRule {
  /** Safe answers from which the second half holds; 0 or `size` where one half is all there is. */
  flips: number
  below: 'answer' | 'leave'
  /** Chance of the target given away against the table: at most, and on average over the cells in which it matters. */
  most: number
  average: number
}

/**
 * The best rule of two halves for a table: all unsure answered below a number of safe answers and left blank from there on, or the
 * other way round. Best is what gives away least over all cells. Undefined where nothing makes a difference.
 */
export function ruleOf(table: GuessTable): GuessRule | undefined {
  const { size } = table
  /** Given away in a row by answering all, and by leaving all. */
  const lost = { answer: new Float64Array(size), leave: new Float64Array(size) }
  let matters = 0
  const lossAt = (does: 'answer' | 'leave', cell: number) =>
    table.odds[cell]! - (does === 'answer' ? table.all[cell]! : table.none[cell]!)
  for (let safe = 0; safe < size; safe++)
    for (let unsure = 1; safe + unsure < size; unsure++) {
      const cell = safe * size + unsure
      lost.answer[safe]! += lossAt('answer', cell)
      lost.leave[safe]! += lossAt('leave', cell)
      if (adviceAt(table, safe, unsure)) matters++
    }
  if (!matters) return undefined
  let best: { flips: number; below: 'answer' | 'leave'; sum: number } | undefined
  for (const below of ['answer', 'leave'] as const) {
    const above = below === 'answer' ? 'leave' : 'answer'
    let sum = lost[above].reduce((a, b) => a + b, 0)
    for (let flips = 0; flips <= size; flips++) {
      // A rule without a second half is the easier one to keep, where both give away the same.
      const whole = flips === 0 || flips === size ? 1e-9 : 0
      if (!best || sum - whole < best.sum) best = { flips, below, sum: sum - whole }
      if (flips < size) sum += lost[below][flips]! - lost[above][flips]!
    }
  }
  const { flips, below } = best!
  const above = below === 'answer' ? 'leave' : 'answer'
  let most = 0
  let sum = 0
  for (let safe = 0; safe < size; safe++)
    for (let unsure = 1; safe + unsure < size; unsure++) {
      const away = lossAt(safe < flips ? below : above, safe * size + unsure)
      most = Math.max(most, away)
      sum += away
    }
  return { flips, below, most, average: sum / matters }
}

const numberWords = ['no', 'one', 'two', 'three', 'four', 'five', 'six', 'seven', 'eight', 'nine', 'ten']
export const countWords = (count: number): string => numberWords[count] ?? String(count)

const gainWords = (gain: number): string =>
  gain > 1e-9
    ? `still brings ${gain.toFixed(2)} marks, so answer them all`
    : gain < -1e-9
      ? `costs ${(-gain).toFixed(2)} marks, so leave them blank`
      : 'brings nothing and costs nothing'

const doing = { answer: 'answer them all', leave: 'leave them blank' } as const

/** The rule in at most two clauses. */
function ruleWords({ flips, below }: GuessRule, items: number): string {
  const above = below === 'answer' ? 'leave' : 'answer'
  if (flips > items - 1) return doing[below]
  if (flips === 0) return doing[above]
  return `${doing[below]} with fewer than ${flips} safe, ${doing[above]} from ${flips} on`
}

const pointsWords = (chance: number): string => {
  const points = 100 * chance
  return points < 0.05 ? 'nothing' : points < 1.5 ? `${points.toFixed(1)}%` : `${Math.round(points)}%`
}

/** What keeping to the rule everywhere gives away. */
export const ruleCost = ({ most, average }: GuessRule): string =>
  most < noDifference
    ? 'It gives nothing away.'
    : `Kept everywhere it gives away ${pointsWords(average)} of the chance on average, ${pointsWords(most)} at worst; the table has every case.`

/**
 * The advice as one sentence to remember, for items with `left` options left: two clauses at most. `gain` is what an answer brings
 * on average, for a score that is out of reach.
 */
export function sentenceOf(table: GuessTable, rule: GuessRule | undefined, left: number, gain = 0): string {
  const options = `With ${countWords(left)} options left`
  if (rule) return `${options}: ${ruleWords(rule, table.size - 1)}.`
  // Nothing matters: the score is reached, or out of reach, in every cell alike.
  return table.odds[table.size - 1]! > 0.5 || table.odds[(table.size - 1) * table.size]! > 0.5
    ? `${options}: the score is reached whatever you do with the unsure ones.`
    : `${options}: the score is out of reach, whatever you do; on average an answer ${gainWords(gain)}.`
}
