import { chosenWays } from '../../sessions/ways'
import type { PlanInput, PlanTopic } from '../input'

/** A topic whose budget is smaller than this, in hours, is left out and its hours go to the others. */
const smallestBudget = 0.3
/** So many times the hours that the allocation gives it go to the section that is easiest to lift. */
const easiestWeight = 2.5

/** The section where an hour yields most: the easiest to lift. */
function easiestSection(topics: PlanTopic[]): string | undefined {
  const best = new Map<string, number>()
  for (const { section, value, known, tau } of topics)
    best.set(section, Math.max(best.get(section) ?? 0, (value * (1 - known)) / tau))
  return [...best].sort((a, b) => b[1] - a[1] || a[0].localeCompare(b[0]))[0]?.[0]
}

/**
 * Hours per topic: from the exact allocation, or as the chosen school shares them out (weakest first: by what is not
 * known; in book order: by length). Those too small for a session are shared out again.
 */
export function budgets(input: PlanInput, hours: number): number[] {
  const { order } = chosenWays(input.settings)
  const easiest = order === 'easiest section' ? easiestSection(input.topics) : undefined
  const weights =
    order === 'weakest'
      ? input.topics.map(({ known, tau }) => (1 - known) * (1 - known) * tau)
      : order === 'book'
        ? input.topics.map(({ tau }) => tau)
        : undefined
  const exact = weights ? [] : input.split(hours)
  const total = weights?.reduce((a, b) => a + b, 0) ?? 0
  const split = weights
    ? weights.map((weight) => (total ? (weight * hours) / total : 0))
    : exact.map((own, at) => own * (easiest && input.topics[at]!.section === easiest ? easiestWeight : 1))
  const large = split.map((share) => (share >= smallestBudget ? share : 0))
  const sum = large.reduce((a, b) => a + b, 0)
  return sum > 0 ? large.map((share) => (share * hours) / sum) : split
}
