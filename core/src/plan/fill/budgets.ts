import { chosenWays } from '../../sessions/ways'
import type { PlanInput, PlanTopic } from '../input'
import { chaptersOf, readingHours } from './chapters'

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

/** Places of the topics that are too large, and too little known, to be left out without a word. */
export const largeTopics = (topics: PlanTopic[]): number[] =>
  topics.flatMap(({ share, known, value }, at) =>
    share > largeShare && known < fairlyKnown && value > 0 ? [at] : [],
  )

/** Those of them that get a session whatever else pays more; of one section alone where that was chosen to be lifted. */
export function mustsOf({ topics, settings }: PlanInput): number[] {
  const easiest = chosenWays(settings).order === 'easiest section' ? easiestSection(topics) : undefined
  return largeTopics(topics).filter((at) => easiest === undefined || topics[at]?.section === easiest)
}

/** What each topic has to gain, by its share of the exam alone. */
function byGap({ topics }: PlanInput, hours: number): number[] {
  const gaps = topics.map(({ share, known }) => share * (1 - known))
  const all = gaps.reduce((sum, gap) => sum + gap, 0)
  return gaps.map((gap) => (all > 0 ? (gap * hours) / all : 0))
}

/** Known so well, a topic's chapters are no longer read for its sake. */
export const wellKnown = 0.8
/** Reading may take so much of the hours; where books are longer, the chapters that pay most are read. */
const mostReading = 0.65

/** Hours of reading that each topic is to have, so that no chapter stays half read that there is the time for. */
export function readingOf(input: PlanInput, hours: number): number[] {
  const { topics, shelf, lived, kept } = input
  const least = topics.map(() => 0)
  if (!shelf.some(({ kind }) => kind === 'book')) return least
  const reading = readingHours(chaptersOf(shelf, [...lived, ...kept]), topics)
  let left = mostReading * hours
  const order = topics
    .flatMap(({ known, value }, at) => (reading[at]! > 0 && known < wellKnown && value > 0 ? [at] : []))
    .sort((a, b) => payOf(topics[b]!, reading[b]!) - payOf(topics[a]!, reading[a]!) || a - b)
  for (const at of order) {
    if (reading[at]! > left) continue
    least[at] = reading[at]!
    left -= reading[at]!
  }
  return least
}
const payOf = ({ value, known }: PlanTopic, hours: number): number => (value * (1 - known)) / hours

/** Budgets that give each topic its reading at least; what that takes is taken from the others alike. */
function withReading(input: PlanInput, budget: number[], hours: number): number[] {
  const least = readingOf(input, hours)
  const over = budget.map((own, at) => Math.max(0, own - least[at]!))
  const spare = hours - least.reduce((a, b) => a + b, 0)
  const given = over.reduce((a, b) => a + b, 0)
  return least.map((own, at) => own + (given > 0 ? (over[at]! * spare) / given : spare / least.length))
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
      return shared(exact.map((own, at) => own * (input.topics[at]!.section === easiest ? easiestWeight : 1)))
    }
    case 'yield': {
      const gaps = byGap(input, hours)
      const blended = input.split(hours).map((own, at) => (1 - gapShare) * own + gapShare * gaps[at]!)
      return withReading(input, blended, hours)
    }
  }
}
