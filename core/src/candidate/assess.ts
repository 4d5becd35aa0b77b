import { norm, square } from '../exact/functions'
import type { ExamFormat, Form, PracticeTest, Sitting } from '@climber/contract'
import { asSat } from '../exam/accommodation'
import { examShares } from '../exam/coverage'
import { diagnose, type DiagnosisResult } from '../diagnosis/diagnose'
import { forecast, type Forecast, type ForecastModel, type Observation, oddsOf } from '../forecast/forecast'
import { gainsAt, knowledgeAfter, type Study, studyOf } from '../forecast/trajectory'
import { allocate } from '../hours/allocate'
import type { PlanInput } from '../plan/input'
import { formsWith, inChapterOrder, paced, type Shelved, shelfHours } from '../plan/shelf'
import { rangeOf } from '../scoring/conversion'
import { expectedRawOf, groupsMet } from '../scoring/raw'
import {
  compositeRange,
  compositeSlopes,
  conversionFor,
  sectionRange,
  standing,
  type Standing,
} from '../scoring/standing'
import { dateOf, dayNumber, type DayNumber } from '../time/day'
import { type Goal, goalOf, type PlaceNeed, placeWeights } from './goal'
import { Landscape, type Levels } from './levels'
import { type CandidateRecord, type Moment, sittingOf, startDate } from './record'
import { knownForPlanning } from './since'

/** Spreads as shares of a scale's range; the worked examples of docs/models.md, 8 have a range of 200. */
const dayOfShare = 0.04
const offsetShare = 0.05
const walkShare = 0.5 / (200 * 200)
const formErrorShare = 0.02
const rateSd = 0.5
/** Hours assumed ahead when the slopes of conversion tables are taken. */
const slopeHours = 60

/** `composite`, the place of a section, or a weighing of the sections of its own, as a place one applies to has. */
export type Scale = 'composite' | number | { weights: number[] }

export interface ScoredTest {
  test: PracticeTest
  form?: Form
  standing: Standing
}

export interface ScalePoint extends Forecast {
  date: string
  day: number
}

/** A record worked through: what every screen shows comes from here. */
export interface Assessment {
  record: CandidateRecord
  now: Moment
  /** The materials, with the own pace. */
  shelf: Shelved[]
  today: DayNumber
  /** Day from which gains count. */
  start: DayNumber
  sitting?: Sitting
  diagnosis: DiagnosisResult
  landscape: Landscape
  /** Knowledge of each topic today, after the work logged, in the exam's order. */
  known: number[]
  touches: DayNumber[][]
  scored: ScoredTest[]
  done: Study[]
  goal: Goal
  /** Prior and observations of the forecast, for the composite and for each section. */
  scales: { composite: ScaleForecast; sections: ScaleForecast[]; places: Map<string, PlaceForecast> }
}

interface ScaleForecast {
  model: ForecastModel
  tests: Observation[]
}
type PlaceForecast = ScaleForecast & { scale: Scale }

type Bare = Omit<Assessment, 'scales'>

/** Scores of all logged tests, oldest first; those with counts missing are left out. */
export function scoreTests(exam: ExamFormat, tests: PracticeTest[]): ScoredTest[] {
  return tests
    .flatMap((test) => {
      const form = exam.forms.find(({ id }) => id === test.form)
      const result = standing(exam, test.counts, form)
      return result ? [{ test, form, standing: result }] : []
    })
    .sort((a, b) => a.test.date.localeCompare(b.test.date) || a.test.id.localeCompare(b.test.id))
}

export function assess(record: CandidateRecord, now: Moment): Assessment {
  const diagnosis = diagnose(record.exam, record.diagnosis)
  const shelf = paced(record.materials, record.plan?.sessions)
  const topicHours = { ...shelfHours(record.exam, shelf), ...record.settings.topicHours }
  const landscape = new Landscape(record.exam, diagnosis, { topicHours }, slopeHours)
  const today = dayNumber(now.date)
  const done = studyOf(record.plan?.sessions ?? [], today, false)
  const { known, touches } = knowledgeAfter(landscape, done)
  const bare: Bare = {
    record,
    shelf,
    now,
    today,
    start: dayNumber(startDate(record, now.date)),
    sitting: sittingOf(record, now.date),
    diagnosis,
    landscape,
    known,
    touches,
    scored: scoreTests(record.exam, record.tests),
    done,
    goal: goalOf(record.exam, record.target, landscape, known),
  }
  const scaleOf = (scale: Scale): ScaleForecast => ({
    model: modelOf(bare, scale),
    tests: observationsOf(bare, scale),
  })
  return {
    ...bare,
    scales: {
      composite: scaleOf('composite'),
      sections: record.exam.sections.map((_, at) => scaleOf(at)),
      places: new Map(
        (record.target.places ?? []).map((place) => {
          const scale: Scale = place.weights ? { weights: placeWeights(record.exam, place) } : 'composite'
          return [place.id, { ...scaleOf(scale), scale }]
        }),
      ),
    },
  }
}

const pick = (levels: Levels, scale: Scale): number =>
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

/** Spread of one test's score about the level: the form's own error and the binomial's, on the scale. */
function testSd(assessment: Bare, { test, form }: ScoredTest, scale: Scale): number {
  const { exam } = assessment.record
  const sds = exam.sections.map((section, at) => {
    const { conversion } = conversionFor(section, form)
    const range = rangeOf(conversion)
    const groups = groupsMet(section, test.counts)
    let variance = 0
    for (const group of groups) {
      const counts = test.counts[group.id]!
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
  return pickSpread({ composite: norm(...sds.map((sd, at) => sd * slopes[at]!)), sections: sds }, scale)
}

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
        composite: scored.standing.composite - shelfOffset(assessment, scored),
        sections: scored.standing.sections.map(({ scaled }) => scaled),
      },
      scale,
    ),
    sd: testSd(assessment, scored, scale),
    source: scored.test.source,
  }))
}

/** Level on a scale on each of `days` (ascending) if the plan is kept from today on; the last may be the exam's. */
export function outlook(
  assessment: Assessment,
  scale: 'composite' | number,
  days: DayNumber[],
  dayOf = false,
): ScalePoint[] {
  const { model, tests } =
    scale === 'composite' ? assessment.scales.composite : assessment.scales.sections[scale]!
  const sessions = assessment.record.plan?.sessions ?? []
  const gains = gainsAt(assessment.landscape, studyOf(sessions, assessment.today, true), days)
  return days.map((day, at) => ({
    date: dateOf(day),
    day,
    ...forecast(
      model,
      tests,
      { day: Math.max(0, day - assessment.start), gain: pick(gains[at]!, scale) },
      dayOf,
    ),
  }))
}

export interface Odds {
  forecast: Forecast
  target?: number
  odds?: number
  cuts: { section: string; cut: number; forecast: Forecast; odds: number }[]
  /** Of a target that moves: how far, one standard deviation. */
  targetSd: number
  /** Each place one applies to, by what its own composite is forecast to be. */
  places: (PlaceNeed & { odds: number })[]
  /** Chance that target and all cuts are met together lies between these (Frechet's bounds). */
  together?: { low: number; high: number }
}

/** Bounds of the chance that several things all happen, whatever binds them together (Frechet 1935). */
export function frechet(chances: number[]): { low: number; high: number } {
  return {
    low: Math.max(0, chances.reduce((a, b) => a + b, 0) - (chances.length - 1)),
    high: Math.min(...chances),
  }
}

/** Forecasts for the exam day given a gain on each scale. */
export function oddsFor(
  assessment: Assessment,
  day: DayNumber,
  gain: { sections: number[]; composite: number },
): Odds {
  const { exam } = assessment.record
  const at = ({ model, tests }: ScaleForecast, scale: Scale) =>
    forecast(model, tests, { day: Math.max(0, day - assessment.start), gain: pick(gain, scale) })
  const { mean: target, sd: targetSd = 0, places } = assessment.goal
  const { scales } = assessment
  const whole = at(scales.composite, 'composite')
  const cuts = exam.sections.flatMap(({ id, cut }, section) => {
    if (cut === undefined) return []
    const own = at(scales.sections[section]!, section)
    return { section: id, cut, forecast: own, odds: oddsOf(own, cut, stepOf(exam, section)) }
  })
  const odds =
    target === undefined
      ? undefined
      : oddsOf(
          { mean: whole.mean, sd: norm(whole.sd, targetSd) },
          target,
          // A cut that moves may lie anywhere between two steps.
          targetSd ? 0 : exam.composite.step,
        )
  return {
    forecast: whole,
    target,
    targetSd,
    odds,
    cuts,
    places: places.map((place) => {
      const own = scales.places.get(place.id)!
      return { ...place, odds: oddsOf(at(own, own.scale), place.asks, exam.composite.step) }
    }),
    together:
      odds === undefined || !cuts.length ? undefined : frechet([odds, ...cuts.map((cut) => cut.odds)]),
  }
}

/** Odds on exam day if the plan is kept from today on; without a plan, if no more is done. */
export function planOdds(assessment: Assessment): Odds | undefined {
  if (!assessment.sitting) return undefined
  const day = dayNumber(assessment.sitting.date)
  const sessions = assessment.record.plan?.sessions ?? []
  const [gain] = gainsAt(assessment.landscape, studyOf(sessions, assessment.today, true), [day])
  return oddsFor(assessment, day, gain!)
}

/** What the planner needs, for a sitting: sessions before today that were not done have slipped. */
export function planInput(assessment: Assessment, sitting: Sitting, seed: number): PlanInput {
  const { record, landscape, touches, today, now, scored, done } = assessment
  const known = knownForPlanning(landscape, assessment.known, done, scored, today)
  const { exam } = record
  const shares = examShares(exam)
  const listed = exam.topics.map((topic, at) => ({
    id: topic.id,
    title: topic.title,
    section: topic.section,
    share: shares[at]!,
    value: landscape.topics[at]!.value,
    known: known[at]!,
    tau: landscape.topics[at]!.tau,
    prerequisites: topic.prerequisites,
    touches: touches[at]!,
  }))
  const topics = inChapterOrder(listed, assessment.shelf)
  const kept = (record.plan?.sessions ?? []).flatMap((session) => {
    const past = dayNumber(session.date) < today
    if (session.status === 'planned' && past) return [{ ...session, status: 'slipped' as const }]
    return session.status !== 'planned' || session.pinned ? [session] : []
  })
  const later = landscape.startingFrom(known)
  const sat = asSat(exam, record.settings)
  return {
    exam: { ...sat.exam, forms: formsWith(sat.exam, assessment.shelf) },
    sitting,
    today: now.date,
    nowMinute: now.minute,
    availability: record.availability,
    busy: record.commitments?.calendars.flatMap(({ busy }) => busy) ?? [],
    shelf: assessment.shelf,
    travelMinutes: record.examDay.travelMinutes,
    settings: { ...record.settings, timeFactor: sat.timeFactor },
    topics,
    split: (hours) =>
      exam.sections.some(({ cut }) => cut !== undefined)
        ? later.allocate(hours).hours
        : allocate(topics, hours).hours,
    sat: [
      ...record.tests.flatMap(({ form, date }) => (form ? [{ form, date }] : [])),
      ...(record.diagnosis.form
        ? [{ form: record.diagnosis.form, date: record.diagnosis.date ?? now.date }]
        : []),
    ],
    measured: assessment.diagnosis.measured || assessment.scored.length > 0,
    kept,
    seed,
  }
}
