import { square } from '../exact/functions'
import { diagnose } from '../learner/diagnose'
import { knowledgeAfter, type Study } from './study'
import { dayNumber, type DayNumber } from '../time/day'
import type { Landscape } from './landscape'
import type { ScoredTest } from '../attempts/scored'

/** Older tests say nothing of today. */
const recentDays = 60
/** How far, in share known, the learning model may be off for a section: one standard deviation. */
const modelSd = 0.08

/**
 * Knowledge of each topic as the plan takes it: what the learning model expects, moved for each section towards what the
 * newest test showed of it, by the weight of the test against the model (normal shrinkage). The forecast learns from
 * tests in its own way (forecast/) and does not use this.
 */
export function knownForPlanning(
  landscape: Landscape,
  known: number[],
  done: Study[],
  scored: ScoredTest[],
  today: DayNumber,
): number[] {
  const newest = scored.filter(({ test }) => !test.seen && today - dayNumber(test.date) <= recentDays).pop()
  if (!newest) return known
  const { exam } = landscape
  const day = dayNumber(newest.test.date)
  const then = knowledgeAfter(
    landscape,
    done.filter((study) => study.day < day),
  ).known
  // By section only: what single topics showed is left to the learner that is to come.
  const bySection = { ...newest.test, counts: { groups: newest.counts, topics: {} } }
  const seen = diagnose(exam, [bySection], { topics: {}, halfWeightDays: recentDays })
  const moved = [...known]
  exam.sections.forEach((_, section) => {
    const topics = landscape.bySection[section]!
    const expected = topics.reduce((sum, at) => sum + exam.topics[at]!.share * then[at]!, 0)
    const { mean, sd } = seen.sections[section]!
    const shift = ((mean - expected) * square(modelSd)) / (square(modelSd) + square(sd))
    // Spread so that no topic leaves 0 to 1: upwards by what is not known yet, downwards by what is.
    for (const at of topics) {
      const room =
        shift > 0 ? (1 - known[at]!) / Math.max(0.05, 1 - expected) : known[at]! / Math.max(0.05, expected)
      moved[at] = Math.min(0.99, Math.max(0.01, known[at]! + shift * room))
    }
  })
  return moved
}
