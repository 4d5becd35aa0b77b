import exp from '@stdlib/math-base-special-exp'
import ln from '@stdlib/math-base-special-ln'

/**
 * Functions that give the same bits on every engine. ECMAScript leaves Math.exp, Math.log, Math.hypot and ** to the
 * engine, and two versions of the same one were seen to differ in the last digit; so the core, whose answers must be
 * equal in the browser and on the server, uses these, made of IEEE 754 operations only. ESLint forbids the others here.
 */
export { exp, ln }

export const square = (x: number): number => x * x

/** The logarithm of the odds of a chance between 0 and 1, and back. */
export const logit = (p: number): number => ln(p / (1 - p))
export const logistic = (x: number): number => 1 / (1 + exp(-x))

/** Euclidean length. */
export const norm = (...values: number[]): number =>
  Math.sqrt(values.reduce((sum, value) => sum + value * value, 0))
