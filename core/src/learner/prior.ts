import type { ExamFormat, Ratings, SelfRating } from '@climber/contract'

/**
 * What is believed of a candidate of whom nothing is known. Levels are logarithms of odds; every part is normal. Fitted in
 * bench/learner.ts on several kinds of learner, none of which is this model.
 */
export const prior = {
  /** Level of all questions together, and how far sections and topics lie about it. */
  general: { mean: -0.2, sd: 0.9 },
  section: { sd: 0.45 },
  topic: { sd: 0.75 },
  /** Logarithms of what multiplies hours, and the pace of forgetting. */
  speed: { mean: -0.08, sd: 0.4 },
  forgetting: { mean: 0, sd: 0.4 },
  /** How far topics lie about the speed of their candidate. */
  topicSpeed: { sd: 0.4 },
  /** Logarithm of the odds that what is not known is left blank; where a wrong answer costs, more is left. */
  blanks: { mean: -1.6, withPenalty: -0.4, sd: 1.8 },
  /** Logarithm of items that could be done in the time, over those there are; about it, that of each section. */
  pace: { mean: 0.04, sd: 0.11, section: 0.05 },
  /** What another maker's questions are harder (below 0) or easier: they run hard more often than not. */
  maker: { mean: -0.1, sd: 0.3 },
  /** Sessions that are kept, as if so many had been seen. */
  kept: { kept: 8.5, missed: 1.5 },
  /** How the level of one day lies about itself: the person's day and the paper's form, in all and in each section. */
  day: { sd: 0.13, section: 0.14 },
  /** Variance of the level by what no log tells, each day. */
  walk: 0.0002,
  /** Variance by which a test that is `halfWeightDays` older than the newest of the baseline lies off besides. */
  ageing: 0.1,
}

/** By how much a self-rating moves a topic against the others. */
const said: Record<SelfRating, number> = {
  weak: -0.8,
  fair: 0,
  strong: 0.8,
  covered: 0.4,
  'not-covered': -2.6,
}

/** What is measured of the parts of an exam: a section by itself, or only all of it together. */
export interface Measured {
  sections: ReadonlySet<string>
  whole: boolean
}

/**
 * Where each topic's level lies by its rating, in the exam's order. What was measured is not moved: there a rating only sets topics
 * against each other, so that by their shares they come to nothing.
 */
export function ratingShifts(exam: ExamFormat, ratings: Ratings, measured: Measured): Float64Array {
  const shifts = Float64Array.from(exam.topics, ({ id }) => said[ratings.topics[id] ?? 'fair'])
  const settle = (own: number[], weights: number[]) => {
    const all = weights.reduce((a, b) => a + b, 0)
    const mean = own.reduce((sum, at, place) => sum + weights[place]! * shifts[at]!, 0) / (all || 1)
    for (const at of own) shifts[at]! -= mean
  }
  const places = exam.sections.map(({ id }) =>
    exam.topics.flatMap((topic, at) => (topic.section === id ? [at] : [])),
  )
  exam.sections.forEach(({ id }, section) => {
    const own = places[section]!
    if (measured.sections.has(id))
      settle(
        own,
        own.map((at) => exam.topics[at]!.share),
      )
  })
  if (measured.whole) {
    const open = exam.sections.flatMap(({ id }, section) =>
      measured.sections.has(id) ? [] : places[section]!,
    )
    settle(
      open,
      open.map((at) => exam.topics[at]!.share),
    )
  }
  return shifts
}
