import type { AimChoice, Conversion, ExamFormat, Form, Section } from '@climber/contract'
import { norm } from '../exact/functions'
import { normalCdf } from '../exact/normal'
import { convert } from '../scoring/conversion'
import { rawNeeded } from '../scoring/needed'
import { compositeWeights, mustReach, sectionRange } from '../scoring/composite'
import { dayNumber } from '../time/day'
import { type Assessment, expectedOf, scoresOn } from './assessment'

/** What one section can aim at; plain data. */
export interface SectionAim {
  section: string
  low: number
  high: number
  step: number
  cut?: number
  /** Score that it is forecast to come out at on exam day. */
  ahead: number
  /** Score that the target asks of this section when the others come out as forecast; may lie beyond its scale. */
  share?: number
  /** The target of the whole: `weight` x this section's score + the others' must reach `least`. */
  whole?: { target: number; weight: number; least: number; others: number; othersSd: number; cut?: number }
}

/** Forecast of every section on exam day if the plan is kept, or today where there is no exam day ahead. */
function sectionForecasts(assessment: Assessment): { mean: number; sd: number }[] {
  const { sitting, today, record } = assessment
  const scores = scoresOn(assessment, Math.max(today, sitting ? dayNumber(sitting.date) : today))
  return record.exam.sections.map((_, at) => expectedOf(assessment, scores, at))
}

export function aimsOf(assessment: Assessment): SectionAim[] {
  const { exam } = assessment.record
  const target = assessment.goal.mean
  const ahead = sectionForecasts(assessment)
  const weights = compositeWeights(exam)
  const zero = exam.sections.map(() => 0)
  return exam.sections.map((section, at) => {
    const { low, high } = sectionRange(section)
    const means = ahead.map(({ mean }) => mean)
    const share = target === undefined ? undefined : mustReach(exam, means, at, target)
    const alone = target === undefined ? undefined : mustReach(exam, zero, at, target)
    const others = ahead.map(({ mean, sd }, own) =>
      own === at ? { mean: 0, sd: 0 } : { mean: weights[own]! * mean, sd: weights[own]! * sd },
    )
    return {
      section: section.id,
      low,
      high,
      step: section.conversion.step,
      ahead: means[at]!,
      ...(section.cut !== undefined && { cut: section.cut }),
      ...(share !== undefined && Number.isFinite(share) && { share }),
      ...(alone !== undefined &&
        Number.isFinite(alone) && {
          whole: {
            target: target!,
            weight: weights[at]!,
            least: alone * weights[at]!,
            others: others.reduce((sum, { mean }) => sum + mean, 0),
            othersSd: norm(...others.map(({ sd }) => sd)),
            ...(section.cut !== undefined && { cut: section.cut }),
          },
        }),
    }
  })
}

/** Whether the target asks a score of this section that its scale has. */
export const asksWithin = ({ share, low, high }: SectionAim): boolean =>
  share !== undefined && share >= low && share <= high

/**
 * The aim that a section has unless another is chosen: what the target asks of it, and at least its cut. Where the target
 * asks nothing, or more than the scale has, the score that it is forecast to come out at.
 */
export function usualAim(aim: SectionAim): { kind: 'score'; scaled: number } {
  const { low, high, step, cut, share, ahead } = aim
  const wanted = Math.max(asksWithin(aim) ? share! : ahead, cut ?? -Infinity)
  const rounded = Math.ceil(Math.min(high, Math.max(low, wanted)) / step - 0.5 - 1e-9) * step
  return { kind: 'score', scaled: Number(Math.min(high, Math.max(low, rounded)).toFixed(9)) }
}

/** Chance that a scaled score of this section serves the aim; sections are taken as independent. */
export function worthOfScaled(aim: SectionAim, choice: AimChoice): (scaled: number) => number {
  if (choice.kind === 'score') return (scaled) => (scaled >= choice.scaled - 1e-9 ? 1 : 0)
  const { whole } = aim
  if (!whole) return () => 0
  return (scaled) => {
    if (whole.cut !== undefined && scaled < whole.cut - 1e-9) return 0
    const above = whole.weight * scaled + whole.others - whole.least
    return whole.othersSd > 0 ? normalCdf(above / whole.othersSd) : above >= 0 ? 1 : 0
  }
}

/** A table that turns the raw marks of a section, or of one of its second stages, into a scaled score. */
export interface NamedTable {
  id: string
  title: string
  conversion: Conversion
}

/** All tables known of a section or stage: the exam format's own and those of its forms. */
export function namedTables(exam: ExamFormat, part: Pick<Section, 'id' | 'conversion'>): NamedTable[] {
  return [
    { id: 'format', title: "the exam format's table", conversion: part.conversion },
    ...exam.forms.flatMap(({ id, title, conversions }: Form) => {
      const conversion = conversions[part.id]
      return conversion ? [{ id, title: `the table of ${title}`, conversion }] : []
    }),
  ]
}

/** The table that asks for most raw marks for a score; the first of those that ask alike. */
export function strictest(tables: NamedTable[], groups: Pick<Section, 'groups'>, scaled: number): NamedTable {
  const asks = tables.map(({ conversion }) => rawNeeded(groups, conversion, scaled) ?? Infinity)
  return tables[asks.indexOf(Math.max(...asks))]!
}

/** Raw to scaled, as if `stricter` raw marks more were asked for everything. */
export const stricterBy =
  (conversion: Conversion, stricter: number) =>
  (raw: number): number =>
    convert(conversion, raw - stricter)
