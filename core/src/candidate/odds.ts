import { norm } from '../exact/functions'
import { gainsAt } from '../hours/study'
import { forecast, type Forecast, oddsOf } from '../learner/forecast'
import { dateOf, dayNumber, type DayNumber } from '../time/day'
import { type Assessment, studyAhead } from './assessment'
import type { PlaceNeed } from './goal'
import { pick, type Scale, type ScaleForecast, stepOf } from './scales'

export interface ScalePoint extends Forecast {
  date: string
  day: number
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
  const gains = gainsAt(assessment.landscape, studyAhead(assessment), days)
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
  const [gain] = gainsAt(assessment.landscape, studyAhead(assessment), [day])
  return oddsFor(assessment, day, gain!)
}
