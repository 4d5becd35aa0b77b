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

/**
 * What a cell says; `undefined` where it makes no difference: out of reach, or reached whatever is done. `matters` is the
 * least difference in chance worth a more complicated answer: all or none where either is as good as the best.
 */
export function adviceAt(
  table: GuessTable,
  safe: number,
  unsure: number,
  matters = noDifference,
): Advice | undefined {
  const cell = safe * table.size + unsure
  const [odds, none, all] = [table.odds[cell]!, table.none[cell]!, table.all[cell]!]
  if (!unsure || odds - Math.min(none, all) < matters) return undefined
  if (odds - all < (matters > noDifference ? matters : 1e-12)) return 'answer'
  if (odds - none < (matters > noDifference ? matters : 1e-12)) return 'leave'
  return 'some'
}

/** In a sentence, a hundredth of the chance is not worth a word, and never more than two are given away. */
export const worthSaying = 0.01

/** A run of numbers of safe answers with the same advice, everything else being unsure. */
export interface Zone {
  from: number
  to: number
  advice: Advice | undefined
  /** Fewest and most to answer, where it is some. */
  some?: { least: number; most: number }
  /** Best chance of the target at its ends. */
  odds: [number, number]
}

const sayings: (Advice | undefined)[] = ['answer', 'leave', undefined, 'some']
/** What a cell of "some" weighs where all or none is as good, and an end where it makes no difference, against a clause. */
const needless = 0.3
const silence = 0.9

/**
 * How the advice changes with the number of safe answers, all others being unsure: the shortest telling with which nobody
 * gives away more than twice `worthSaying` of the chance anywhere, and over `worthSaying` only to spare clauses. Worked out from the last number of safe answers back, by the
 * weight of what is still to be told.
 */
export function zonesOf(table: GuessTable): Zone[] {
  const last = table.size - 2
  const cell = (safe: number) => safe * table.size + (table.size - 1 - safe)
  const costs = (safe: number): number[] => {
    const [odds, none, all] = [table.odds[cell(safe)]!, table.none[cell(safe)]!, table.all[cell(safe)]!]
    const given = (away: number) =>
      away < worthSaying ? 0 : away < 2 * worthSaying ? away / worthSaying - 1 : Infinity
    const [answer, leave] = [given(odds - all), given(odds - none)]
    return [answer, leave, answer || leave ? Infinity : 0, answer && leave ? 0 : needless]
  }
  const opening = sayings.map((saying) => (saying ? 1 : silence))
  /** Weight of all from a number of safe answers on, by what is said of it; and what is said of the next. */
  let weights = costs(last)
  const next: number[][] = []
  for (let safe = last - 1; safe >= 0; safe--) {
    const after = weights.map((weight, saying) => weight + opening[saying]!)
    const other = after.indexOf(Math.min(...after))
    next[safe] = weights.map((weight, saying) => (weight <= after[other]! ? saying : other))
    weights = costs(safe).map((cost, saying) => cost + Math.min(weights[saying]!, after[other]!))
  }
  const all = weights.map((weight, saying) => weight + opening[saying]!)
  let saying = all.indexOf(Math.min(...all))
  const zones: Zone[] = []
  for (let safe = 0; safe <= last; saying = next[safe++]?.[saying] ?? saying) {
    const advice = sayings[saying]
    const best = table.best[cell(safe)]!
    const zone = zones[zones.length - 1]
    const odds = table.odds[cell(safe)]!
    if (zone && zone.advice === advice) {
      zone.to = safe
      zone.odds[1] = odds
      if (zone.some)
        zone.some = { least: Math.min(zone.some.least, best), most: Math.max(zone.some.most, best) }
    } else
      zones.push({
        from: safe,
        to: safe,
        advice,
        ...(advice === 'some' && { some: { least: best, most: best } }),
        odds: [odds, odds],
      })
  }
  return zones
}

const numberWords = ['no', 'one', 'two', 'three', 'four', 'five', 'six', 'seven', 'eight', 'nine', 'ten']
export const countWords = (count: number): string => numberWords[count] ?? String(count)

const answersWords = (count: number): string => `${count} safe ${count === 1 ? 'answer' : 'answers'}`

const spanWords = ({ from, to }: Pick<Zone, 'from' | 'to'>, last: number): string =>
  from === 0 && to >= last
    ? 'however many are safe'
    : from === 0
      ? `up to ${answersWords(to)}`
      : to >= last
        ? `from ${answersWords(from)} on`
        : from === to
          ? `at ${answersWords(from)}`
          : `from ${from} to ${answersWords(to)}`

const gainWords = (gain: number): string =>
  gain > 1e-9
    ? `still brings ${gain.toFixed(2)} marks, so answer them all`
    : gain < -1e-9
      ? `costs ${(-gain).toFixed(2)} marks, so leave them blank`
      : 'brings nothing and costs nothing'

/**
 * The advice as one sentence to remember, for items with `left` options left and all others unsure. `gain` is what an answer
 * brings on average, for a score that is out of reach.
 */
export function sentenceOf(zones: Zone[], left: number, items: number, gain = 0): string {
  const options = `With ${countWords(left)} options left`
  if (zones.every(({ advice }) => advice === undefined)) {
    const reached = zones.some(({ odds }) => odds[1] > 0.5)
    return reached
      ? `${options}: the score is reached whatever you do with the unsure ones.`
      : `${options}: the score is out of reach, whatever you do; on average an answer ${gainWords(gain)}.`
  }
  const saying = ({ advice, some }: Zone) =>
    advice === undefined
      ? 'it makes no difference'
      : advice === 'answer'
        ? 'answer them all'
        : advice === 'leave'
          ? 'leave them blank'
          : some!.least === some!.most
            ? `answer ${some!.least} of them`
            : `answer some: ${some!.most} down to ${some!.least || 'none'}`
  return `${options} on all the rest: ${zones.map((zone) => `${spanWords(zone, items - 1)}, ${saying(zone)}`).join('; ')}.`
}
