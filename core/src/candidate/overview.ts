import type { Source } from '@climber/contract'
import { attemptTitle, sourceOf } from '../attempts/sat'
import { examShares } from '../exam/coverage'
import type { Between, SectionScore } from '../scoring/paperScore'
import { bandOf, compositeRange, percentileOf } from '../scoring/composite'
import { dateOf, dayNumber, type DayNumber, mondayOf } from '../time/day'
import { estimateOf, type Estimate, weightedMean } from '../learner/estimate'
import { type Assessment, assess, expectedOf, type NextHour, nextHour, scoresOn } from './assessment'
import type { Goal } from './goal'
import type { CandidateRecord, Moment } from './moment'
import { type Odds, outlook, type OutlookPoint, planOdds } from './odds'
import { type Verdict, verdict } from './verdict'

export interface TopicLine extends NextHour {
  id: string
  title: string
  section: string
  /** Share of its section, and of the whole exam. */
  share: number
  examShare: number
  /** The range that holds the share known 8 times in 10. */
  low: number
  high: number
}
export interface ScoredLine {
  id: string
  date: string
  title: string
  source: Source
  seen: boolean
  version?: number
  composite: number
  /** Where only totals are known: what they leave open, 8 times in 10. */
  between?: Between
  band?: string
  /** Per cent of candidates below it. */
  percentile?: number
  passed: boolean
  sections: SectionScore[]
}

/** Everything the screens show of a record, as plain data; the same in a web worker and on the server. */
export interface Overview {
  topics: TopicLine[]
  /** What each section would score today. */
  sections: ({ id: string } & Estimate)[]
  measured: boolean
  /** Speed of learning, as a multiple of the usual; and what other makers' papers score above the publisher's. */
  learned: { speed: Estimate; makers: { maker: string; points: number }[] }
  verdict?: Verdict
  odds?: Odds
  /** Levels week by week from the start to exam day. */
  outlook: OutlookPoint[]
  range: { low: number; high: number }
  target?: number
  goal: Goal
  tests: ScoredLine[]
  start: string
  examDate?: string
}

/** Weeks that are drawn one by one. */
const mostMarks = 26

/** Mondays from `from` up to `to`, both ends included; fewer of them where the way is long. */
function weekMarks(from: DayNumber, to: DayNumber): DayNumber[] {
  const marks = [from]
  const step = 7 * Math.max(1, Math.ceil((to - from) / (7 * mostMarks)))
  for (let monday = mondayOf(from) + 7; monday < to; monday += step) marks.push(monday)
  return to > from ? [...marks, to] : marks
}

function topicLines(assessment: Assessment): TopicLine[] {
  const { record, learner, knownBy } = assessment
  const shares = examShares(record.exam)
  return record.exam.topics.map(({ id, title, section, share }, at) => {
    const { low, high } = estimateOf(knownBy[at]!, learner.weights)
    return { id, title, section, share, examShare: shares[at]!, low, high, ...nextHour(assessment, at) }
  })
}

/** What was learned of how the candidate learns, and of other makers' papers. */
function learnedOf(assessment: Assessment): Overview['learned'] {
  const { learner, today } = assessment
  const { candidates, weights } = learner
  const own = weightedMean(scoresOn(assessment, today).composite, weights)
  return {
    speed: estimateOf(candidates.speed, weights),
    makers: [...candidates.makers.keys()].map((maker) => ({
      maker,
      points: weightedMean(scoresOn(assessment, today, 'kept', maker).composite, weights) - own,
    })),
  }
}

export function overview(record: CandidateRecord, now: Moment): Overview {
  const assessment = assess(record, now)
  const { sitting, start, learner, today } = assessment
  const exam = sitting && dayNumber(sitting.date)
  const level = scoresOn(assessment, today)
  return {
    topics: topicLines(assessment),
    sections: record.exam.sections.map(({ id }, at) => ({ id, ...expectedOf(assessment, level, at) })),
    measured: learner.measured,
    learned: learnedOf(assessment),
    verdict: verdict(assessment),
    odds: planOdds(assessment),
    outlook: exam === undefined ? [] : outlook(assessment, weekMarks(start, exam)),
    range: compositeRange(record.exam),
    target: assessment.goal.mean,
    goal: assessment.goal,
    tests: assessment.scored.map(({ test, score }) => ({
      id: test.id,
      date: test.date,
      title: attemptTitle(record.exam, test),
      source: sourceOf(record.exam, test, record.materials),
      seen: test.seen,
      composite: score.composite,
      between: score.between,
      band: bandOf(record.exam, score.composite),
      percentile: percentileOf(record.exam, score.composite),
      passed: score.passed,
      sections: score.sections,
    })),
    start: dateOf(start),
    examDate: sitting?.date,
  }
}
