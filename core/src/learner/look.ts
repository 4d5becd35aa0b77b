import { cholesky, type Square } from '../exact/cholesky'
import { exp, ln, logistic, square } from '../exact/functions'
import type { Cell, Reached } from './cells'
import { knowing, oldStability, shifted } from './knowing'
import type { Problem } from './layout'
import { lnReached, paceTests, reachedLog, reachSd, reachSlope } from './pace'
import { prior } from './prior'

/** Level of a topic. */
const levelIn = ({ layout, sectionOf, shifts }: Problem, x: Float64Array, topic: number): number =>
  prior.general.mean +
  shifts[topic]! +
  prior.general.sd * x[layout.general]! +
  prior.section.sd * x[layout.sections + sectionOf[topic]!]! +
  prior.topic.sd * x[layout.topics + topic]!
const speedIn = ({ layout }: Problem, x: Float64Array): number =>
  exp(prior.speed.mean + prior.speed.sd * x[layout.speed]!)
const forgettingIn = ({ layout }: Problem, x: Float64Array): number =>
  exp(prior.forgetting.mean + prior.forgetting.sd * x[layout.forgetting]!)
const blanksIn = ({ layout, blanks }: Problem, x: Float64Array): number =>
  logistic(blanks + prior.blanks.sd * x[layout.blanks]!)
const paceIn = ({ layout }: Problem, x: Float64Array, section?: number): number =>
  prior.pace.mean +
  prior.pace.sd * x[layout.pace]! +
  (section === undefined ? 0 : prior.pace.section * x[layout.paces + section]!)

/** Everything about one set of answers that is summed up over its cells, its own day's parts included. */
export class Summed {
  readonly gradient: Float64Array
  readonly information: Float64Array
  value = 0
  constructor(readonly size: number) {
    this.gradient = new Float64Array(size)
    this.information = new Float64Array(size * size)
  }
  clear(): void {
    this.value = 0
    this.gradient.fill(0)
    this.information.fill(0)
  }
}

/** The parts that a number depends on, and how: as many of both as `length`. */
export class Slopes {
  length = 0
  readonly at: Int32Array
  readonly by: Float64Array
  private readonly place: Int32Array
  constructor(size: number) {
    this.at = new Int32Array(size)
    this.by = new Float64Array(size)
    this.place = new Int32Array(size).fill(-1)
  }
  clear(): void {
    for (let i = 0; i < this.length; i++) this.place[this.at[i]!] = -1
    this.length = 0
  }
  add(at: number, by: number): void {
    let place = this.place[at]!
    if (place < 0) {
      place = this.length++
      this.place[at] = place
      this.at[place] = at
      this.by[place] = 0
    }
    this.by[place]! += by
  }
}

export const least = 1e-9

/** Adds a cell's logarithm of the likelihood, its gradient and Fisher's information. */
function addCell(
  sum: Summed,
  slopes: Slopes,
  blanksAt: number,
  { guess, right, wrong, blank }: Cell,
  known: number,
  left: number,
): void {
  const missed = 1 - known
  const pRight = Math.max(least, known + missed * (1 - left) * guess)
  const pWrong = Math.max(least, missed * (1 - left) * (1 - guess))
  const pBlank = Math.max(least, missed * left)
  sum.value += right * ln(pRight) + wrong * ln(pWrong) + blank * ln(pBlank)
  // By the share known, and by the logarithm of the odds of a blank.
  const rightK = 1 - (1 - left) * guess
  const wrongK = -(1 - left) * (1 - guess)
  const turn = missed * left * (1 - left) * prior.blanks.sd
  const rightB = -turn * guess
  const wrongB = -turn * (1 - guess)
  const byKnown = (right * rightK) / pRight + (wrong * wrongK) / pWrong - (blank * left) / pBlank
  const byBlanks = (right * rightB) / pRight + (wrong * wrongB) / pWrong + (blank * turn) / pBlank
  const n = right + wrong + blank
  const kk = n * (square(rightK) / pRight + square(wrongK) / pWrong + square(left) / pBlank)
  const kb = n * ((rightK * rightB) / pRight + (wrongK * wrongB) / pWrong - (left * turn) / pBlank)
  const bb = n * (square(rightB) / pRight + square(wrongB) / pWrong + square(turn) / pBlank)
  const { gradient, information, size } = sum
  for (let i = 0; i < slopes.length; i++) {
    const at = slopes.at[i]!
    const by = slopes.by[i]!
    gradient[at]! += byKnown * by
    for (let j = 0; j < slopes.length; j++) information[at * size + slopes.at[j]!]! += kk * by * slopes.by[j]!
    information[at * size + blanksAt]! += kb * by
    information[blanksAt * size + at]! += kb * by
  }
  gradient[blanksAt]! += byBlanks
  information[blanksAt * size + blanksAt]! += bb
}

/** Adds what the share reached says of the pace; all reached says only that the pace was enough. */
function addReached(
  sum: Summed,
  problem: Problem,
  x: Float64Array,
  { section, items, notReached }: Reached,
  tests: number,
): void {
  const start = paceIn(problem, x, section)
  const wears = start < 0 ? exp(-tests / paceTests) : 1
  const pace = start * wears
  const { layout } = problem
  const variance = square(reachSd) + 1 / square(items)
  const enoughFor = logistic(reachSlope * pace)
  const off = notReached > 0 ? reachedLog(items, notReached) - pace : 0
  sum.value += lnReached({ items, notReached }, pace)
  const first = notReached > 0 ? off / variance : (1 - enoughFor) * reachSlope
  const second = notReached > 0 ? 1 / variance : enoughFor * (1 - enoughFor) * square(reachSlope)
  const parts: [number, number][] = [[layout.pace, prior.pace.sd * wears]]
  if (section !== undefined) parts.push([layout.paces + section, prior.pace.section * wears])
  for (const [at, by] of parts) {
    sum.gradient[at]! += first * by
    for (const [other, byOther] of parts) sum.information[at * sum.size + other]! += second * by * byOther
  }
}

/** One look at all the answers from a point: the posterior's logarithm, its gradient and information, days taken out. */
export class Look {
  readonly gradient: Float64Array
  readonly information: Square
  value = 0
  /** For each of the answers: what takes its day along when the point moves. */
  readonly days: { lower: Square; cross: Float64Array; gradient: Float64Array }[] = []
  constructor(readonly size: number) {
    this.gradient = new Float64Array(size)
    this.information = new Float64Array(size * size)
  }
}

/** Parts of a day: of all that was sat on it, and of each section. */
export const dayParts = (problem: Problem) => 1 + problem.layout.paces - problem.layout.sections

function addAnswers(
  problem: Problem,
  at: number,
  x: Float64Array,
  day: Float64Array,
  sum: Summed,
  slopes: Slopes,
): void {
  const { layout, makers, taus, sectionOf } = problem
  const answers = problem.answers[at]!
  const exposure = problem.exposures[at]!
  const speed = speedIn(problem, x)
  const forgetting = forgettingIn(problem, x)
  const left = blanksIn(problem, x)
  const maker = answers.maker === undefined ? -1 : layout.makers + makers.indexOf(answers.maker)
  const shared = answers.variance > 0
  sum.clear()
  for (const cell of answers.cells) {
    slopes.clear()
    let known = 0
    cell.topics.forEach((topic, place) => {
      const section = sectionOf[topic]!
      const ownSpeed = layout.speeds[topic]!
      const learns = ownSpeed < 0 ? speed : speed * exp(prior.topicSpeed.sd * x[ownSpeed]!)
      const found = knowing(levelIn(problem, x, topic), learns, forgetting, {
        dose: exposure.done[topic]! / taus[topic]!,
        idle: exposure.idle[topic]! / oldStability,
        fresh: exposure.fresh[topic]!,
      })
      const easier =
        cell.easier +
        (maker < 0 ? 0 : prior.maker.mean + prior.maker.sd * x[maker]!) +
        (shared ? day[0]! + day[1 + section]! : 0)
      const factor = exp(easier)
      const then = shifted(found.known, factor)
      const share = cell.shares[place]!
      known += share * then
      const turn = share * (factor / square(1 - found.known + found.known * factor))
      const byLevel = turn * found.byLevel
      slopes.add(layout.general, byLevel * prior.general.sd)
      slopes.add(layout.sections + section, byLevel * prior.section.sd)
      slopes.add(layout.topics + topic, byLevel * prior.topic.sd)
      slopes.add(layout.speed, turn * found.bySpeed * prior.speed.sd)
      if (ownSpeed >= 0) slopes.add(ownSpeed, turn * found.bySpeed * prior.topicSpeed.sd)
      slopes.add(layout.forgetting, turn * found.byForgetting * prior.forgetting.sd)
      const byOdds = share * then * (1 - then)
      if (maker >= 0) slopes.add(maker, byOdds * prior.maker.sd)
      if (shared) {
        slopes.add(layout.size, byOdds)
        slopes.add(layout.size + 1 + section, byOdds)
      }
    })
    addCell(sum, slopes, layout.blanks, cell, known, left)
  }
  for (const reached of answers.reached) addReached(sum, problem, x, reached, exposure.timed)
  if (!shared) return
  for (let part = 0; part < day.length; part++) {
    const variance = part ? square(prior.day.section) : answers.variance
    const own = layout.size + part
    sum.value -= square(day[part]!) / (2 * variance)
    sum.gradient[own]! -= day[part]! / variance
    sum.information[own * sum.size + own]! += 1 / variance
  }
}

/** Takes the parts of one day out of what its answers say (Schur's complement), and adds the rest. */
function withoutDay(look: Look, sum: Summed, parts: number): void {
  const { size } = look
  const lower = new Float64Array(parts * parts)
  const cross = new Float64Array(parts * size)
  const gradient = sum.gradient.slice(size, size + parts)
  for (let row = 0; row < parts; row++) {
    for (let column = 0; column < parts; column++)
      lower[row * parts + column] = sum.information[(size + row) * sum.size + size + column]!
    for (let at = 0; at < size; at++) cross[row * size + at] = sum.information[(size + row) * sum.size + at]!
  }
  look.value += sum.value
  if (parts) cholesky(lower, parts)
  // Half of each: rows of L^-1 times what crosses, whose squares are taken off.
  const half = cross.slice()
  const halfGradient = gradient.slice()
  for (let row = 0; row < parts; row++) {
    const pivot = lower[row * parts + row]!
    for (let before = 0; before < row; before++) {
      const by = lower[row * parts + before]!
      halfGradient[row]! -= by * halfGradient[before]!
      for (let at = 0; at < size; at++) half[row * size + at]! -= by * half[before * size + at]!
    }
    halfGradient[row]! /= pivot
    for (let at = 0; at < size; at++) half[row * size + at]! /= pivot
  }
  const { information, gradient: slope } = look
  const own = sum.information
  for (let at = 0; at < size; at++) {
    slope[at]! += sum.gradient[at]!
    const to = at * size
    const from = at * sum.size
    for (let other = 0; other <= at; other++) information[to + other]! += own[from + other]!
    for (let row = 0; row < parts; row++) {
      const start = row * size
      const by = half[start + at]!
      if (!by) continue
      slope[at]! -= by * halfGradient[row]!
      for (let other = 0; other <= at; other++) information[to + other]! -= by * half[start + other]!
    }
  }
  look.days.push({ lower, cross, gradient })
}

export function lookFrom(
  problem: Problem,
  x: Float64Array,
  days: Float64Array[],
  sum: Summed,
  slopes: Slopes,
): Look {
  const { size } = problem.layout
  const look = new Look(size)
  for (let at = 0; at < size; at++) {
    look.value -= square(x[at]!) / 2
    look.gradient[at] = -x[at]!
    look.information[at * size + at] = 1
  }
  problem.answers.forEach((answers, at) => {
    addAnswers(problem, at, x, days[at]!, sum, slopes)
    withoutDay(look, sum, answers.variance > 0 ? days[at]!.length : 0)
  })
  return look
}
