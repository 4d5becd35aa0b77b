import type { ExamFormat, SelfRating } from '@climber/contract'
import { attemptTitle, isBaseline } from '../attempts/sat'
import { type ChapterYield, chapterYields, examShares } from '../exam/coverage'
import { weighed } from '../learner/ageing'
import type { Answers, Cell } from '../learner/answers'
import { type Estimate, estimateOf } from '../learner/estimate'
import { type Telling, tellingQuestions } from '../learner/telling'
import { bandOf, percentileOf } from '../scoring/composite'
import { roundToStep } from '../scoring/conversion'
import { type Assessment, assess, expectedOf, scoresOn } from './assessment'
import type { CandidateRecord, Moment } from './moment'

/** What was answered, as it counts: fractions where it counts for less than an item of a paper. */
export interface Evidence {
  right: number
  wrong: number
  /** Reached and left. */
  blank: number
}

/** What is known of a topic today. */
export interface TopicState extends Estimate {
  topic: string
  section: string
  title: string
  /** Of the whole exam. */
  share: number
  /** Points of the composite if fully known. */
  value: number
  evidence: Evidence
  rating?: SelfRating
}

export interface SectionLine {
  section: string
  title: string
  /** Share known today, and the scaled scores of a paper sat today. */
  mean: number
  low: number
  high: number
  scaled: { mean: number; low: number; high: number }
  cut?: number
  /** Answered or reached and left, and right. */
  answered: number
  right: number
  notReached: number
}

/** Where the candidate stands: what tutor and candidate look at together after a diagnostic. */
export interface WhereYouStand {
  sections: SectionLine[]
  topics: TopicState[]
  /** The tests that a baseline rests on, oldest first, with what each counts. */
  tests: { date?: string; title: string; weight: number }[]
  measured: boolean
  composite: { mean: number; sd: number; band?: string; percentile?: number }
  telling: Telling
  chapters: ChapterYield[]
}

const none: Evidence = { right: 0, wrong: 0, blank: 0 }
/** What all cells that something holds of come to. */
const tallied = (answers: Answers[], of: (cell: Cell) => boolean): Evidence =>
  answers
    .flatMap(({ cells }) => cells.filter(of))
    .reduce(
      (sum, { right, wrong, blank }) => ({
        right: sum.right + right,
        wrong: sum.wrong + wrong,
        blank: sum.blank + blank,
      }),
      none,
    )

/** Share known of each section by every possible candidate. */
const knownOfSection = (exam: ExamFormat, id: string, knownBy: Float64Array[]): Float64Array => {
  const found = new Float64Array(knownBy[0]?.length ?? 0)
  exam.topics.forEach(({ section, share }, at) => {
    if (section === id) knownBy[at]!.forEach((known, one) => (found[one]! += share * known))
  })
  return found
}

/** What is known of each section today, in the exam's order. */
export const sectionStates = ({ record: { exam }, learner, knownBy }: Assessment): Estimate[] =>
  exam.sections.map(({ id }) => estimateOf(knownOfSection(exam, id, knownBy), learner.weights))

function sectionLines(assessment: Assessment): SectionLine[] {
  const { exam } = assessment.record
  const { answers } = assessment.learner
  const scores = scoresOn(assessment, assessment.today)
  const states = sectionStates(assessment)
  return exam.sections.map(({ id, title, cut }, at) => {
    const { right, wrong, blank } = tallied(answers, ({ section }) => section === at)
    const { mean, low, high } = states[at]!
    return {
      section: id,
      title,
      mean,
      low,
      high,
      scaled: expectedOf(assessment, scores, at),
      cut,
      answered: right + wrong + blank,
      right,
      notReached: answers
        .flatMap(({ reached }) => reached)
        .reduce((sum, one) => sum + (one.section === at ? one.notReached : 0), 0),
    }
  })
}

export function whereYouStand(record: CandidateRecord, now: Moment): WhereYouStand {
  const assessment = assess(record, now)
  const { learner, landscape, known, knownBy, today } = assessment
  const { exam, ratings } = record
  const values = landscape.topics.map(({ value }) => value)
  const shares = examShares(exam)
  const { mean, sd } = expectedOf(assessment, scoresOn(assessment, today))
  const level = roundToStep(mean, exam.composite.step)
  return {
    sections: sectionLines(assessment),
    topics: exam.topics.map(({ id, section, title }, at) => ({
      topic: id,
      section,
      title,
      share: shares[at]!,
      value: values[at]!,
      ...estimateOf(knownBy[at]!, learner.weights),
      evidence: tallied(learner.answers, ({ topics }) => topics.length === 1 && topics[0] === at),
      rating: ratings.topics[id],
    })),
    tests: weighed(record.attempts.filter(isBaseline), ratings.halfWeightDays).map((test) => ({
      date: test.date,
      title: attemptTitle(exam, test),
      weight: test.weight,
    })),
    measured: learner.measured,
    composite: { mean, sd, band: bandOf(exam, level), percentile: percentileOf(exam, level) },
    telling: tellingQuestions(exam, learner, knownBy, values),
    chapters: chapterYields(
      exam,
      values.map((value, at) => value * (1 - known[at]!)),
    ),
  }
}
