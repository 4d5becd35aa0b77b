import type { Counts, Diagnosis, ExamFormat, Section, SelfRating } from '@climber/contract'
import { itemsOf } from '../scoring/raw'
import { type Estimate, type Evidence, posterior } from './posterior'

export interface TopicState extends Estimate {
  topic: string
  section: string
  priorMean: number
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
}

const ratingShift: Record<SelfRating, number> = { weak: -0.2, fair: 0, strong: 0.2, 'not-covered': 0 }
/** Prior mean of a section of which nothing was measured. */
const unmeasuredMean = 0.4

/** Not-reached blanks tell of pace and are left out; other blanks were passed over, so not known. */
export const evidenceOf = (counts: Counts | undefined): Evidence =>
  counts
    ? { right: counts.right, wrong: counts.wrong, skipped: counts.blank - counts.notReached }
    : { right: 0, wrong: 0, skipped: 0 }

const add = (a: Evidence, b: Evidence): Evidence => ({
  right: a.right + b.right,
  wrong: a.wrong + b.wrong,
  skipped: a.skipped + b.skipped,
})
const size = ({ right, wrong, skipped }: Evidence): number => right + wrong + skipped

/** Options of the section's items: the mean guessing chance, so that mixed sections are read fairly. */
function choicesOf(section: Section): number {
  const guess = section.groups.reduce(
    (sum, group) => sum + (group.kind === 'choice' && group.choices ? group.items / group.choices : 0),
    0,
  )
  return guess > 0 ? itemsOf(section) / guess : Infinity
}

/**
 * Mastery of every section and topic, with ranges, from the diagnostic. `later` are the counts of practice tests sat
 * since, by item group, which sharpen the section's own estimate. Source: docs/models.md, 2.
 */
export function diagnose(exam: ExamFormat, diagnosis: Diagnosis): DiagnosisResult {
  const sections: SectionState[] = []
  const topics: TopicState[] = []
  for (const section of exam.sections) {
    const own = exam.topics.filter((topic) => topic.section === section.id)
    const choices = choicesOf(section)
    const counted = section.groups.flatMap(({ id }) => diagnosis.sections[id] ?? [])
    const fromTopics = own
      .map(({ id }) => evidenceOf(diagnosis.topics[id]?.counts))
      .reduce(add, evidenceOf(undefined))
    const fromSection = counted.map(evidenceOf).reduce(add, evidenceOf(undefined))
    const evidence = size(fromSection) >= size(fromTopics) ? fromSection : fromTopics
    const rated = own.filter(({ id }) => diagnosis.topics[id]?.rating)
    const prior =
      unmeasuredMean +
      rated.reduce(
        (sum, { id, share }) => sum + share * shiftOf(diagnosis.topics[id]?.rating, unmeasuredMean),
        0,
      )
    const measured = posterior(size(evidence) ? 0.5 : prior, evidence, choices)
    sections.push({
      section: section.id,
      ...measured,
      evidence,
      notReached: counted.reduce((sum, { notReached }) => sum + notReached, 0),
    })
    const base = size(evidence) ? measured.mean : unmeasuredMean
    for (const { id } of own) {
      const said = diagnosis.topics[id]
      const priorMean =
        said?.rating === 'not-covered'
          ? 0.05
          : Math.min(0.95, Math.max(0.05, base + ratingShift[said?.rating ?? 'fair']))
      const known = evidenceOf(said?.counts)
      topics.push({
        topic: id,
        section: section.id,
        ...posterior(priorMean, known, choices),
        priorMean,
        evidence: known,
        rating: said?.rating,
      })
    }
  }
  return { sections, topics, measured: sections.some(({ evidence }) => size(evidence) > 0) }
}

const shiftOf = (rating: SelfRating | undefined, mean: number): number =>
  rating === 'not-covered' ? 0.05 - mean : ratingShift[rating ?? 'fair']
