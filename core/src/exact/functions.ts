import exp from '@stdlib/math-base-special-exp'
import ln from '@stdlib/math-base-special-ln'

/**
 * Functions that give the same bits on every engine. ECMAScript leaves Math.exp, Math.log, Math.hypot and ** to the
 * engine, and two versions of the same one were seen to differ in the last digit; so the core, whose answers must be
 * equal in the browser and on the server, uses these, made of IEEE 754 operations only. ESLint forbids the others here.
 */
export { exp, ln }

export const square = (x: number): number => x * x

/** Euclidean length. */
export const norm = (...values: number[]): number =>
  Math.sqrt(values.reduce((sum, value) => sum + value * value, 0))
