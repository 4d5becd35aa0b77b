import type { ExamFormat, Place, Target } from '@climber/contract'
import { square } from '../exact/functions'
import { normalQuantile } from '../exact/normal'
import { allocate, knownAfter } from '../hours/allocate'
import { leastThatRounds, roundToStep } from '../scoring/conversion'
import { compositeWeights, scaledAtPercentile } from '../scoring/composite'
import type { Landscape } from '../hours/landscape'

/** A score that is not known beforehand, as a normal distribution; `sd` is 0 where it is. */
export interface CutDistribution {
  mean: number
  sd: number
}

export interface PlaceNeed {
  id: string
  title: string
  asks: number
  /** The exam's own composite at which the place opens; undefined where no work gets there. */
  needs?: number
}

/** What the candidate must reach, wherever it comes from. */
export interface Goal extends Partial<CutDistribution> {
  kind: NonNullable<Target['kind']>
  /** Why there is no target; says what to fill in. */
  problem?: string
  places: PlaceNeed[]
}

/**
 * A moving cut as a distribution. From a cohort: the score above which the admitted share of a normal cohort lies, moving
 * as its mean does. From past years: their mean, with the spread of one more year about it, sd x sqrt(1 + 1/n).
 */
export function movingCutOf({ movingCut }: Pick<ExamFormat, 'movingCut'>): CutDistribution | undefined {
  if (!movingCut) return undefined
  if (movingCut.kind === 'cohort')
    return {
      mean: movingCut.mean + movingCut.sd * normalQuantile(1 - movingCut.admitted),
      sd: movingCut.yearly ?? 0,
    }
  const cuts = movingCut.cuts.map(({ cut }) => cut)
  const n = cuts.length
  const mean = cuts.reduce((a, b) => a + b, 0) / n
  const variance = cuts.reduce((sum, cut) => sum + square(cut - mean), 0) / (n - 1)
  return { mean, sd: Math.sqrt(variance * (1 + 1 / n)) }
}

const mostHours = 4000

/** Weights and step of a place's own composite. */
export const placeWeights = (exam: ExamFormat, { weights }: Place): number[] =>
  weights ? compositeWeights(exam, { kind: 'weighted', weights }) : compositeWeights(exam)

/**
 * The exam's composite at the point of the candidate's best path, hour by hour, where a place with a composite of its own
 * opens. For a place that uses the exam's, what it asks.
 */
function needsOf(exam: ExamFormat, landscape: Landscape, known: number[], place: Place): number | undefined {
  if (!place.weights) return place.asks
  const from = landscape.startingFrom(known)
  const weights = placeWeights(exam, place)
  const after = (hours: number) => {
    const split = allocate(from.topics, hours).hours
    return from.levels(from.topics.map((topic, at) => knownAfter(topic, split[at]!)))
  }
  const own = (hours: number) =>
    after(hours).sections.reduce((sum, level, at) => sum + weights[at]! * level, 0)
  const least = leastThatRounds(place.asks, exam.composite.step)
  if (own(mostHours) < least) return undefined
  let low = 0
  let high = mostHours
  if (own(0) >= least) high = 0
  while (high - low > 0.05) {
    const middle = (low + high) / 2
    if (own(middle) >= least) high = middle
    else low = middle
  }
  return roundToStep(after(high).composite, exam.composite.step)
}

/** The target of a record, from a number, the cut, k of n places, a percentile, or a moving cut. */
export function goalOf(exam: ExamFormat, target: Target, landscape: Landscape, known: number[]): Goal {
  const kind = target.kind ?? 'number'
  const places = (target.places ?? [])
    .map((place) => ({
      id: place.id,
      title: place.title,
      asks: place.asks,
      needs: needsOf(exam, landscape, known, place),
    }))
    .sort((a, b) => (a.needs ?? Infinity) - (b.needs ?? Infinity))
  const fixed = (mean: number | undefined, problem: string): Goal =>
    mean === undefined ? { kind, problem, places } : { kind, mean, sd: 0, places }
  switch (kind) {
    case 'number':
      return fixed(target.scaled ?? exam.composite.cut, 'Give the score you need.')
    case 'cut':
      return fixed(exam.composite.cut, 'The exam format has no cut; add it there, or choose another target.')
    case 'percentile':
      if (!exam.percentiles)
        return fixed(
          undefined,
          'The exam format has no percentiles; add them there, or choose another target.',
        )
      return fixed(
        target.percentile === undefined ? undefined : scaledAtPercentile(exam, target.percentile),
        target.percentile === undefined
          ? 'Give the percentile you need.'
          : `The percentiles of the exam format end below ${target.percentile}.`,
      )
    case 'places': {
      const wanted = Math.min(target.open ?? 1, places.length)
      return fixed(
        places[wanted - 1]?.needs,
        places.length
          ? `No score opens ${wanted} of these places.`
          : 'List the places and what each asks for.',
      )
    }
    case 'moving': {
      const cut = movingCutOf(exam)
      return cut
        ? { kind, ...cut, places }
        : fixed(undefined, 'The exam format has no moving cut; add it there, or choose another target.')
    }
  }
}
