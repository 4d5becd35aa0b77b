import { exp, square } from '../exact/functions'
import { normalCdf } from '../exact/normal'
import { weightedMean } from './estimate'

/** One thing that is asked: how far each possible candidate lies above it, and what a scaled point of each section adds to that. */
export interface Demand {
  /** Place of the section whose cut it is; the target of the whole where absent. */
  section?: number
  spare: Float64Array
  slopes: (one: number) => readonly number[]
}

/** What is missed by less is met. */
export const slack = 1e-9
/** A chance is smoothed over so many standard deviations of what it is about: its slope rests on as many candidates. */
const smooth = 0.5
/** What lies further out of reach, in standard deviations, is brought as near, so that the way there still counts. */
const furthest = 1.3

/** Whether a possible candidate meets all that is asked. */
export const meets =
  (demands: Demand[]) =>
  (one: number): boolean =>
    demands.every(({ spare }) => spare[one]! >= -slack)

/** How likely each possible candidate is to meet a demand, smoothed, and the slope of that by a point. */
function smoothed({ spare }: Demand, weights: Float64Array): { meets: Float64Array; slope: Float64Array } {
  const mean = weightedMean(spare, weights)
  const variance = weightedMean(
    spare.map((one) => square(one - mean)),
    weights,
  )
  const short = Math.max(0, -mean)
  const width = Math.sqrt(Math.max(1e-6, square(smooth) * variance, square(short / furthest) - variance))
  return {
    meets: spare.map((one) => normalCdf(one / width)),
    slope: spare.map((one) => exp(-square(one / width) / 2) / (width * Math.sqrt(2 * Math.PI))),
  }
}

/** How likely each possible candidate is to meet all that is asked, smoothed. */
export function chancesBy(demands: Demand[], weights: Float64Array): Float64Array {
  const all = demands.map((demand) => smoothed(demand, weights).meets)
  return weights.map((_, one) => all.reduce((chance, own) => chance * own[one]!, 1))
}

/**
 * What a point of each section adds to the chance of meeting all that is asked, by possible candidate: the slope of a smoothed share
 * (kernel estimate of a sensitivity; Liu and Hong 2009). `near` is how many candidates alike it rests on.
 */
export function slopesOf(
  demands: Demand[],
  sections: number,
  weights: Float64Array,
): { slopes: Float64Array[]; near: number } {
  const all = demands.map((demand) => ({ demand, ...smoothed(demand, weights) }))
  const slopes = Array.from({ length: sections }, () => new Float64Array(weights.length))
  let [sum, squares] = [0, 0]
  for (let one = 0; one < weights.length; one++) {
    let total = 0
    for (const own of all) {
      let chance = own.slope[one]!
      for (const other of all) if (other !== own) chance *= other.meets[one]!
      own.demand.slopes(one).forEach((slope, at) => (slopes[at]![one]! += chance * slope))
      total += weights[one]! * chance
    }
    sum += total
    squares += square(total)
  }
  return { slopes, near: squares > 0 ? square(sum) / squares : 0 }
}
