import { chosenWays } from '../../sessions/ways'
import type { PlanInput, PlanTopic } from '../input'

/** How much of a budget goes by share and gap alone. Measured: on five kinds of learner it gains on each (docs/measurements.md). */
const gapShare = 0.5
/** So many times the hours that the allocation gives it go to the section that is easiest to lift. */
const easiestWeight = 2.5

/** The section where an hour yields most: the easiest to lift. */
function easiestSection(topics: PlanTopic[]): string | undefined {
  const best = new Map<string, number>()
  for (const { section, value, known, tau } of topics)
    best.set(section, Math.max(best.get(section) ?? 0, (value * (1 - known)) / tau))
  return [...best].sort((a, b) => b[1] - a[1] || a[0].localeCompare(b[0]))[0]?.[0]
}

/** No topic that is more of the exam than this, and of which less is known than that, is left without a session. */
const largeShare = 0.02
const fairlyKnown = 0.5

/** Places of the topics that no plan leaves out. */
export const mustsOf = (topics: PlanTopic[]): number[] =>
  topics.flatMap(({ share, known, value }, at) =>
    share > largeShare && known < fairlyKnown && value > 0 ? [at] : [],
  )

/** What each topic has to gain, by its share of the exam alone. */
function byGap({ topics }: PlanInput, hours: number): number[] {
  const gaps = topics.map(({ share, known }) => share * (1 - known))
  const all = gaps.reduce((sum, gap) => sum + gap, 0)
  return gaps.map((gap) => (all > 0 ? (gap * hours) / all : 0))
}

/**
 * Hours per topic: from the exact allocation, blended with what a topic's share and gap alone would give it, since neither its hours nor
 * what is known of it is known well; or as the chosen school shares them out (weakest first: by what is not known; in book order: by
 * length). All of them are given out; none is rounded away.
 */
export function budgets(input: PlanInput, hours: number): number[] {
  const { order } = chosenWays(input.settings)
  const shared = (weights: number[]): number[] => {
    const total = weights.reduce((a, b) => a + b, 0)
    return weights.map((weight) => (total ? (weight * hours) / total : 0))
  }
  switch (order) {
    case 'weakest':
      return shared(input.topics.map(({ known, tau }) => (1 - known) * (1 - known) * tau))
    case 'book':
      return shared(input.topics.map(({ tau }) => tau))
    case 'easiest section': {
      const easiest = easiestSection(input.topics)
      const exact = input.split(hours)
      return shared(
        exact.map((own, at) => own * (input.topics[at]!.section === easiest ? easiestWeight : 1)),
      )
    }
    case 'yield': {
      const gaps = byGap(input, hours)
      return input.split(hours).map((own, at) => (1 - gapShare) * own + gapShare * gaps[at]!)
    }
  }
}
