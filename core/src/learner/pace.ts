import { exp, ln, square } from '../exact/functions'
import type { Reached } from './cells'

/** Whole tests of timed work in which what is missing of the pace falls to 1/e. */
export const paceTests = 2
/** How far the share reached lies about the pace: one sd of the logarithm, besides the odd item. */
export const reachSd = 0.05
/** Slope of the logistic curve that comes nearest to a normal one of that spread. */
export const reachSlope = 1.702 / reachSd
export const reachedLog = (items: number, notReached: number) => ln(Math.max(0.5, items - notReached) / items)

/** Logarithm of items that can be done over those there are, after timed work: what is missing wears off. */
export const paceAfter = (start: number, tests: number): number =>
  start < 0 ? start * exp(-tests / paceTests) : start

/** Logarithm of the likelihood of what was reached at a pace. */
export const lnReached = ({ items, notReached }: Reached, pace: number): number =>
  notReached > 0
    ? -square(reachedLog(items, notReached) - pace) / (2 * (square(reachSd) + 1 / square(items)))
    : -ln(1 + exp(-reachSlope * pace))
