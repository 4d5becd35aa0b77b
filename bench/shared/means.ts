export const mean = (list: number[]): number => list.reduce((a, b) => a + b, 0) / Math.max(1, list.length)

/** The standard error of a mean. */
export function error(list: number[]): number {
  const middle = mean(list)
  return Math.sqrt(mean(list.map((one) => (one - middle) ** 2)) / Math.max(1, list.length))
}
