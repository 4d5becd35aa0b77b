import { exp } from './functions'
/**
 * Standard normal distribution function, absolute error below 1e-14: Marsaglia's Taylor series about 0 inside 6 standard
 * deviations, 0 and 1 beyond (Marsaglia 2004, Evaluating the normal distribution).
 */
export function normalCdf(z: number): number {
  if (z < -6.5) return 0
  if (z > 6.5) return 1
  let sum = z
  let term = z
  for (let i = 3; Math.abs(term) > 1e-17; i += 2) {
    term *= (z * z) / i
    sum += term
  }
  return 0.5 + (sum * exp((-z * z) / 2)) / Math.sqrt(2 * Math.PI)
}

/** z of the 90th hundredth: a central 80% range is mean +- this many standard deviations. */
export const z80 = 1.2815515655446004

/** z below which a standard normal variable falls with the given probability, by bisection to 1e-12. */
export function normalQuantile(probability: number): number {
  let low = -6.5
  let high = 6.5
  while (high - low > 1e-12) {
    const middle = (low + high) / 2
    if (normalCdf(middle) < probability) low = middle
    else high = middle
  }
  return (low + high) / 2
}

/** A standard normal number from a uniform one in [0, 1), by inversion; its ends are cut off a billionth from them. */
export const normalFrom = (uniform: number): number =>
  normalQuantile(Math.min(1 - 1e-9, Math.max(1e-9, uniform)))
