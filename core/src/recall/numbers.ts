import type { DrawnNumber, NumbersQuestion, Tolerance } from '@climber/contract'
import { randomFrom } from '../exact/random'
import { type Formula, isTaken, readFormula } from './formula'

/** Something wrong with a question; `field` is its place in it, such as `slips.0.formula`. */
export interface QuestionProblem {
  field: string
  message: string
}
/** A piece of text: as it stands, or what a formula comes to. */
type Piece = string | (Formula & { isWorked: boolean })

/** A question whose parts were read and can be drawn from. */
export interface ReadQuestion {
  question: NumbersQuestion
  formula: Formula
  slips: { name: string; formula: Formula }[]
  text: Piece[]
  worked: Piece[]
}

/** One draw: the numbers, the answer, and what each slip would give. */
export interface Draw {
  seed: number
  numbers: Record<string, number>
  answer: number
  slips: { name: string; value: number }[]
}

/** The most values that a number may take: a step that is a slip of the pen makes more. */
const mostValues = 1e9
/** Decimals of a number as it is written. */
function decimalsOf(value: number): number {
  const [digits = '', power = '0'] = String(value).split('e')
  return Math.max(0, (digits.split('.')[1]?.length ?? 0) - Number(power))
}
/** Steps from the lowest to the highest value that are whole; one more is the number of values. */
const stepsOf = ({ low, high, step }: DrawnNumber): number => Math.floor((high - low) / step + 1e-9)

/** A value that is a number of steps above the lowest, with the decimals that both are written with. */
function valueAt({ low, step }: DrawnNumber, steps: number): number {
  const decimals = Math.min(15, Math.max(decimalsOf(low), decimalsOf(step)))
  return Number((low + steps * step).toFixed(decimals))
}

/** Reads the pieces of a text with `{name}` and `{= formula}`; problems go to a list. */
function piecesOf(text: string, names: readonly string[], problem: (message: string) => void): Piece[] {
  return text.split(/(\{[^{}]*\})/).map((piece): Piece => {
    if (!piece.startsWith('{')) return piece
    const inside = piece.slice(1, -1).trim()
    // Braces of a typeset formula are its own.
    if (!inside.startsWith('=') && !/^[a-z][a-z0-9_]*$/i.test(inside)) return piece
    if (!inside.startsWith('=') && !names.includes(inside)) {
      problem(`{${inside}} is none of its numbers (${names.join(', ')})`)
      return piece
    }
    const formula = readFormula(inside.replace(/^=/, ''), names)
    if (!('problem' in formula)) return { ...formula, isWorked: inside.startsWith('=') }
    problem(`${piece}: ${formula.problem}`)
    return piece
  })
}

/** Reads a question: its formulas and the places in its texts, or everything that is wrong with them. */
export function readQuestion(question: NumbersQuestion): ReadQuestion | { problems: QuestionProblem[] } {
  const problems: QuestionProblem[] = []
  const say = (field: string) => (message: string) => void problems.push({ field, message })
  const names = question.numbers.map(({ name }) => name)
  question.numbers.forEach((number, at) => {
    if (isTaken(number.name))
      say(`numbers.${at}.name`)(`"${number.name}" means something else in a formula; choose another name`)
    if (number.step > number.high - number.low && number.high > number.low)
      say(`numbers.${at}.step`)(`larger than from ${number.low} to ${number.high}: it would never change`)
    else if (stepsOf(number) > mostValues)
      say(`numbers.${at}.step`)('too small for this range: more than a thousand million values')
  })
  const read = (field: string, text: string): Formula | undefined => {
    const formula = readFormula(text, names)
    if (!('problem' in formula)) return formula
    say(field)(formula.problem)
    return undefined
  }
  const formula = read('formula', question.formula)
  const slips = (question.slips ?? []).flatMap((slip, at) => {
    const own = read(`slips.${at}.formula`, slip.formula)
    return own ? [{ name: slip.name, formula: own }] : []
  })
  const text = piecesOf(question.text, names, say('text'))
  const worked = piecesOf(question.worked ?? '', names, say('worked'))
  return problems.length || !formula ? { problems } : { question, formula, slips, text, worked }
}

/** Whether a value counts as an answer: within so much, a share of it, or rounded to its figures. */
export function isWithin(tolerance: Tolerance, answer: number, value: number): boolean {
  const off = Math.abs(value - answer)
  // What is computed in binary is off by some last digits.
  const dust = 1e-9 * Math.max(Math.abs(answer), Math.abs(value))
  switch (tolerance.kind) {
    case 'absolute':
      return off <= tolerance.within + dust
    case 'relative':
      return off <= tolerance.within * Math.abs(answer) + dust
    case 'figures':
      return off <= halfOfLast(answer, tolerance.figures) + dust
  }
}
/** The power of ten of a number's first figure. */
const powerOf = (value: number): number => Number(value.toExponential().split('e')[1])
/** Half a unit of the last of so many significant figures. */
const halfOfLast = (answer: number, figures: number): number =>
  answer === 0 ? 0 : 0.5 * Number(`1e${powerOf(answer) - figures + 1}`)

/** What is wrong with a draw, where something is: it asks nothing, or does not tell a slip from the answer. */
function flawOf({ question: { tolerance } }: ReadQuestion, { answer, slips }: Draw): string | undefined {
  if (!Number.isFinite(answer)) return 'the answer has no value'
  const same = slips.find(({ value }) => Number.isFinite(value) && isWithin(tolerance, answer, value))
  return same && `"${same.name}" gives the same as the answer`
}

function drawOnce(read: ReadQuestion, seed: number, random: () => number): Draw {
  const numbers = Object.fromEntries(
    read.question.numbers.map((number) => [
      number.name,
      valueAt(number, Math.floor(random() * (stepsOf(number) + 1))),
    ]),
  )
  return {
    seed,
    numbers,
    answer: read.formula.valueFor(numbers),
    slips: read.slips.map(({ name, formula }) => ({ name, value: formula.valueFor(numbers) })),
  }
}

const mostTries = 200
/** Numbers drawn by a seed, the same for the same; such as ask nothing are drawn again. Undefined where none was found. */
export function drawOf(read: ReadQuestion, seed: number): Draw | undefined {
  const random = randomFrom(seed)
  for (let tries = 0; tries < mostTries; tries++) {
    const draw = drawOnce(read, seed, random)
    if (!flawOf(read, draw)) return draw
  }
  return undefined
}

/** What 200 draws of a question come to. */
export interface Checked {
  draws: number
  /** Draws that ask nothing, by what is wrong with them, the commonest first. */
  flaws: { message: string; draws: number; numbers: Record<string, number> }[]
  least: number
  most: number
  /** Draws with different answers. */
  answers: number
}
const checkDraws = 200
/** Checks a question on 200 draws. */
export function checkQuestion(read: ReadQuestion): Checked {
  const random = randomFrom(1)
  const flaws = new Map<string, Checked['flaws'][number]>()
  const answers = new Set<number>()
  for (let draw = 0; draw < checkDraws; draw++) {
    const found = drawOnce(read, draw, random)
    const message = flawOf(read, found)
    if (!message) answers.add(found.answer)
    else {
      const known = flaws.get(message)
      flaws.set(message, {
        message,
        draws: (known?.draws ?? 0) + 1,
        numbers: known?.numbers ?? found.numbers,
      })
    }
  }
  return {
    draws: checkDraws,
    flaws: [...flaws.values()].sort((one, two) => two.draws - one.draws),
    least: Math.min(...answers),
    most: Math.max(...answers),
    answers: answers.size,
  }
}

/** A number that was drawn, as it is written in a question. */
const writeNumber = (value: number): string =>
  Number.isFinite(value) ? String(Number(value.toPrecision(10))) : 'no value'
/** What a formula comes to, in no more figures than tell something. */
const writeWorked = (value: number): string =>
  writeNumber(Number.isInteger(value) || Math.abs(value) >= 1e5 ? value : Number(value.toPrecision(5)))

/** Significant figures that tell an answer as exactly as it is asked for; one more than is judged by. */
function figuresOf(tolerance: Tolerance, answer: number): number {
  if (tolerance.kind === 'figures') return tolerance.figures
  const within = tolerance.kind === 'relative' ? tolerance.within * Math.abs(answer) : tolerance.within
  if (!within || !answer) return mostFigures
  return Math.min(mostFigures, Math.max(2, powerOf(answer) - powerOf(within) + 2))
}
const mostFigures = 6
/** An answer as its tolerance asks for it. */
export function writeAnswer({ tolerance, unit }: NumbersQuestion, answer: number): string {
  if (!Number.isFinite(answer)) return 'no value'
  const number = Number(answer.toPrecision(figuresOf(tolerance, answer)))
  return unit ? `${number}${/^[°%′″']/.test(unit) ? '' : ' '}${unit}` : String(number)
}
/** A text with the numbers of a draw in it. */
export const writeText = (pieces: readonly Piece[], { numbers }: Draw): string =>
  pieces
    .map((piece) => {
      if (typeof piece === 'string') return piece
      const value = piece.valueFor(numbers)
      return piece.isWorked ? writeWorked(value) : writeNumber(value)
    })
    .join('')

/** An answer as it was judged; `given` is undefined where no number could be read. */
export interface JudgedNumber {
  given?: number
  right: boolean
  /** The slip whose value was given. */
  slip?: string
}

const spaces = /[\s\u00a0\u2009\u202f']/g
const isNumber = /^[+-]?(\d+\.?\d*|\.\d+)(e[+-]?\d+)?$/i
/**
 * The numbers that something typed may stand for, with its unit or without: 1 234.5, 1,234.5 and 1234,5 are the same, and 1,234 may be
 * either of two.
 */
export function readValues(text: string, unit = ''): number[] {
  const trimmed = text.trim()
  const bare = unit && trimmed.endsWith(unit) ? trimmed.slice(0, -unit.length) : trimmed
  const plain = bare.replace(spaces, '').replace('\u2212', '-')
  const isParted = /^[+-]?\d{1,3}(,\d{3})+(\.\d*)?$/.test(plain)
  const readings = [
    ...(isParted ? [plain.replace(/,/g, '')] : []),
    ...(plain.includes('.') ? [plain] : [plain.replace(',', '.')]),
  ]
  return [...new Set(readings.filter((one) => isNumber.test(one)).map(Number))]
}

/** Judges what was typed: right within the tolerance, or else the slip that gives the same. */
export function judgeNumber(read: ReadQuestion, draw: Draw, text: string): JudgedNumber {
  const { tolerance, unit } = read.question
  const readings = readValues(text, unit)
  const [first] = readings
  if (first === undefined) return { right: false }
  const right = readings.find((value) => isWithin(tolerance, draw.answer, value))
  if (right !== undefined) return { given: right, right: true }
  const slip = draw.slips.find(({ value }) =>
    readings.some((given) => Number.isFinite(value) && isWithin(tolerance, value, given)),
  )
  return { given: first, right: false, ...(slip && { slip: slip.name }) }
}
