import type { AttemptCounts, Counts, ExamFormat, Form } from '@climber/contract'
import { normalFrom } from '../exact/normal'
import { randomFrom } from '../exact/random'
import { composite, conversionFor } from './composite'
import { convert } from './conversion'
import { drawnLean, filledGroups } from './fill'
import { rawOfSection, stageTaken } from './raw'

export interface SectionScore {
  section: string
  raw: number
  scaled: number
  cut?: number
  ownTable: boolean
  /** The second stage that was sat, of an adaptive section. */
  stage?: string
  /** Where the counts do not tell the score: the middle 80% of what they leave open. */
  between?: Between
}
/** Ends of a range of scaled scores. */
export interface Between {
  low: number
  high: number
}
/** Scores of a whole paper. */
export interface PaperScore {
  sections: SectionScore[]
  composite: number
  passed: boolean
  between?: Between
}

/** Scores of the sections whose counts are all there, in the exam's order. */
export const sectionScores = (
  exam: Pick<ExamFormat, 'sections'>,
  counts: Record<string, Counts>,
  form?: Form,
): SectionScore[] =>
  exam.sections.flatMap((section) => {
    const raw = rawOfSection(section, counts)
    if (raw === undefined) return []
    const stage = stageTaken(section, counts)
    const { conversion, own } = conversionFor(stage ?? section, form)
    return [
      {
        section: section.id,
        raw,
        scaled: convert(conversion, raw),
        cut: section.cut,
        ownTable: own,
        ...(stage ? { stage: stage.id } : {}),
      },
    ]
  })

/** Scores of a whole paper from counts by item group; undefined where counts of what was met are missing. */
export function paperScore(
  exam: ExamFormat,
  counts: Record<string, Counts>,
  form?: Form,
): PaperScore | undefined {
  const sections = sectionScores(exam, counts, form)
  if (sections.length < exam.sections.length) return undefined
  const total = composite(
    exam,
    sections.map(({ scaled }) => scaled),
  )
  return {
    sections,
    composite: total,
    passed:
      sections.every(({ scaled, cut }) => cut === undefined || scaled >= cut) &&
      (exam.composite.cut === undefined || total >= exam.composite.cut),
  }
}

const draws = 80
const middle = (values: number[]): Between | undefined => {
  const sorted = [...values].sort((a, b) => a - b)
  const at = (share: number) => sorted[Math.round(share * (sorted.length - 1))]!
  return at(0) === at(1) ? undefined : { low: at(0.1), high: at(0.9) }
}

/**
 * Scores of a whole paper from counts of whatever grain: by item group, section or topic, or in all. Where they leave the
 * split open, the scores are those of an even one, and `between` holds 8 in 10 of the splits that candidates' sections and
 * luck make likely (80 draws, seeded). Exact, with no `between`, where every split scores the same. Undefined where
 * nothing is known of a section.
 */
export function scoreOfCounts(exam: ExamFormat, counts: AttemptCounts, form?: Form): PaperScore | undefined {
  const exact = paperScore(exam, counts.groups, form)
  if (exact) return exact
  const filled = filledGroups(exam, counts)
  const score = paperScore(exam, filled.groups, form)
  if (!score) return undefined
  const all = Object.values(filled.groups)
  const right = all.reduce((sum, one) => sum + one.right, 0)
  const items = all.reduce((sum, one) => sum + one.right + one.wrong + one.blank, 0)
  const random = randomFrom(1)
  const normal = () => normalFrom(random())
  const drawn = Array.from({ length: draws }, () => {
    const lean = drawnLean(exam, items ? right / items : 0.5, normal)
    return paperScore(exam, filledGroups(exam, counts, lean).groups, form)!
  })
  const between = middle(drawn.map((one) => one.composite))
  return {
    ...score,
    sections: score.sections.map((section, at) => {
      const range = middle(drawn.map((one) => one.sections[at]!.scaled))
      return { ...section, ...(range && { between: range }) }
    }),
    ...(between && { between }),
  }
}
