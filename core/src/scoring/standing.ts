import type { Conversion, Counts, ExamFormat, Form, Section } from '@climber/contract'
import { convert, rangeOf, roundToStep } from './conversion'
import { rawOfSection } from './raw'

/** The form's own table for a section, or the exam format's where it has none (`own` says which). */
export function conversionFor(section: Section, form?: Form): { conversion: Conversion; own: boolean } {
  const own = form?.conversions[section.id]
  return own ? { conversion: own, own: true } : { conversion: section.conversion, own: false }
}

/** Weight of each section in the composite, in the exam's order. */
export function compositeWeights(exam: ExamFormat): number[] {
  const { kind, weights } = exam.composite
  return exam.sections.map(({ id }) =>
    kind === 'sum' ? 1 : kind === 'mean' ? 1 / exam.sections.length : (weights?.[id] ?? 0),
  )
}

/** Composite of scaled section scores, before rounding. */
export const compositeExactly = (exam: ExamFormat, scaled: number[]): number =>
  compositeWeights(exam).reduce((sum, weight, at) => sum + weight * (scaled[at] ?? 0), 0)

export const composite = (exam: ExamFormat, scaled: number[]): number =>
  roundToStep(compositeExactly(exam, scaled), exam.composite.step)

/** Lowest and highest composite that the exam's own tables give. */
export function compositeRange(exam: ExamFormat): { low: number; high: number } {
  const ranges = exam.sections.map(({ conversion }) => rangeOf(conversion))
  return {
    low: compositeExactly(
      exam,
      ranges.map(({ low }) => low),
    ),
    high: compositeExactly(
      exam,
      ranges.map(({ high }) => high),
    ),
  }
}

export interface SectionScore {
  section: string
  raw: number
  scaled: number
  cut?: number
  ownTable: boolean
}
export interface Standing {
  sections: SectionScore[]
  composite: number
  passed: boolean
}

/** Scores of a whole paper from counts by item group; undefined where a section's counts are missing. */
export function standing(
  exam: ExamFormat,
  counts: Record<string, Counts>,
  form?: Form,
): Standing | undefined {
  const sections: SectionScore[] = []
  for (const section of exam.sections) {
    const raw = rawOfSection(section, counts)
    if (raw === undefined) return undefined
    const { conversion, own } = conversionFor(section, form)
    sections.push({
      section: section.id,
      raw,
      scaled: convert(conversion, raw),
      cut: section.cut,
      ownTable: own,
    })
  }
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
