import type { ExamFormat } from '@climber/contract'
import { square } from '../exact/functions'
import { choicesOf, groupsOf } from '../scoring/raw'
import { weightedMean } from './estimate'
import type { Learner } from './learner'

export interface TellingQuestions {
  topic: string
  /** How many of the questions are on this topic. */
  questions: number
  /** Expected drop in the variance of what is asked about, in its units squared, from these questions together. */
  drop: number
  /** The same as a share of the whole variance. */
  share: number
}

export interface Telling {
  topics: TellingQuestions[]
  /** Standard deviation of what is asked about over what is unknown of the topics: now, and expected after the questions. */
  sd: number
  sdAfter: number
  /** How far the answers are expected to move it, one standard deviation. */
  moves: number
}

/** Mean of every row, and covariances of all with each other. */
function together(
  rows: Float64Array[],
  weights: Float64Array,
): { means: number[]; covariances: Float64Array[] } {
  const size = weights.length
  const means = rows.map((row) => row.reduce((sum, value, one) => sum + weights[one]! * value, 0) / size)
  const off = rows.map((row, at) => row.map((value) => value - means[at]!))
  const heavy = off.map((row) => row.map((value, one) => (value * weights[one]!) / size))
  const covariances = rows.map(() => new Float64Array(rows.length))
  off.forEach((row, at) => {
    for (let other = 0; other <= at; other++) {
      const own = heavy[other]!
      let sum = 0
      for (let one = 0; one < size; one++) sum += row[one]! * own[one]!
      covariances[at]![other] = sum
      covariances[other]![at] = sum
    }
  })
  return { means, covariances }
}

/**
 * The `count` questions that would tell most of something about the candidate, `of` every possible one (a score, a chance): one after the
 * other, each from the topic whose next answer is expected to take most off its variance, as the possible candidates lie, answers of other
 * topics told of before in it. An answer tells of what is known by a line (the best linear predictor; Kalman 1960). `known` is the share
 * known of each topic, in the exam's order, by every possible candidate. Source: docs/models.md, 2.
 */
export function tellingQuestions(
  exam: ExamFormat,
  { weights }: Pick<Learner, 'weights'>,
  known: Float64Array[],
  of: Float64Array,
  count = 10,
): Telling {
  const guess = new Map(exam.sections.map((section) => [section.id, 1 / choicesOf(groupsOf(section))]))
  const { means, covariances } = together(known, weights)
  const noise = exam.topics.map(({ section }, at) => {
    const by = guess.get(section)!
    const right = means[at]! + (1 - means[at]!) * by
    // Of an answer as a measure of what is known: its own luck, on the scale of the share known.
    return Math.max(1e-6, (right * (1 - right)) / square(1 - by) - covariances[at]![at]!)
  })
  const middle = weightedMean(of, weights)
  const off = of.map((value, one) => weights[one]! * (value - middle))
  const total = weightedMean(of, off)
  const scores = known.map((own) => weightedMean(own, off))
  const found = exam.topics.map(() => ({ questions: 0, drop: 0 }))
  let left = total
  for (let asked = 0; asked < count && exam.topics.length; asked++) {
    const drops = scores.map((score, at) => square(score) / (covariances[at]![at]! + noise[at]!))
    const best = drops.indexOf(Math.max(...drops))
    const own = found[best]!
    own.questions += 1
    own.drop += drops[best]!
    left -= drops[best]!
    const row = covariances[best]!.slice()
    const variance = row[best]! + noise[best]!
    const score = scores[best]!
    covariances.forEach((other, at) => {
      const by = row[at]! / variance
      for (let place = 0; place < other.length; place++) other[place]! -= by * row[place]!
      scores[at]! -= by * score
    })
  }
  return {
    sd: Math.sqrt(Math.max(0, total)),
    sdAfter: Math.sqrt(Math.max(0, left)),
    moves: Math.sqrt(Math.max(0, total - left)),
    topics: exam.topics
      .map(({ id }, at) => ({
        topic: id,
        ...found[at]!,
        share: total > 0 ? found[at]!.drop / total : 0,
      }))
      .filter(({ questions }) => questions > 0)
      .sort((a, b) => b.drop - a.drop),
  }
}
