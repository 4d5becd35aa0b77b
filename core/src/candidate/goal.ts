import type { ExamFormat, Place, Target } from '@climber/contract'
import { square } from '../exact/functions'
import { normalQuantile } from '../exact/normal'
import { normals } from '../learner/draws'
import { allocate, knownAfter } from '../hours/allocate'
import { leastThatRounds, roundToStep } from '../scoring/conversion'
import { compositeWeights, scaledAtPercentile } from '../scoring/composite'
import type { Landscape } from '../hours/landscape'

/** A score that is not known beforehand: a normal distribution, or Student's t where `freedom` is given; `sd` is 0 where it is known. */
export interface CutDistribution {
  mean: number
  sd: number
  /** Degrees of freedom; `sd` is then the scale. */
  freedom?: number
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

/** Past years from which a trend is told. */
const trendYears = 4

/**
 * The cut of one more year after some, whose places on a line of time are given: Student's t about their mean, or from four years on
 * about the line through them, as far as that leaves them scattered (prediction by least squares; Draper and Smith 1998, 3.1).
 */
function nextOf(cuts: { at: number; cut: number }[], next: number): CutDistribution {
  const n = cuts.length
  const mean = cuts.reduce((sum, { cut }) => sum + cut, 0) / n
  const middle = cuts.reduce((sum, { at }) => sum + at, 0) / n
  const across = cuts.reduce((sum, { at }) => sum + square(at - middle), 0)
  const slope =
    n >= trendYears && across > 0
      ? cuts.reduce((sum, { at, cut }) => sum + (at - middle) * (cut - mean), 0) / across
      : undefined
  const line = (at: number) => mean + (slope ?? 0) * (at - middle)
  const freedom = n - (slope === undefined ? 1 : 2)
  const scatter = cuts.reduce((sum, { at, cut }) => sum + square(cut - line(at)), 0) / freedom
  const far = slope === undefined ? 0 : square(next - middle) / across
  return { mean: line(next), sd: Math.sqrt(scatter * (1 + 1 / n + far)), freedom }
}

/**
 * A moving cut as a distribution. From a cohort: the score above which the admitted share of a normal cohort lies, moving
 * as its mean does. From past years: what they let expect of the one after the last.
 */
export function movingCutOf({ movingCut }: Pick<ExamFormat, 'movingCut'>): CutDistribution | undefined {
  if (!movingCut) return undefined
  if (movingCut.kind === 'cohort')
    return {
      mean: movingCut.mean + movingCut.sd * normalQuantile(1 - movingCut.admitted),
      sd: movingCut.yearly ?? 0,
    }
  const cuts = movingCut.cuts.map(({ year, cut }) => ({ at: year, cut }))
  return nextOf(cuts, Math.max(...cuts.map(({ at }) => at)) + 1)
}

/** The target of each possible candidate: the same for all, or drawn where it moves. */
export function drawnTarget({ mean, sd = 0, freedom }: Goal, size: number): Float64Array {
  const at = mean ?? -Infinity
  if (!sd) return new Float64Array(size).fill(at)
  const drawn = normals('target', size)
  if (freedom === undefined) return drawn.map((z) => at + sd * z)
  // Student's t: a normal number over the root of the mean of as many squared ones as there are degrees of freedom.
  const squares = new Float64Array(size)
  for (let one = 0; one < freedom; one++)
    normals(`target ${one}`, size).forEach((z, place) => (squares[place]! += (z * z) / freedom))
  return drawn.map((z, place) => at + (sd * z) / Math.sqrt(squares[place]!))
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
