import type { ExamFormat } from '@climber/contract'
import { type Demand, meets, slack } from '../learner/demand'
import { type Estimate, estimateOf } from '../learner/estimate'
import type { Scores } from '../learner/paper'
import { leastThatRounds } from '../scoring/conversion'
import { compositeSlopes } from '../scoring/composite'
import { dateOf, dayNumber, type DayNumber } from '../time/day'
import { type Assessment, expectedOf, type Keeping, scoresOn } from './assessment'
import { drawnTarget, placeWeights, type PlaceNeed } from './goal'

export interface Odds {
  forecast: Estimate
  target?: number
  /** Chance of the target and of every cut together. */
  odds?: number
  /** Chance of the target alone. */
  targetOdds?: number
  /** Of a target that moves: how far, one standard deviation. */
  targetSd: number
  cuts: { section: string; cut: number; forecast: Estimate; odds: number }[]
  /** Each place one applies to, by what its own composite is forecast to be. */
  places: (PlaceNeed & { odds: number })[]
  /** The same if sessions go on being kept as they were; the figures above are those if all of the plan is. */
  atRate?: { odds?: number; forecast: Estimate }
}

/** For every place, its own composite of every possible candidate, and the least that opens it. */
function placesOf({ record: { exam, target }, goal }: Assessment, { sections, composite }: Scores) {
  return goal.places.map((need) => {
    const place = (target.places ?? []).find(({ id }) => id === need.id)
    const weights = place?.weights && placeWeights(exam, place)
    const own = weights
      ? composite.map((_, one) => weights.reduce((sum, weight, at) => sum + weight * sections[at]![one]!, 0))
      : composite
    return { need, own, least: leastThatRounds(need.asks, exam.composite.step), weights }
  })
}
type Places = ReturnType<typeof placesOf>

/** What so many places ask: of each possible candidate, the one that opens as the last of them. */
function placesDemand(places: Places, wanted: number, usual: readonly number[]): Demand {
  const size = places[0]!.own.length
  const last = Array.from({ length: size }, (_, one) => {
    const order = places.map(({ own, least }, at) => ({ at, over: own[one]! - least }))
    return order.sort((a, b) => b.over - a.over || a.at - b.at)[wanted - 1]!
  })
  return {
    spare: Float64Array.from(last, ({ over }) => over),
    slopes: (one) => places[last[one]!.at]!.weights ?? usual,
  }
}

/** The cuts of the sections. */
export const cutDemands = (
  { sections: formats }: Pick<ExamFormat, 'sections'>,
  { sections }: Scores,
): Demand[] =>
  formats.flatMap(({ cut }, section) => {
    if (cut === undefined) return []
    const slopes = formats.map((_, at) => (at === section ? 1 : 0))
    return [{ section, spare: sections[section]!.map((scaled) => scaled - cut), slopes: () => slopes }]
  })

/** What the target asks; undefined where there is none. */
function targetDemand(
  { goal, record: { exam, target: wish } }: Assessment,
  { sections, composite }: Scores,
  places: Places,
): Demand | undefined {
  if (goal.mean === undefined) return undefined
  const middle = sections.map((own) => own.reduce((sum, scaled) => sum + scaled, 0) / own.length)
  const usual = compositeSlopes(exam, middle)
  if (goal.kind === 'places') return placesDemand(places, Math.min(wish.open ?? 1, places.length), usual)
  const drawn = drawnTarget(goal, composite.length)
  return { spare: composite.map((score, one) => score - drawn[one]!), slopes: () => usual }
}

/** All that is asked of a candidate: the target, where there is one, and every cut. */
export function demandsOf(assessment: Assessment, scores: Scores): Demand[] {
  const target = targetDemand(assessment, scores, placesOf(assessment, scores))
  return [...(target ? [target] : []), ...cutDemands(assessment.record.exam, scores)]
}

/** What scores of the possible candidates come to for a record's target. */
export function oddsFrom(assessment: Assessment, scores: Scores): Odds {
  const { learner, goal, record } = assessment
  const { composite } = scores
  const places = placesOf(assessment, scores)
  const target = targetDemand(assessment, scores, places)
  const cuts = cutDemands(record.exam, scores)
  return {
    forecast: estimateOf(composite, learner.weights),
    target: goal.mean,
    targetSd: goal.sd ?? 0,
    ...(target && {
      odds: learner.share(meets([target, ...cuts])),
      targetOdds: learner.share(meets([target])),
    }),
    cuts: cuts.map((one) => {
      const { id, cut } = record.exam.sections[one.section!]!
      return {
        section: id,
        cut: cut!,
        forecast: expectedOf(assessment, scores, one.section),
        odds: learner.share(meets([one])),
      }
    }),
    places: places.map(({ need, own, least }) => ({
      ...need,
      odds: learner.share((one) => own[one]! >= least - slack),
    })),
  }
}

/** Odds on exam day if the plan is kept from today on, and at the rate it is kept; without a plan, if no more is done. */
export function planOdds(assessment: Assessment): Odds | undefined {
  const { sitting } = assessment
  if (!sitting) return undefined
  const day = dayNumber(sitting.date)
  const at = (keeping: Keeping) => oddsFrom(assessment, scoresOn(assessment, day, keeping))
  const { odds, forecast } = at('rate')
  return { ...at('kept'), ...(assessment.ahead.length && { atRate: { odds, forecast } }) }
}

export interface OutlookPoint extends Estimate {
  date: string
}

/** Possible candidates that an outlook of many days is drawn by. */
const fewer = 250

/**
 * The composite on each of `days` (ascending), the luck of a day and its paper in it: as everything tells that is known now, and from
 * today on if the plan is kept. The last is of all possible candidates, as every figure of that day is.
 */
export function outlook(assessment: Assessment, days: DayNumber[]): OutlookPoint[] {
  const { learner, ahead, today } = assessment
  const some = learner.thinned(fewer)
  const exposures = some.exposures(
    days.map((day) => Math.max(day, day >= today ? today + 1 : day)),
    ahead,
  )
  return days.map((day, at) => ({
    date: dateOf(day),
    ...(at < days.length - 1
      ? estimateOf(some.scores({ ...exposures[at]!, day }).composite, some.weights)
      : expectedOf(assessment, scoresOn(assessment, day))),
  }))
}
