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

/** In a sentence, half a hundredth is not worth a clause. */
const worthSaying = 0.005

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

/** How the advice changes with the number of safe answers, all others being unsure. */
export function zonesOf(table: GuessTable): Zone[] {
  const zones: Zone[] = []
  for (let safe = 0; safe < table.size - 1; safe++) {
    const unsure = table.size - 1 - safe
    const cell = safe * table.size + unsure
    const advice = adviceAt(table, safe, unsure, worthSaying)
    const best = table.best[cell]!
    const last = zones[zones.length - 1]
    if (last && last.advice === advice) {
      last.to = safe
      last.odds[1] = table.odds[cell]!
      if (last.some)
        last.some = { least: Math.min(last.some.least, best), most: Math.max(last.some.most, best) }
    } else
      zones.push({
        from: safe,
        to: safe,
        advice,
        ...(advice === 'some' && { some: { least: best, most: best } }),
        odds: [table.odds[cell]!, table.odds[cell]!],
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
 * The advice as one sentence to remember, for items with `left` options left. Numbers of safe answers at which it makes
 * no difference are passed over; stretches of one or two inside another are not worth remembering. `gain` is what an answer
 * brings on average, for a score that is out of reach.
 */
export function sentenceOf(zones: Zone[], left: number, items: number, gain = 0): string {
  const told = joined(
    zones.filter(({ advice }) => advice !== undefined),
    items - 1,
  )
  const options = `With ${countWords(left)} options left`
  if (!told.length) {
    const reached = zones.some(({ odds }) => odds[1] > 0.5)
    return reached
      ? `${options}: the score is reached whatever you do with the unsure ones.`
      : `${options}: the score is out of reach, whatever you do; on average an answer ${gainWords(gain)}.`
  }
  const saying = ({ advice, some }: Zone) =>
    advice === 'answer'
      ? 'answer them all'
      : advice === 'leave'
        ? 'leave them blank'
        : some!.least === some!.most
          ? `answer ${some!.least} of them`
          : `answer some: ${some!.most} down to ${some!.least}`
  return `${options}: ${told.map((zone) => `${spanWords(zone, items - 1)}, ${saying(zone)}`).join('; ')}.`
}

/**
 * Zones for a sentence: where it makes no difference the advice beside it holds, and stretches of one or two between two
 * alike are taken into them.
 */
function joined(zones: Zone[], last: number): Zone[] {
  const kept: Zone[] = []
  for (const [at, zone] of zones.entries()) {
    const before = kept[kept.length - 1]
    const next = zones[at + 1]
    const short = zone.to - zone.from < 2 && before && next && before.advice === next.advice
    if (before && (short || before.advice === zone.advice)) {
      before.to = zone.to
      before.odds = [before.odds[0], zone.odds[1]]
      if (before.some && zone.some)
        before.some = {
          least: Math.min(before.some.least, zone.some.least),
          most: Math.max(before.some.most, zone.some.most),
        }
    } else {
      if (before) before.to = zone.from - 1
      kept.push({ ...zone, odds: [...zone.odds] })
    }
  }
  if (kept.length) {
    kept[0]!.from = 0
    kept[kept.length - 1]!.to = last
  }
  return kept
}
