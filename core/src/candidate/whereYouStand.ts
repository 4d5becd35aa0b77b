import { type ChapterYield, chapterYields, examShares } from '../exam/coverage'
import type { DiagnosisResult } from '../learner/diagnose'
import { type Telling, tellingQuestions } from '../learner/telling'
import { roundToStep } from '../scoring/conversion'
import { bandOf, percentileOf } from '../scoring/composite'
import { scaledAt } from '../scoring/expected'
import { assess } from './assessment'
import type { CandidateRecord, Moment } from './moment'

export interface SectionLine {
  section: string
  title: string
  /** Share known, and the scaled scores it stands for. */
  mean: number
  low: number
  high: number
  scaled: { mean: number; low: number; high: number }
  cut?: number
  answered: number
  right: number
  notReached: number
}

/** Where the candidate stands: what tutor and candidate look at together after a diagnostic. */
export interface WhereYouStand {
  sections: SectionLine[]
  topics: (DiagnosisResult['topics'][number] & { title: string; share: number; value: number })[]
  tests: DiagnosisResult['tests']
  measured: boolean
  composite: { mean: number; sd: number; band?: string; percentile?: number }
  telling: Telling
  chapters: ChapterYield[]
}

export function whereYouStand(record: CandidateRecord, now: Moment): WhereYouStand {
  const { landscape, diagnosis, known } = assess(record, now)
  const { exam } = record
  const values = landscape.topics.map(({ value }) => value)
  const shares = examShares(exam)
  const states = new Map(diagnosis.topics.map((state) => [state.topic, state]))
  const level = roundToStep(landscape.now.composite, exam.composite.step)
  return {
    sections: exam.sections.map((section, at) => {
      const { mean, low, high, evidence, notReached } = diagnosis.sections[at]!
      return {
        section: section.id,
        title: section.title,
        mean,
        low,
        high,
        scaled: { mean: scaledAt(section, mean), low: scaledAt(section, low), high: scaledAt(section, high) },
        cut: section.cut,
        answered: evidence.right + evidence.wrong + evidence.skipped,
        right: evidence.right,
        notReached,
      }
    }),
    topics: exam.topics.map((topic, at) => ({
      ...states.get(topic.id)!,
      title: topic.title,
      share: shares[at]!,
      value: values[at]!,
    })),
    tests: diagnosis.tests,
    measured: diagnosis.measured,
    composite: {
      mean: landscape.now.composite,
      sd: landscape.spread().composite,
      band: bandOf(exam, level),
      percentile: percentileOf(exam, level),
    },
    telling: tellingQuestions(exam, diagnosis, values),
    chapters: chapterYields(
      exam,
      values.map((value, at) => value * (1 - known[at]!)),
    ),
  }
}
