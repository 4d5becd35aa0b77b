import exactly from '@stdlib/math-base-special-exp'
import ln from '@stdlib/math-base-special-ln'

/**
 * Functions that give the same bits on every engine. ECMAScript leaves Math.exp, Math.log, Math.hypot and ** to the
 * engine, and two versions of the same one were seen to differ in the last digit; so the core, whose answers must be
 * equal in the browser and on the server, uses these, made of IEEE 754 operations only. ESLint forbids the others here.
 */
export { ln }

const ln2High = 6.9314718036912381649e-1
const ln2Low = 1.90821492927058770002e-10
const log2OfE = 1.442695040888963387
/** Beyond this the library's own scaling takes care of what a number cannot hold. */
const plain = 690
/** Within this, 1 + x is it. */
const tiny = 1 / (1 << 28)
const most = 1000
const powersOfTwo = Float64Array.from({ length: 2 * most + 1 }, (_, at) => {
  let power = 1
  for (let k = Math.abs(at - most); k > 0; k--) power *= at < most ? 0.5 : 2
  return power
})

/**
 * e^x, to the bit what the library gives: its method and coefficients (FDLIBM, Sun Microsystems 1993), with the power of two looked up
 * instead of worked out, which is most of its time. A learner takes some hundred thousands of them.
 */
export function exp(x: number): number {
  if (!(x > -plain && x < plain)) return exactly(x)
  if (x > -tiny && x < tiny) return 1 + x
  const k = Math.trunc(log2OfE * x + (x < 0 ? -0.5 : 0.5))
  const high = x - k * ln2High
  const low = k * ln2Low
  const r = high - low
  const t = r * r
  const c =
    r -
    t *
      (0.16666666666666602 +
        t *
          (-0.0027777777777015593 +
            t * (0.00006613756321437934 + t * (-0.0000016533902205465252 + t * 4.1381367970572385e-8))))
  return (1 - (low - (r * c) / (2 - c) - high)) * powersOfTwo[k + most]!
}

export const square = (x: number): number => x * x

/** The logarithm of the odds of a chance between 0 and 1, and back. */
export const logit = (p: number): number => ln(p / (1 - p))
export const logistic = (x: number): number => 1 / (1 + exp(-x))

/** Euclidean length. */
export const norm = (...values: number[]): number =>
  Math.sqrt(values.reduce((sum, value) => sum + value * value, 0))
