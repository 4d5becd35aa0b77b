import type { Attempt, ExamFormat, Materials, PlanSession, Ratings, Recalled } from '@climber/contract'
import { exp, square } from '../exact/functions'
import { groupsOf } from '../scoring/raw'
import { dayNumber, type DayNumber } from '../time/day'
import { type Answers, answersOf, measuredBy } from './answers'
import { normals } from './draws'
import { type Candidates, candidatesOf, knownBy } from './candidates'
import { fit, layoutOf, paceAfter, type Problem, reachSd } from './fit'
import { type Scores, sit } from './paper'
import { prior, ratingShifts } from './prior'
import { type Exposure, exposures, type Work, workOf } from './work'

/** What a learner is made from. */
export interface Known {
  exam: ExamFormat
  attempts: readonly Attempt[]
  ratings: Ratings
  recalled: Recalled
  materials?: Materials
  /** Everything that was planned and done. */
  sessions: PlanSession[]
  /** Hours that close 63% of each topic, in the exam's order. */
  taus: number[]
  today: DayNumber
  /** Number of possible candidates. */
  size?: number
}

/** Possible candidates, unless more or fewer are asked for. */
export const usualSize = 1000

/** What is kept of the work ahead. */
export type Keeping = 'kept' | 'rate'

/** A middle and the ends of what holds 8 in 10. */
export interface Estimate {
  mean: number
  sd: number
  low: number
  high: number
}

/** Mean, standard deviation and the tenths of one number a possible candidate, each as heavy as it weighs. */
export function estimateOf(values: Float64Array, weights: Float64Array): Estimate {
  const size = values.length
  let [mean, second] = [0, 0]
  for (let one = 0; one < size; one++) mean += (weights[one]! * values[one]!) / size
  for (let one = 0; one < size; one++) second += (weights[one]! * square(values[one]! - mean)) / size
  return { mean, sd: Math.sqrt(second), low: quantile(values, weights, 0.1), high: quantile(values, weights, 0.9) }
}

/** The value below which a share of the weight lies; between two neighbours where the share falls between their middles. */
export function quantile(values: Float64Array, weights: Float64Array, share: number): number {
  const order = Uint32Array.from(values, (_, at) => at).sort((a, b) => values[a]! - values[b]!)
  const all = weights.reduce((a, b) => a + b, 0)
  let below = 0
  let [before, beforeAt] = [values[order[0]!]!, 0]
  for (const one of order) {
    const middle = (below + weights[one]! / 2) / all
    if (middle >= share) {
      const value = values[one]!
      return middle > beforeAt ? before + ((value - before) * (share - beforeAt)) / (middle - beforeAt) : value
    }
    ;[before, beforeAt] = [values[one]!, middle]
    below += weights[one]!
  }
  return before
}

/** The share of planned sessions that each possible candidate keeps: Beta by what was kept and missed, as a normal of its odds. */
function keptShares(sessions: PlanSession[], today: DayNumber, size: number): Float64Array {
  let { kept, missed } = prior.kept
  for (const { status, date } of sessions)
    if (status === 'done') kept += 1
    else if (status === 'slipped' || status === 'skipped' || (status === 'planned' && dayNumber(date) < today)) missed += 1
  const mean = kept / (kept + missed)
  const sd = Math.sqrt((mean * (1 - mean)) / (kept + missed + 1))
  return normals('kept', size).map((z) => Math.min(1, Math.max(0, mean + sd * z)))
}

function problemOf({ exam, ratings, taus }: Known, answers: Answers[], spent: Exposure[]): Problem {
  const makers = [...new Set(answers.flatMap(({ maker }) => maker ?? []))].sort()
  const layout = layoutOf(
    exam.sections.map(({ id }) => id),
    makers,
    exam.topics.map(({ id }) => id),
  )
  const section = new Map(exam.sections.map(({ id }, at) => [id, at]))
  const costs = exam.sections.some((one) => groupsOf(one).some(({ perWrong }) => perWrong > 0))
  return {
    layout,
    makers,
    sectionOf: Int32Array.from(exam.topics, (topic) => section.get(topic.section)!),
    taus: Float64Array.from(taus),
    shifts: ratingShifts(exam, ratings, measuredBy(exam, answers)),
    blanks: costs ? prior.blanks.withPenalty : prior.blanks.mean,
    answers,
    exposures: spent,
  }
}

/** What is known of a candidate: a weighted set of possible ones, from which every figure comes. */
export class Learner {
  readonly exam: ExamFormat
  readonly today: DayNumber
  readonly answers: Answers[]
  readonly candidates: Candidates
  /** The share of planned sessions that each keeps. */
  readonly kept: Float64Array
  /** The day from which work counts, and that of the newest answers. */
  private readonly from: DayNumber
  private readonly newest: DayNumber

  constructor(private readonly told: Known) {
    const { exam, sessions, today, size = usualSize } = told
    this.exam = exam
    this.today = today
    this.answers = answersOf(told)
    const work = workOf(exam, sessions, today, false)
    const days = this.answers.map(({ day }) => day)
    this.from = Math.min(today, ...days, ...work.map(({ day }) => day))
    this.newest = Math.max(this.from, ...days)
    const problem = problemOf(told, this.answers, exposures(work, exam.topics.length, this.from, days))
    this.candidates = candidatesOf(problem, fit(problem), size)
    this.kept = keptShares(sessions, today, size)
  }

  get weights(): Float64Array {
    return this.candidates.weights
  }

  /** What work comes to by some days, ascending; those of the plan ahead in it. */
  exposures(days: DayNumber[], ahead: boolean, sessions = this.told.sessions): Exposure[] {
    const work: Work[] = workOf(this.exam, sessions, this.today, ahead)
    return exposures(work, this.exam.topics.length, this.from, days)
  }

  /** Share known of every topic by every possible candidate after work. */
  known(exposure: Exposure, keeping: Keeping = 'kept'): Float64Array[] {
    return knownBy(this.candidates, this.told.taus, exposure, keeping === 'rate' ? { kept: this.kept } : {})
  }

  /** Every possible candidate sits the exam after work. */
  scores(exposure: Exposure, keeping: Keeping = 'kept'): Scores {
    const { exam } = this
    const { size, blanks, paces } = this.candidates
    const walk = prior.walk * Math.max(0, exposure.day - this.newest)
    const dayWide = normals('day', size)
    const wide = Math.sqrt(square(prior.day.sd) + walk)
    const tests = exposure.timed + exposure.timedAhead
    return sit(exam, {
      size,
      known: this.known(exposure, keeping),
      blanks,
      factors: exam.sections.map(({ id }) => {
        const own = normals(`day ${id}`, size)
        return own.map((z, one) => exp(wide * dayWide[one]! + prior.day.section * z))
      }),
      reach: paces.map((own, at) => {
        const section = exam.sections[at]!
        if (section.timed === false) return new Float64Array(size).fill(1)
        const luck = normals(`reach ${section.id}`, size)
        return own.map((pace, one) => Math.min(1, exp(paceAfter(pace, tests) + reachSd * luck[one]!)))
      }),
    })
  }

  /** Share of the possible candidates that reach the target, if any, and every cut. */
  reaching({ sections, composite }: Scores, target = -Infinity): number {
    const cuts = this.exam.sections.map(({ cut }) => cut ?? -Infinity)
    let found = 0
    for (let one = 0; one < composite.length; one++)
      if (composite[one]! >= target - 1e-9 && cuts.every((cut, at) => sections[at]![one]! >= cut - 1e-9))
        found += this.weights[one]!
    return found / composite.length
  }
}
