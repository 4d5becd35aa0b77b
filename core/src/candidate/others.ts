import type { Plan } from '@climber/contract'
import { square } from '../exact/functions'
import { randomFrom } from '../exact/random'
import { afterDeeds, deedsOf, sectionShares } from '../others/deeds'
import { otherKinds } from '../others/kinds'
import { compositeExactly } from '../scoring/composite'
import { scaledAt } from '../scoring/expected'
import { isOpen } from '../sessions/session'
import { dayNumber } from '../time/day'
import type { Assessment } from './assessment'

/** People of each kind that live each plan: the same ones for every plan. */
const people = 12
const seedOf = (kind: number, person: number): number => 7919 * (kind + 1) + 104_729 * (person + 1)

/** What a difference is, and the standard error of it; both in points of the composite. */
export interface Difference {
  points: number
  error: number
}
/** What learners of other kinds than the model's score on exam day with plans of one way, made a few times with other luck. */
export interface OthersSay {
  /** Mean composite over all kinds. */
  mean: number
  /** Against the first way, of the same people: over all kinds, and by kind. None for the first way. */
  against?: Difference
  byKind: { title: string; mean: number; against?: Difference }[]
}

/** Possible candidates taken by their weights, evenly through all of them. */
function drawn({ learner: { weights }, knownBy }: Assessment, count: number): number[][] {
  const all = weights.reduce((a, b) => a + b, 0)
  let [at, below] = [0, 0]
  return Array.from({ length: count }, (_, person) => {
    const wanted = ((person + 0.5) / count) * all
    while (at < weights.length - 1 && below + weights[at]! < wanted) below += weights[at++]!
    return knownBy.map((own) => own[at]!)
  })
}

/** Composite on exam day: by plan, kind and person. */
type Scores = number[][][]

function scoresWith(
  { record, landscape, today }: Assessment,
  plans: Plan[],
  starts: number[][],
  exam: number,
): Scores {
  const taus = landscape.topics.map(({ tau }) => tau)
  return plans.map((plan) => {
    const deeds = deedsOf(
      record.exam,
      plan.sessions.filter((one) => isOpen(one, plan.madeOn)),
    )
    return otherKinds.map(({ kind }, at) =>
      starts.map((start, person) => {
        const one = kind({ exam: record.exam, taus, start, random: randomFrom(seedOf(at, person)), today })
        const shares = sectionShares(record.exam, afterDeeds(one, deeds), exam)
        return compositeExactly(
          record.exam,
          record.exam.sections.map((section, place) => scaledAt(section, shares[place]!)),
        )
      }),
    )
  })
}

const meanOf = (list: number[]): number => list.reduce((a, b) => a + b, 0) / list.length
/** Variance as it is estimated from a sample; 0 of one. */
export const varianceOf = (list: number[]): number => {
  const middle = meanOf(list)
  return list.reduce((sum, one) => sum + square(one - middle), 0) / Math.max(1, list.length - 1)
}

/** One way against another: people matched with themselves; the luck with which each of the plans was made counts too. */
function difference(own: Scores, other: Scores, kinds: number[]): Difference {
  const persons = (scores: Scores) =>
    kinds.flatMap((kind) =>
      scores[0]![kind]!.map((_, person) => meanOf(scores.map((plan) => plan[kind]![person]!))),
    )
  const plans = (scores: Scores) => scores.map((plan) => meanOf(kinds.flatMap((kind) => plan[kind]!)))
  const [mine, theirs] = [persons(own), persons(other)]
  const paired = mine.map((score, at) => score - theirs[at]!)
  const luck = varianceOf(plans(own)) / own.length + varianceOf(plans(other)) / other.length
  return { points: meanOf(paired), error: Math.sqrt(varianceOf(paired) / paired.length + luck) }
}

/**
 * What other learners score with the plans of several ways, each made a few times. They begin with what is thought to be known of the
 * candidate, and take the hours of a topic as the planner does, give or take what is their own; all that is planned they do.
 */
export function othersSay(assessment: Assessment, ways: Plan[][]): OthersSay[] {
  const { sitting } = assessment
  if (!sitting) return []
  const exam = dayNumber(sitting.date)
  const starts = drawn(assessment, people)
  const scores = ways.map((plans) => scoresWith(assessment, plans, starts, exam))
  const every = otherKinds.map((_, kind) => kind)
  return scores.map((own, way): OthersSay => {
    const against = (kinds: number[]) => (way ? { against: difference(own, scores[0]!, kinds) } : {})
    const mean = (kinds: number[]) => meanOf(own.flatMap((plan) => kinds.flatMap((kind) => plan[kind]!)))
    return {
      mean: mean(every),
      ...against(every),
      byKind: otherKinds.map(({ title }, kind) => ({ title, mean: mean([kind]), ...against([kind]) })),
    }
  })
}
