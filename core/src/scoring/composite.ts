import type { Conversion, ExamFormat, Form, Section } from '@climber/contract'
import { convertExactly, leastThatRounds, rangeOf, roundToStep } from './conversion'

/** The form's own table for a section, or the exam format's where it has none (`own` says which). */
export function conversionFor(
  section: Pick<Section, 'id' | 'conversion'>,
  form?: Form,
): { conversion: Conversion; own: boolean } {
  const own = form?.conversions[section.id]
  return own ? { conversion: own, own: true } : { conversion: section.conversion, own: false }
}

/** Every table of a section: its own, or those of its second stages, and those of all forms. */
export function tablesOf(exam: ExamFormat, section: Section): Conversion[] {
  const parts: Pick<Section, 'id' | 'conversion'>[] = section.stages ?? [section]
  return parts.flatMap((part) => [
    part.conversion,
    ...exam.forms.flatMap(({ conversions }) => conversions[part.id] ?? []),
  ])
}

/** Lowest and highest scaled score of a section over its own tables. */
export function sectionRange(section: Section): { low: number; high: number } {
  const ranges = (section.stages ?? [section]).map(({ conversion }) => rangeOf(conversion))
  return { low: Math.min(...ranges.map(({ low }) => low)), high: Math.max(...ranges.map(({ high }) => high)) }
}

/** How a composite weighs the sections; an exam format's own, or that of a place. */
export type Weighing = Pick<ExamFormat['composite'], 'kind' | 'weights'>

/** Weight of each section in the weighted sum, in the exam's order. */
export function compositeWeights(exam: ExamFormat, { kind, weights }: Weighing = exam.composite): number[] {
  return exam.sections.map(({ id }) =>
    kind === 'mean'
      ? 1 / exam.sections.length
      : kind === 'sum'
        ? 1
        : (weights?.[id] ?? (kind === 'table' ? 1 : 0)),
  )
}

const weightedSum = (exam: ExamFormat, scaled: number[]): number =>
  compositeWeights(exam).reduce((sum, weight, at) => sum + weight * (scaled[at] ?? 0), 0)

/** Composite of scaled section scores, before rounding. */
export function compositeExactly(exam: ExamFormat, scaled: number[]): number {
  const sum = weightedSum(exam, scaled)
  const { kind, table } = exam.composite
  return kind === 'table' && table ? convertExactly(table, sum) : sum
}

/**
 * Points of the composite for each scaled point of a section between two sets of section scores: the weights, times the
 * slope of the composite's table where there is one.
 */
export function compositeSlopes(exam: ExamFormat, from: number[], to: number[] = from): number[] {
  const weights = compositeWeights(exam)
  const { kind, table } = exam.composite
  if (kind !== 'table' || !table) return weights
  const points = table.points
  const reach = (points[points.length - 1]![0] - points[0]![0]) / 20
  const sums = [weightedSum(exam, from), weightedSum(exam, to)]
  const low = Math.min(...sums) - reach
  const high = Math.max(...sums) + reach
  const slope = (convertExactly(table, high) - convertExactly(table, low)) / (high - low)
  return weights.map((weight) => weight * slope)
}

/**
 * The scaled score that section `at` must reach, before its own rounding, for a rounded composite of at least `wanted`
 * when the others score `scaled`. Undefined where it does not count, infinite where nothing is enough.
 */
export function mustReach(
  exam: ExamFormat,
  scaled: number[],
  at: number,
  wanted: number,
): number | undefined {
  const weight = compositeWeights(exam)[at]!
  if (!weight) return undefined
  const others = weightedSum(exam, scaled) - weight * scaled[at]!
  const { kind, table, step } = exam.composite
  const least = leastThatRounds(wanted, step)
  if (kind !== 'table' || !table) return (least - others) / weight
  const { points } = table
  if (points[0]![1] >= least) return -Infinity
  const next = points.findIndex(([, composite]) => composite >= least)
  if (next < 0) return Infinity
  const [lowSum, low] = points[next - 1]!
  const [highSum, high] = points[next]!
  return (lowSum + ((highSum - lowSum) * (least - low)) / (high - low) - others) / weight
}

export const composite = (exam: ExamFormat, scaled: number[]): number =>
  roundToStep(compositeExactly(exam, scaled), exam.composite.step)

/** Lowest and highest composite that the exam's own tables give. */
export function compositeRange(exam: ExamFormat): { low: number; high: number } {
  const ranges = exam.sections.map(sectionRange)
  const whole = (ends: number[]) => Number(compositeExactly(exam, ends).toFixed(9))
  return { low: whole(ranges.map(({ low }) => low)), high: whole(ranges.map(({ high }) => high)) }
}

/** The band that a composite falls in; undefined below the lowest, or where the exam has none. */
export const bandOf = (exam: ExamFormat, scaled: number): string | undefined =>
  exam.bands?.reduce<string | undefined>(
    (found, { title, from }) => (scaled >= from ? title : found),
    undefined,
  )

/** Per cent of candidates below a composite; undefined where the exam has no percentiles. */
export const percentileOf = (exam: ExamFormat, scaled: number): number | undefined =>
  exam.percentiles && convertExactly({ points: exam.percentiles, step: 1 }, scaled)

/** The least reported composite with at least `percent` of candidates below it. */
export function scaledAtPercentile(exam: ExamFormat, percent: number): number | undefined {
  const turned = exam.percentiles?.map(([scaled, below]) => [below, scaled] as [number, number])
  if (!turned || percent > turned[turned.length - 1]![0]) return undefined
  const { step } = exam.composite
  const exact = convertExactly({ points: turned, step: 1 }, percent)
  return Number((Math.ceil(exact / step - 1e-9) * step).toFixed(9))
}
