import type { Counts, ExamFormat, Form } from '@climber/contract'
import { composite, conversionFor } from './composite'
import { convert } from './conversion'
import { rawOfSection, stageTaken } from './raw'

export interface SectionScore {
  section: string
  raw: number
  scaled: number
  cut?: number
  ownTable: boolean
  /** The second stage that was sat, of an adaptive section. */
  stage?: string
}
/** Scores of a whole paper. */
export interface PaperScore {
  sections: SectionScore[]
  composite: number
  passed: boolean
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
