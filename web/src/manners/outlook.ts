import { dayNumber, type Overview } from '@climber/core'

type Point = Pick<Overview['outlook'][number], 'date' | 'mean' | 'low' | 'high'>
const between = (a: number, b: number, share: number): number => a + (b - a) * share

/** The score expected on a day, with the range it lies in 8 times in 10: on the straight line between two weeks of the outlook. */
export function outlookOn(
  outlook: readonly Point[],
  date: string,
): Pick<Point, 'mean' | 'low' | 'high'> | undefined {
  const day = dayNumber(date)
  const after = outlook.findIndex((point) => dayNumber(point.date) >= day)
  const b = outlook[after] ?? outlook[outlook.length - 1]
  const a = outlook[Math.max(0, after - 1)]
  if (!a || !b) return undefined
  const span = dayNumber(b.date) - dayNumber(a.date)
  const share = span ? Math.min(1, (day - dayNumber(a.date)) / span) : 1
  return {
    mean: between(a.mean, b.mean, share),
    low: between(a.low, b.low, share),
    high: between(a.high, b.high, share),
  }
}
