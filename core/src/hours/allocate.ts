import { exp, ln } from '../exact/functions'
/** A topic as the hours see it: points if fully known, share known, hours that close 63% of the rest. */
export interface Learnable {
  value: number
  known: number
  tau: number
}

export interface Allocation {
  /** Hours per topic, in the order given. */
  hours: number[]
  /** Common marginal points per hour of the topics that get any; 0 where nothing is left to gain. */
  marginal: number
  /** Total points: the sum of value x knowledge after the hours. */
  points: number
}

/** Points that the next hour on a topic brings, to first order. */
export const yieldOf = ({ value, known, tau }: Learnable): number => (value * (1 - known)) / tau

/** Knowledge after `hours` more: 1 - (1-k) exp(-h/tau). */
export const knownAfter = ({ known, tau }: Learnable, hours: number): number =>
  1 - (1 - known) * exp(-hours / tau)

/**
 * The split of `hours` over topics that maximises total points. The problem is concave and separable, so the
 * Karush-Kuhn-Tucker conditions give it exactly: h = tau x max(0, ln(yield / mu)) (Boyd and Vandenberghe 2004, 5.5.3).
 * With topics in falling order of yield the active set is a prefix, and for a known set mu has a closed form, so no
 * bisection is needed: ln mu = (sum tau ln yield - H) / sum tau.
 */
export function allocate(topics: Learnable[], hours: number): Allocation {
  const order = topics
    .map((topic, index) => ({ index, tau: topic.tau, yield: yieldOf(topic) }))
    .filter((entry) => entry.yield > 0)
    .sort((a, b) => b.yield - a.yield || a.index - b.index)
  let taus = 0
  let logs = 0
  let logMarginal = -Infinity
  for (let at = 0; at < order.length && hours > 0; at++) {
    const entry = order[at]!
    const log = ln(entry.yield)
    if (taus > 0 && log <= logMarginal) break
    taus += entry.tau
    logs += entry.tau * log
    logMarginal = (logs - hours) / taus
  }
  const share = new Array<number>(topics.length).fill(0)
  if (hours > 0)
    for (const entry of order) share[entry.index] = entry.tau * Math.max(0, ln(entry.yield) - logMarginal)
  return {
    hours: share,
    marginal: hours > 0 && order.length ? exp(logMarginal) : (order[0]?.yield ?? 0),
    points: topics.reduce((sum, topic, at) => sum + topic.value * knownAfter(topic, share[at]!), 0),
  }
}
