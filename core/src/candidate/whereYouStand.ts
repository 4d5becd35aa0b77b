import type { SelfRating } from '@climber/contract'
import { attemptTitle, isBaseline } from '../attempts/sat'
import { type ChapterYield, chapterYields, examShares } from '../exam/coverage'
import { weighed } from '../learner/ageing'
import type { Answers, AnswersOf, Cell } from '../learner/cells'
import { chancesBy } from '../learner/demand'
import { type Estimate, estimateOf, weightedMean } from '../learner/estimate'
import { type Telling, tellingQuestions } from '../learner/telling'
import { bandOf, percentileOf } from '../scoring/composite'
import { roundToStep } from '../scoring/conversion'
import { type Assessment, assess, expectedOf, scoresOn, sectionKnownBy } from './assessment'
import { dayNumber } from '../time/day'
import type { CandidateRecord, Moment } from './moment'
import { demandsOf } from './odds'

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
  /** The same by what sort of thing was answered; sorts of which there is nothing are left out. */
  told: { of: AnswersOf; right: number; answers: number }[]
  /** Share known at the newest test of the baseline, as it looks from today. */
  before: number
  /** Effective hours of work since everything began, and days since it was last met. */
  hours: number
  daysSince?: number
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
  /** Items answered, right, and reached and left, as they count. */
  answered: number
  left: number
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
  /** Questions that would tell most of the score today; and of the odds on exam day, where there is a target. */
  telling: Telling
  tellingOdds?: Telling
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

/** What is known of each section today, in the exam's order. */
export const sectionStates = (assessment: Assessment): Estimate[] =>
  assessment.record.exam.sections.map((_, at) =>
    estimateOf(sectionKnownBy(assessment, at), assessment.learner.weights),
  )

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
      answered: right + wrong,
      left: blank,
      right,
      notReached: answers
        .flatMap(({ reached }) => reached)
        .reduce((sum, one) => sum + (one.section === at ? one.notReached : 0), 0),
    }
  })
}

const sorts: AnswersOf[] = ['tests', 'sets and drills', 'retests', 'memory']

/** What is known of each topic, and what that rests on. */
function topicStates(assessment: Assessment): TopicState[] {
  const { record, learner, landscape, knownBy, touches, today } = assessment
  const { exam, ratings } = record
  const shares = examShares(exam)
  const [at0] = learner.exposures([learner.from])
  const before = learner.known(at0!)
  const [exposure] = learner.exposures([today + 1])
  return exam.topics.map(({ id, section, title }, at) => {
    const own = ({ topics }: Cell) => topics.length === 1 && topics[0] === at
    const last = touches[at]!.at(-1)
    return {
      topic: id,
      section,
      title,
      share: shares[at]!,
      value: landscape.topics[at]!.value,
      ...estimateOf(knownBy[at]!, learner.weights),
      evidence: tallied(learner.answers, own),
      told: sorts.flatMap((of) => {
        const { right, wrong, blank } = tallied(
          learner.answers.filter((answers) => answers.of === of),
          own,
        )
        const answers = right + wrong + blank
        return answers > 0 ? [{ of, right, answers }] : []
      }),
      before: weightedMean(before[at]!, learner.weights),
      hours: exposure!.done[at]!,
      ...(last !== undefined && { daysSince: today - last }),
      rating: ratings.topics[id],
    }
  })
}

/** The questions that would move the odds most, as the plan has them. */
function tellingOdds(assessment: Assessment): Pick<WhereYouStand, 'tellingOdds'> {
  const { learner, knownBy, record, sitting, goal } = assessment
  if (!sitting || goal.mean === undefined) return {}
  const demands = demandsOf(assessment, scoresOn(assessment, dayNumber(sitting.date)))
  return {
    tellingOdds: tellingQuestions(record.exam, learner, knownBy, chancesBy(demands, learner.weights)),
  }
}

export function whereYouStand(record: CandidateRecord, now: Moment): WhereYouStand {
  const assessment = assess(record, now)
  const { learner, landscape, known, knownBy, today } = assessment
  const { exam, ratings } = record
  const values = landscape.topics.map(({ value }) => value)
  const { mean, sd } = expectedOf(assessment, scoresOn(assessment, today))
  const level = roundToStep(mean, exam.composite.step)
  return {
    sections: sectionLines(assessment),
    topics: topicStates(assessment),
    tests: weighed(record.attempts.filter(isBaseline), ratings.halfWeightDays).map((test) => ({
      date: test.date,
      title: attemptTitle(exam, test),
      weight: test.weight,
    })),
    measured: learner.measured,
    composite: { mean, sd, band: bandOf(exam, level), percentile: percentileOf(exam, level) },
    telling: tellingQuestions(
      exam,
      learner,
      knownBy,
      learner.weights.map((_, one) => values.reduce((sum, value, at) => sum + value * knownBy[at]![one]!, 0)),
    ),
    ...tellingOdds(assessment),
    chapters: chapterYields(
      exam,
      values.map((value, at) => value * (1 - known[at]!)),
    ),
  }
}
