import type { Source } from '@climber/contract'
import { attemptTitle, sourceOf } from '../attempts/sat'
import { examShares } from '../exam/coverage'
import type { Between, SectionScore } from '../scoring/paperScore'
import { bandOf, compositeRange, percentileOf } from '../scoring/composite'
import { dateOf, dayNumber, type DayNumber, mondayOf } from '../time/day'
import { yieldOf } from '../hours/allocate'
import { type Assessment, assess } from './assessment'
import type { Goal } from './goal'
import type { CandidateRecord, Moment } from './moment'
import { type Odds, outlook, planOdds } from './odds'
import { type Verdict, verdict } from './verdict'

export interface TopicLine {
  id: string
  title: string
  section: string
  /** Share of its section, and of the whole exam. */
  share: number
  examShare: number
  mean: number
  low: number
  high: number
  /** Known today, after the work logged. */
  known: number
  yield: number
  tau: number
}
export interface OutlookPoint {
  date: string
  mean: number
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
  sections: { id: string; mean: number; low: number; high: number; scaled: number }[]
  measured: boolean
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

/** Mondays from `from` up to `to`, both ends included; fewer of them where the way is long. */
function weekMarks(from: DayNumber, to: DayNumber): DayNumber[] {
  const marks = [from]
  const step = 7 * Math.max(1, Math.ceil((to - from) / 1120))
  for (let monday = mondayOf(from) + 7; monday < to; monday += step) marks.push(monday)
  return to > from ? [...marks, to] : marks
}

function topicLines(assessment: Assessment): TopicLine[] {
  const { record, diagnosis, landscape, known } = assessment
  const shares = examShares(record.exam)
  const states = new Map(diagnosis.topics.map((state) => [state.topic, state]))
  return record.exam.topics.map((topic, at) => {
    const state = states.get(topic.id)!
    return {
      id: topic.id,
      title: topic.title,
      section: topic.section,
      share: topic.share,
      examShare: shares[at]!,
      mean: state.mean,
      low: state.low,
      high: state.high,
      known: known[at]!,
      yield: yieldOf({ ...landscape.topics[at]!, known: known[at]! }),
      tau: landscape.topics[at]!.tau,
    }
  })
}

export function overview(record: CandidateRecord, now: Moment): Overview {
  const assessment = assess(record, now)
  const { sitting, start, landscape, diagnosis } = assessment
  const exam = sitting && dayNumber(sitting.date)
  return {
    topics: topicLines(assessment),
    sections: diagnosis.sections.map(({ section, mean, low, high }, at) => ({
      id: section,
      mean,
      low,
      high,
      scaled: landscape.now.sections[at]!,
    })),
    measured: diagnosis.measured,
    verdict: verdict(assessment),
    odds: planOdds(assessment),
    outlook:
      exam === undefined
        ? []
        : outlook(assessment, 'composite', weekMarks(start, exam)).map(({ date, mean, low, high }) => ({
            date,
            mean,
            low,
            high,
          })),
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
