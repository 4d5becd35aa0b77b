import type { ExamFormat } from '@climber/contract'
import { type Estimate, estimateOf } from '../learner/estimate'
import type { Scores } from '../learner/paper'
import { leastThatRounds } from '../scoring/conversion'
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

const slack = 1e-9

/** Whether a possible candidate meets every cut of the sections. */
export const passesCuts =
  ({ sections: formats }: Pick<ExamFormat, 'sections'>, { sections }: Scores) =>
  (one: number): boolean =>
    formats.every(({ cut }, at) => cut === undefined || sections[at]![one]! >= cut - slack)

/** For every place, its own composite of every possible candidate, and the least that opens it. */
function placesOf({ record: { exam, target }, goal }: Assessment, { sections, composite }: Scores) {
  return goal.places.map((need) => {
    const place = (target.places ?? []).find(({ id }) => id === need.id)
    const weights = place?.weights && placeWeights(exam, place)
    const own = weights
      ? composite.map((_, one) => weights.reduce((sum, weight, at) => sum + weight * sections[at]![one]!, 0))
      : composite
    return { need, own, least: leastThatRounds(need.asks, exam.composite.step) }
  })
}

/** What scores of the possible candidates come to for a record's target. */
export function oddsFrom(assessment: Assessment, scores: Scores): Odds {
  const { learner, goal, record } = assessment
  const { exam, target: wish } = record
  const { sections, composite } = scores
  const cuts = exam.sections.flatMap(({ id, cut }, at) => (cut === undefined ? [] : [{ id, cut, at }]))
  const passes = passesCuts(exam, scores)
  const places = placesOf(assessment, scores)
  const opens = (one: number) => places.filter(({ own, least }) => own[one]! >= least - slack).length
  const wanted = Math.min(wish.open ?? 1, places.length)
  const drawn = drawnTarget(goal, learner.size)
  const reaches =
    goal.kind === 'places' && goal.mean !== undefined
      ? (one: number) => opens(one) >= wanted
      : (one: number) => composite[one]! >= drawn[one]! - slack
  const has = goal.mean !== undefined
  return {
    forecast: estimateOf(composite, learner.weights),
    target: goal.mean,
    targetSd: goal.sd ?? 0,
    ...(has && {
      odds: learner.share((one) => reaches(one) && passes(one)),
      targetOdds: learner.share(reaches),
    }),
    cuts: cuts.map(({ id, cut, at }) => ({
      section: id,
      cut,
      forecast: expectedOf(assessment, scores, at),
      odds: learner.share((one) => sections[at]![one]! >= cut - slack),
    })),
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
