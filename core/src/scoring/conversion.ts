import type { Conversion } from '@climber/contract'

const tolerance = 1e-9

/** Rounds half up to the scale's step: 222.5 is 223. The tolerance forgives binary fractions such as 1/3 added up. */
export function roundToStep(scaled: number, step: number): number {
  const steps = Math.floor(scaled / step + 0.5 + tolerance)
  return Number((steps * step).toFixed(9))
}

/**
 * The least score before rounding that is reported as `wanted` or more: half a step below the first reading that is, so
 * 439.5 for 440 in steps of 1, 202.5 for 201 in steps of 5. A step of 0 rounds nothing.
 */
export const leastThatRounds = (wanted: number, step: number): number =>
  step > 0 ? Math.ceil(wanted / step - tolerance) * step - step / 2 : wanted

/** Raw to scaled before rounding: linear between the table's points, clamped at its ends. */
export function convertExactly({ points }: Conversion, raw: number): number {
  const first = points[0]!
  const last = points[points.length - 1]!
  if (raw <= first[0]) return first[1]
  if (raw >= last[0]) return last[1]
  let low = 0
  let high = points.length - 1
  while (high - low > 1) {
    const middle = (low + high) >> 1
    if (points[middle]![0] <= raw) low = middle
    else high = middle
  }
  const [rawLow, scaledLow] = points[low]!
  const [rawHigh, scaledHigh] = points[high]!
  return scaledLow + ((scaledHigh - scaledLow) * (raw - rawLow)) / (rawHigh - rawLow)
}

/** Raw to scaled as it is reported. */
export const convert = (conversion: Conversion, raw: number): number =>
  roundToStep(convertExactly(conversion, raw), conversion.step)

/**
 * What it means that a table ends before the full marks, in words for whoever wrote it; undefined where it goes up to them.
 * `fullMarks` is the highest raw score.
 */
export function endsEarly({ points }: Conversion, fullMarks: number): string | undefined {
  const last = points[points.length - 1]
  if (!last || !(last[0] < fullMarks - tolerance)) return undefined
  const [raw, scaled] = last
  return `The table ends at raw ${raw}, but ${Number(fullMarks.toFixed(6))} can be reached: whoever has more than ${raw} gets ${scaled} all the same. If a line is missing, add it.`
}

/** Lowest and highest scaled score of a table. */
export function rangeOf({ points }: Conversion): { low: number; high: number } {
  return { low: points[0]![1], high: points[points.length - 1]![1] }
}
