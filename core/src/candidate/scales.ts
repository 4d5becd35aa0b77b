import type { ExamFormat } from '@climber/contract'
import { norm, square } from '../exact/functions'
import { z80 } from '../exact/normal'
import type { ScoredTest } from '../attempts/scored'
import { sourceOf } from '../attempts/sat'
import type { Landscape, Levels } from '../hours/landscape'
import type { Shelved } from '../hours/shelf'
import { gainsAt, type Study } from '../hours/study'
import type { ForecastModel, Observation } from '../learner/forecast'
import { compositeRange, compositeSlopes, conversionFor, sectionRange } from '../scoring/composite'
import { rangeOf } from '../scoring/conversion'
import type { Between } from '../scoring/paperScore'
import { expectedRawOf, groupsMet } from '../scoring/raw'
import { dayNumber, type DayNumber } from '../time/day'
import type { CandidateRecord } from './moment'

/** Spreads as shares of a scale's range; the worked examples of docs/models.md, 8 have a range of 200. */
const dayOfShare = 0.04
const offsetShare = 0.05
const walkShare = 0.5 / (200 * 200)
const formErrorShare = 0.02
const rateSd = 0.5

/** `composite`, the place of a section, or a weighing of the sections of its own, as a place one applies to has. */
export type Scale = 'composite' | number | { weights: number[] }

/** What a forecast on one scale rests on. */
export interface ScaleForecast {
  model: ForecastModel
  tests: Observation[]
}

/** What of a worked-through record the scales are made from. */
interface Bare {
  record: CandidateRecord
  shelf: Shelved[]
  start: DayNumber
  landscape: Landscape
  scored: ScoredTest[]
  done: Study[]
}

export const pick = (levels: Levels, scale: Scale): number =>
  scale === 'composite'
    ? levels.composite
    : typeof scale === 'number'
      ? levels.sections[scale]!
      : levels.sections.reduce((sum, level, at) => sum + scale.weights[at]! * level, 0)

/** The same for standard deviations of independent sections. */
const pickSpread = (sds: Levels, scale: Scale): number =>
  typeof scale === 'object'
    ? norm(...sds.sections.map((sd, at) => sd * scale.weights[at]!))
    : pick(sds, scale)

export function stepOf(exam: ExamFormat, scale: Scale): number {
  return typeof scale === 'number' ? exam.sections[scale]!.conversion.step : exam.composite.step
}

function rangeOfScale(exam: ExamFormat, scale: Scale): number {
  const ranges = exam.sections.map(sectionRange).map(({ low, high }) => high - low)
  if (scale !== 'composite') return pick({ composite: 0, sections: ranges }, scale)
  const { low, high } = compositeRange(exam)
  return high - low
}

/** Prior of the forecast on a scale. */
function modelOf({ record: { exam }, landscape }: Bare, scale: Scale): ForecastModel {
  const range = rangeOfScale(exam, scale)
  return {
    start: pick(landscape.now, scale),
    startSd: pickSpread(landscape.spread(), scale),
    rateSd,
    walk: walkShare * square(range),
    offsetSd: offsetShare * range,
    dayOfSd: dayOfShare * range,
  }
}

/** Spread of one test's score about the level: the form's own error, the binomial's, and what totals leave open, on the scale. */
function testSd(assessment: Bare, { counts: all, form, score }: ScoredTest, scale: Scale): number {
  const { exam } = assessment.record
  const sds = exam.sections.map((section, at) => {
    const { conversion } = conversionFor(section, form)
    const range = rangeOf(conversion)
    const groups = groupsMet(section, all)
    let variance = 0
    for (const group of groups) {
      const counts = all[group.id]!
      const rate =
        group.kind === 'written'
          ? (counts.marks ?? 0) / (group.items * group.perRight)
          : counts.right / group.items
      const p = Math.min(0.95, Math.max(0.05, rate))
      variance += group.items * p * (1 - p) * square(group.perRight + group.perWrong)
    }
    // From raw marks to share known, then to the scale.
    const marks = expectedRawOf(groups, 1) - expectedRawOf(groups, 0)
    const slope = assessment.landscape.slope(at, 0.4, 0.8) / marks
    return norm(Math.sqrt(variance) * slope, formErrorShare * (range.high - range.low))
  })
  const slopes = compositeSlopes(exam, assessment.landscape.now.sections)
  return pickSpread(
    {
      composite: norm(...sds.map((sd, at) => sd * slopes[at]!), openSd(score.between)),
      sections: sds.map((sd, at) => norm(sd, openSd(score.sections[at]!.between))),
    },
    scale,
  )
}
/** What counts leave open, as one sd: `between` is the middle 80%. */
const openSd = (between?: Between): number => (between ? (between.high - between.low) / (2 * z80) : 0)

const shelfOffset = ({ shelf }: Bare, { test }: ScoredTest): number =>
  shelf.find(({ kind, form, id }) => kind === 'test' && (form ?? id) === test.form)?.offset ?? 0

/** Logged tests as the forecast sees them; forms seen before are left out. */
function observationsOf(assessment: Bare, scale: Scale): Observation[] {
  const counted = assessment.scored.filter(({ test }) => !test.seen)
  const days = counted.map(({ test }) => dayNumber(test.date))
  const gains = gainsAt(assessment.landscape, assessment.done, days)
  return counted.map((scored, at) => ({
    day: Math.max(0, days[at]! - assessment.start),
    gain: pick(gains[at]!, scale),
    score: pick(
      {
        // What the shelf says a maker's test runs above the exam is taken off before anything is learned from it.
        composite: scored.score.composite - shelfOffset(assessment, scored),
        sections: scored.score.sections.map(({ scaled }) => scaled),
      },
      scale,
    ),
    sd: testSd(assessment, scored, scale),
    source: sourceOf(assessment.record.exam, scored.test, assessment.record.materials),
  }))
}

/** Prior and observations of the forecast on a scale. */
export const scaleOf = (bare: Bare, scale: Scale): ScaleForecast => ({
  model: modelOf(bare, scale),
  tests: observationsOf(bare, scale),
})
