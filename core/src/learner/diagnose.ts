import type { Attempt, Counts, ExamFormat, ItemGroup, Ratings, Section, SelfRating } from '@climber/contract'
import { attemptTitle } from '../attempts/sat'
import { exp, square } from '../exact/functions'
import { filledGroups } from '../scoring/fill'
import { choicesOf, groupsMet, groupsOf } from '../scoring/raw'
import { dayNumber } from '../time/day'
import { type Estimate, type Evidence, type Observed, posteriorOf, priorStrength } from './posterior'

export interface TopicState extends Estimate {
  topic: string
  section: string
  priorMean: number
  /** Of the Beta prior, in items. */
  priorStrength: number
  evidence: Evidence
  rating?: SelfRating
}
export interface SectionState extends Estimate {
  section: string
  evidence: Evidence
  notReached: number
}
export interface DiagnosisResult {
  topics: TopicState[]
  sections: SectionState[]
  /** Some answers were counted; without any, everything rests on ratings and on the prior. */
  measured: boolean
  /** The tests that count, oldest first, with the weight of their answers. */
  tests: { date?: string; title: string; weight: number }[]
}

const ratingShift: Record<SelfRating, number> = {
  weak: -0.2,
  fair: 0,
  strong: 0.2,
  'not-covered': 0,
  covered: 0.1,
}
/** Prior mean of a section of which nothing was measured, and of a topic that was never covered. */
const unmeasuredMean = 0.4
const notCoveredMean = 0.05

const nothing: Evidence = { right: 0, wrong: 0, skipped: 0 }

/**
 * What counts tell of knowledge. Not-reached blanks tell of pace and are left out; other blanks were passed over, so not
 * known. Marks of written answers count as that many full answers right and the rest wrong.
 */
export function evidenceOf(counts: Counts | undefined, group?: ItemGroup): Evidence {
  if (!counts) return nothing
  const skipped = counts.blank - counts.notReached
  if (group?.kind !== 'written') return { right: counts.right, wrong: counts.wrong, skipped }
  const right = (counts.marks ?? 0) / group.perRight
  return { right, wrong: Math.max(0, group.items - counts.blank - right), skipped }
}

const add = (a: Evidence, b: Evidence): Evidence => ({
  right: a.right + b.right,
  wrong: a.wrong + b.wrong,
  skipped: a.skipped + b.skipped,
})
const times = (weight: number, { right, wrong, skipped }: Evidence): Evidence => ({
  right: weight * right,
  wrong: weight * wrong,
  skipped: weight * skipped,
})
const size = ({ right, wrong, skipped }: Evidence): number => right + wrong + skipped
const ln2 = 0.6931471805599453

/** Strength of the Beta prior, in items, with this mean and variance. */
const strengthOf = (mean: number, variance: number): number => (mean * (1 - mean)) / variance - 1

/** What a baseline rests on of an attempt. */
export type Sat = Pick<Attempt, 'kind' | 'date' | 'form' | 'title' | 'counts'>

/** All tests of a baseline, oldest first; a test `halfWeightDays` older than the newest counts half. */
export function weighed<S extends Sat>(sat: S[], halfWeightDays: number): (S & { weight: number })[] {
  const all = sat.filter(
    ({ counts: { total, sections, groups, topics } }) =>
      total || [sections ?? {}, groups, topics].some((grain) => Object.keys(grain).length),
  )
  const newest = Math.max(...all.flatMap(({ date }) => (date ? [dayNumber(date)] : [])))
  return all
    .map((test) => ({
      ...test,
      weight: test.date ? exp((-ln2 * (newest - dayNumber(test.date))) / halfWeightDays) : 1,
    }))
    .sort((a, b) => (a.date ?? '9').localeCompare(b.date ?? '9'))
}

type Topic = ExamFormat['topics'][number]

/** What a section's answers say of it, before its topics are told apart. */
interface Measured {
  state: SectionState
  /** Options of its items, on average. */
  choices: number
  topics: Topic[]
  topicEvidence: Map<string, Evidence>
}

function measure(
  section: Section,
  topics: Topic[],
  sat: (Sat & { weight: number })[],
  ratings: Ratings,
): Measured {
  const groups = groupsOf(section)
  const choices = choicesOf(groups)
  const together = (of: (test: Sat) => Evidence | undefined): Evidence =>
    sat.reduce((sum, test) => {
      const found = of(test)
      return found ? add(sum, times(test.weight, found)) : sum
    }, nothing)
  const topicEvidence = new Map(
    topics.map(({ id }) => [id, together(({ counts }) => evidenceOf(counts.topics[id]))]),
  )
  const fromTopics = [...topicEvidence.values()].reduce(add, nothing)
  const byGroup = groups.map((group) => ({
    // Counts of a second stage that the first one did not lead to are left from a slip of the pen.
    ...together(({ counts }) =>
      groupsMet(section, counts.groups).includes(group)
        ? evidenceOf(counts.groups[group.id], group)
        : undefined,
    ),
    choices: group.kind === 'choice' && group.choices ? group.choices : Infinity,
  }))
  const fromSection = byGroup.reduce<Evidence>(add, nothing)
  const bySection = size(fromSection) >= size(fromTopics) - 1e-9
  const evidence = bySection ? fromSection : fromTopics
  const observed: Observed[] = bySection ? byGroup : [{ ...fromTopics, choices }]
  const rated = topics.filter(({ id }) => ratings.topics[id])
  const prior =
    unmeasuredMean +
    rated.reduce((sum, { id, share }) => sum + share * shiftOf(ratings.topics[id], unmeasuredMean), 0)
  const notReached = sat.reduce(
    (sum, { counts }) => sum + groups.reduce((own, { id }) => own + (counts.groups[id]?.notReached ?? 0), 0),
    0,
  )
  const measured = posteriorOf(size(evidence) ? 0.5 : prior, observed)
  return {
    state: { section: section.id, ...measured, evidence, notReached },
    choices,
    topics,
    topicEvidence,
  }
}

/**
 * What the section says of a topic before the topic's own answers: mean, and variance. Topics lie about their
 * section as Beta priors of strength 4 do. Without answers of its own a topic is a part of the section that was
 * measured. With them, the section is taken without these answers, which would otherwise count twice, and where its
 * topics lie is known only from the others.
 */
function before(
  { state, choices, topics }: Measured,
  known: Evidence,
): { mean: number; variance: (mean: number) => number } {
  const { evidence } = state
  const about = (mean: number) => (mean * (1 - mean)) / (priorStrength + 1)
  if (!size(evidence)) return { mean: unmeasuredMean, variance: about }
  if (topics.length === 1) return { mean: 0.5, variance: about }
  if (!size(known))
    return {
      mean: state.mean,
      variance: (mean) => about(mean) * (1 - 1 / topics.length) + square(state.sd),
    }
  const rest = {
    right: Math.max(0, evidence.right - known.right),
    wrong: Math.max(0, evidence.wrong - known.wrong),
    skipped: Math.max(0, evidence.skipped - known.skipped),
  }
  const others = posteriorOf(0.5, [{ ...rest, choices }])
  const follows = priorStrength / (priorStrength + 1)
  return {
    mean: others.mean,
    variance: (mean) => about(mean) + follows * (square(others.sd) + about(mean) / (topics.length - 1)),
  }
}

function topicState(section: Measured, id: string, rating: SelfRating | undefined): TopicState {
  const known = section.topicEvidence.get(id) ?? nothing
  const base = before(section, known)
  const priorMean =
    rating === 'not-covered'
      ? notCoveredMean
      : Math.min(0.95, Math.max(0.05, base.mean + ratingShift[rating ?? 'fair']))
  const strength = Math.max(1, strengthOf(priorMean, base.variance(priorMean)))
  return {
    topic: id,
    section: section.state.section,
    ...posteriorOf(priorMean, [{ ...known, choices: section.choices }], strength),
    priorMean,
    priorStrength: strength,
    evidence: known,
    rating,
  }
}

/** Mastery of every section and topic, with ranges, from the tests of a baseline. Source: docs/models.md, 2. */
export function diagnose(exam: ExamFormat, baseline: Sat[], ratings: Ratings): DiagnosisResult {
  const sat = weighed(baseline, ratings.halfWeightDays).map((test) => {
    // Topics tell of themselves below; what is known by section or in all is shared out over the item groups.
    const { groups } = filledGroups(exam, { ...test.counts, topics: {} })
    return { ...test, counts: { ...test.counts, groups } }
  })
  const measured = exam.sections.map((section) =>
    measure(
      section,
      exam.topics.filter((topic) => topic.section === section.id),
      sat,
      ratings,
    ),
  )
  const sections = measured.map(({ state }) => state)
  return {
    sections,
    topics: measured.flatMap((section) =>
      section.topics.map(({ id }) => topicState(section, id, ratings.topics[id])),
    ),
    measured: sections.some(({ evidence }) => size(evidence) > 0),
    tests: sat.map((test) => ({ date: test.date, title: attemptTitle(exam, test), weight: test.weight })),
  }
}

const shiftOf = (rating: SelfRating | undefined, mean: number): number =>
  rating === 'not-covered' ? notCoveredMean - mean : ratingShift[rating ?? 'fair']
