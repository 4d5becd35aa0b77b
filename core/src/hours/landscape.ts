import type { ExamFormat } from '@climber/contract'
import { allocate, knownAfter, type Learnable } from './allocate'
import { allocateWithCuts, type CutAllocation, type CutGroup } from './cuts'
import { effective } from '../learner/retention'
import { scaledAt } from '../scoring/expected'
import { compositeExactly, compositeSlopes } from '../scoring/composite'

/** Expected scaled scores: one per section and the composite, before rounding. */
export interface Levels {
  sections: number[]
  composite: number
}

/** Half the least width, in share known, over which the slope of a table is taken. */
const slopeReach = 0.05
/** Retention that the plan keeps new knowledge at until exam day. */
export const keptAtExam = 0.85

/** An exam seen from knowledge: topics in the exam's order, `known` always an array in that order. */
export class Landscape {
  readonly topics: Learnable[]
  /** Indices of each section's topics. */
  readonly bySection: number[][]
  /** Place of each topic's section. */
  readonly sectionOf: number[]
  readonly now: Levels
  /** Points of each topic on its section's own scale, whatever the composite makes of them. */
  readonly own: number[] = []

  constructor(
    readonly exam: ExamFormat,
    known: number[],
    taus: number[],
    hoursAhead: number,
  ) {
    this.bySection = exam.sections.map(({ id }) =>
      exam.topics.flatMap((topic, at) => (topic.section === id ? [at] : [])),
    )
    this.sectionOf = exam.topics.map(({ section }) => exam.sections.findIndex(({ id }) => id === section))
    this.topics = exam.topics.map((_, at) => ({ value: 0, known: known[at]!, tau: taus[at]! }))
    this.now = this.levels(known)
    // A topic's points depend on the slope of the conversion table where the candidate will be, which depends on the
    // hours: start from the slope here, then take the secant to where the hours lead.
    this.setValues(known, known)
    for (let round = 0; round < 2; round++) {
      const { hours } = allocate(this.topics, Math.max(1, hoursAhead))
      this.setValues(
        known,
        this.topics.map((topic, at) => knownAfter(topic, hours[at]!)),
      )
    }
  }

  known(): number[] {
    return this.topics.map(({ known }) => known)
  }

  /** The same exam, with the same value of every topic, seen from other knowledge. */
  startingFrom(known: number[]): Landscape {
    const moved = Object.create(Landscape.prototype) as Landscape
    return Object.assign(moved, this, {
      topics: this.topics.map((topic, at) => ({ ...topic, known: known[at]! })),
      now: this.levels(known),
    })
  }

  /** Share known of a section's items, given that of every topic. */
  sectionKnown(section: number, known: number[]): number {
    return this.bySection[section]!.reduce((sum, at) => sum + this.exam.topics[at]!.share * known[at]!, 0)
  }

  sectionLevel(section: number, known: number[]): number {
    return scaledAt(this.exam.sections[section]!, this.sectionKnown(section, known))
  }

  levels(known: number[]): Levels {
    const sections = this.exam.sections.map((_, at) => this.sectionLevel(at, known))
    return { sections, composite: compositeExactly(this.exam, sections) }
  }

  /** Scaled points of a section for all of it known, at the slope between two shares known, each widened by a twentieth. */
  slope(section: number, from: number, to: number): number {
    const format = this.exam.sections[section]!
    const low = Math.min(from, to) - slopeReach
    const high = Math.max(from, to) + slopeReach
    return (scaledAt(format, high) - scaledAt(format, low)) / (high - low)
  }

  private setValues(now: number[], then: number[]): void {
    const slopes = compositeSlopes(this.exam, this.levels(now).sections, this.levels(then).sections)
    this.exam.sections.forEach((_, at) => {
      const slope = this.slope(at, this.sectionKnown(at, now), this.sectionKnown(at, then))
      for (const topic of this.bySection[at]!) {
        const own = this.exam.topics[topic]!.share * slope
        this.topics[topic]!.value = own * slopes[at]!
        this.own[topic] = own
      }
    })
  }

  private cuts(): CutGroup[] {
    return this.exam.sections.flatMap(({ cut }, section) => {
      if (cut === undefined) return []
      const indices = this.bySection[section]!
      const known = this.known()
      return {
        topics: indices,
        cut,
        lift: indices.map((at) => this.own[at]!),
        expected: (own: number[]) => {
          const after = [...known]
          indices.forEach((at, place) => (after[at] = this.atExam(at, own[place]!)))
          return this.sectionLevel(section, after)
        },
      }
    })
  }

  /** What of a topic's knowledge is there on the day: what was known, and the new part at its retention. */
  atExam(topic: number, knownThen: number, kept = keptAtExam): number {
    const { known } = this.topics[topic]!
    return known + (knownThen - known) * effective(1, kept)
  }

  /** The best split of the hours, section cuts met where they can be. */
  allocate(hours: number): CutAllocation & { missedSections: string[] } {
    const sections = this.exam.sections.filter(({ cut }) => cut !== undefined)
    const allocation = allocateWithCuts(this.topics, hours, this.cuts())
    return { ...allocation, missedSections: allocation.missed.map((at) => sections[at]!.id) }
  }
}
