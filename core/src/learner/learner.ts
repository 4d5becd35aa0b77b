import type { ExamFormat, PlanSession } from '@climber/contract'
import { exp, square } from '../exact/functions'
import { groupsOf } from '../scoring/raw'
import { dayNumber, type DayNumber } from '../time/day'
import { newestBaseline } from './ageing'
import { answersOf, measuredBy, type Told } from './answers'
import type { Answers } from './cells'
import { type Candidates, knownBy, thinned } from './candidates'
import { normals } from './draws'
import { fit } from './fit'
import { layoutOf, type Problem } from './layout'
import { paceAfter, reachSd } from './pace'
import { type Scores, sit } from './paper'
import { prior, ratingShifts } from './prior'
import { candidatesOf } from './weigh'
import { type Exposure, exposures, inTime, metIn, type Work, workOf } from './work'

/** What a learner is made from: what was answered, and the work between. */
export interface Known extends Told {
  /** What was done, oldest first. */
  done: PlanSession[]
  /** Hours that close 63% of each topic, in the exam's order. */
  taus: number[]
}

/** Counts up where the same record is answered otherwise: what was stored of it is then worked out again. */
export const modelVersion = 2

/** Possible candidates, unless more or fewer are asked for. */
export const usualSize = 1000

/** How the work ahead is kept: all of it, or as much as each possible candidate keeps of what was planned. */
export interface Ahead {
  kept?: Float64Array
  /** Whose paper it is, where that is not the publisher's. */
  maker?: string
}

/** The share of planned sessions that each possible candidate keeps: Beta by what was kept and missed, as a normal. */
export function keptShares(sessions: PlanSession[], today: DayNumber, size: number): Float64Array {
  let { kept, missed } = prior.kept
  for (const { status, date } of sessions)
    if (status === 'done') kept += 1
    else if (
      status === 'slipped' ||
      status === 'skipped' ||
      (status === 'planned' && dayNumber(date) < today)
    )
      missed += 1
  const mean = kept / (kept + missed)
  const sd = Math.sqrt((mean * (1 - mean)) / (kept + missed + 1))
  return normals('kept', size).map((z) => Math.min(1, Math.max(0, mean + sd * z)))
}

function problemOf({ exam, ratings, taus }: Known, answers: Answers[], spent: Exposure[]): Problem {
  const makers = [...new Set(answers.flatMap(({ maker }) => maker ?? []))].sort()
  const topics = exam.topics.map(({ id }) => id)
  const last = spent.at(-1)
  const layout = layoutOf(
    exam.sections.map(({ id }) => id),
    makers,
    topics,
    topics.map((_, at) => (last?.done[at] ?? 0) > 0),
  )
  const section = new Map(exam.sections.map(({ id }, at) => [id, at]))
  const costs = exam.sections.some((one) => groupsOf(one).some(({ perWrong }) => perWrong > 0))
  return {
    layout,
    makers,
    topics,
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
  private constructor(
    readonly exam: ExamFormat,
    /** Everything that was answered, oldest first. */
    readonly answers: Answers[],
    readonly candidates: Candidates,
    /** Work done, and answers from memory that count as having been at a topic. */
    readonly done: Work[],
    private readonly taus: number[],
    /** The day from which work counts, and that of the newest answers. */
    readonly from: DayNumber,
    private readonly newest: DayNumber,
  ) {}

  static of(told: Known, size = usualSize): Learner {
    const { exam, recalled, taus, today } = told
    const answers = answersOf(told)
    const done = inTime([...workOf(exam, told.done, today, false), ...metIn(exam, recalled, today)])
    const days = answers.map(({ day }) => day)
    // What is known of old is as the newest baseline has it; what was sat before lies off by its age, with nothing known of the time between.
    const baseline = newestBaseline(
      told.attempts.filter(({ seen, date }) => !seen && date && dayNumber(date) <= today),
    )
    const from = Math.max(baseline, Math.min(today, ...days, ...done.map(({ day }) => day)))
    const problem = problemOf(told, answers, exposures(done, exam.topics.length, from, days))
    const candidates = candidatesOf(problem, fit(problem), size)
    return new Learner(exam, answers, candidates, done, taus, from, Math.max(from, ...days))
  }

  /** The same of fewer possible candidates, for what need not be as exact. */
  thinned(size: number): Learner {
    const { exam, answers, candidates, done, taus, from, newest } = this
    return new Learner(exam, answers, thinned(candidates, size), done, taus, from, newest)
  }

  get size(): number {
    return this.candidates.size
  }
  get weights(): Float64Array {
    return this.candidates.weights
  }
  /** Something was answered that tells of the exam; without, everything rests on ratings and on the prior. */
  get measured(): boolean {
    return this.answers.some(({ variance, cells }) => variance > 0 && cells.length > 0)
  }

  /** What work done, and to come, is by some days, ascending. */
  exposures(days: DayNumber[], ahead: Work[] = []): Exposure[] {
    const work = ahead.length ? inTime([...this.done, ...ahead]) : this.done
    return exposures(work, this.exam.topics.length, this.from, days)
  }

  /** Share known of every topic by every possible candidate after work. */
  known(exposure: Exposure, { kept }: Ahead = {}): Float64Array[] {
    return knownBy(this.candidates, this.taus, exposure, { kept })
  }

  /** Every possible candidate sits a paper after work; `known`, where that is thought of otherwise than by work. */
  scores(exposure: Exposure, ahead: Ahead = {}, known = this.known(exposure, ahead)): Scores {
    const { exam } = this
    const { size, blanks, makers } = this.candidates
    const walk = prior.walk * Math.max(0, exposure.day - this.newest)
    const dayWide = normals('day', size)
    const wide = Math.sqrt(square(prior.day.sd) + walk)
    const { maker } = ahead
    const easier =
      maker === undefined
        ? undefined
        : (makers.get(maker) ??
          normals(`maker ${maker}`, size).map((z) => prior.maker.mean + prior.maker.sd * z))
    return sit(exam, {
      size,
      known,
      blanks,
      factors: exam.sections.map(({ id }) => {
        const own = normals(`day ${id}`, size)
        return own.map((z, one) => exp(wide * dayWide[one]! + prior.day.section * z + (easier?.[one] ?? 0)))
      }),
      reach: this.reach(exposure),
    })
  }

  /** Share of each section that is got to after work, by every possible candidate. */
  reach({ timed, timedAhead }: Exposure): Float64Array[] {
    const { size, paces } = this.candidates
    return paces.map((own, at) => {
      const { id, timed: bell } = this.exam.sections[at]!
      if (bell === false) return new Float64Array(size).fill(1)
      const luck = normals(`reach ${id}`, size)
      return own.map((pace, one) =>
        Math.min(1, exp(paceAfter(pace, timed + timedAhead) + reachSd * luck[one]!)),
      )
    })
  }

  /** Share of the possible candidates of whom something holds. */
  share(holds: (one: number) => boolean): number {
    const { size, weights } = this
    let found = 0
    for (let one = 0; one < size; one++) if (holds(one)) found += weights[one]!
    // What sums up to all of them, or to none, is told as that.
    return Math.round((1e9 * found) / size) / 1e9
  }
}
