import { exp, ln } from '../exact/functions'
import { allocate, knownAfter, yieldOf } from '../hours/allocate'
import { keptAtExam } from '../hours/landscape'
import { weightedMean } from '../learner/estimate'
import { slopesOf } from '../learner/demand'
import type { Scores } from '../learner/paper'
import { chosenWays } from '../sessions/ways'
import type { DayNumber } from '../time/day'
import { asLearned, type Assessment, exposureOn } from './assessment'
import { demandsOf } from './odds'
import { rememberedFor } from './remembered'

/** What knowing the rest of each topic is worth, with so many hours of study until the exam. */
export interface Values {
  /** Whether hours count by the odds of the target and every cut, or by points of the whole score. */
  by: 'odds' | 'points'
  /** Points of the composite for all of a topic, in the exam's order; by the odds, as if these were points. */
  values: number[]
  /** Hours of each topic, shared out by these. */
  hours: number[]
  /** How much a point of each section counts, against one anywhere; absent where points count. */
  counts?: number[]
  /** What an hour more of each topic adds to the odds, after these hours; absent where points count. */
  chances?: number[]
}

/** Possible candidates that a slope is taken over. */
const fewer = 250
/** How often the hours are shared out anew by what they are worth after the last sharing. */
const rounds = 4
/** With so many possible candidates near what is asked, the slope is believed half; the rest is points. */
const halfBelieved = 12
/** Steps, as logarithms, in which it is told how much a section counts. */
const told = 0.15
/** Days since the last touch, in stabilities, at which a plan keeps what is new by the exam; and of what was known of old, in days. */
const keptGap = -ln(keptAtExam)
const keptIdle = 7
/** Whole tests a week where no plan says how many. */
const testsAWeek = 0.5

/** Scores of an exam day after so many hours on each topic besides the tests that are planned, kept as a plan keeps what is new. */
export function afterHours(assessment: Assessment, hours: number[], day: DayNumber): Scores {
  const { learner, ahead, today } = assessment
  const [exposure] = learner.exposures(
    [Math.max(day, today + 1)],
    ahead.filter(({ wide }) => wide),
  )
  return learner.scores(
    {
      ...exposure!,
      ahead: exposure!.ahead.map((tests, at) => tests + hours[at]!),
      fresh: exposure!.fresh.map((since, at) => (hours[at] ? keptGap : since)),
      idle: exposure!.idle.map((since, at) => (hours[at] ? Math.min(since, keptIdle) : since)),
      timedAhead: ahead.length ? exposure!.timedAhead : (testsAWeek * Math.max(0, day - today)) / 7,
    },
    { kept: asLearned(assessment) },
  )
}

/** By points: as the tables have it, sections short of their cut lifted to it where that can be. */
function byPoints({ landscape }: Assessment, hours: number): Values {
  return {
    by: 'points',
    values: landscape.topics.map(({ value }) => value),
    hours: landscape.allocate(hours).hours,
  }
}

const sumOver = (places: number[], of: (at: number) => number) => places.reduce((sum, at) => sum + of(at), 0)

/**
 * By the odds: a point of a section counts by what it adds to the chance of the target and every cut, over the possible candidates, where
 * the hours lead. Since that in turn depends on how the hours are shared out, both are found together, by turns; and told in steps, so
 * that what hardly differs leaves a plan as it is.
 */
function byOdds(assessment: Assessment, hours: number, day: DayNumber): Values {
  const { landscape, learner, known } = assessment
  const { topics, bySection, sectionOf, own } = landscape
  const some = learner.thinned(Math.min(fewer, learner.size))
  const smaller = { ...assessment, learner: some }
  const knownBy = some.known(exposureOn(smaller, assessment.today))
  /** Points of its own scale that each section has to gain, by possible candidate and on average. */
  const gains = bySection.map((places) =>
    some.weights.map((_, one) => sumOver(places, (at) => own[at]! * (1 - knownBy[at]![one]!))),
  )
  const gain = bySection.map((places) => sumOver(places, (at) => own[at]! * (1 - known[at]!)))
  /** What a point of each section adds to the odds after some hours, and the share to which that is believed. */
  const look = (split: number[]) => {
    const demands = demandsOf(smaller, afterHours(smaller, split, day))
    const { slopes, near } = slopesOf(demands, bySection.length, some.weights)
    const chances = slopes.map((slope, at) => {
      const all = weightedMean(
        slope.map((chance, one) => chance * gains[at]![one]!),
        some.weights,
      )
      return gain[at]! > 0 ? all / gain[at]! : 0
    })
    return { chances, believed: near / (near + halfBelieved) }
  }
  const usual = bySection.map((places) => {
    const all = sumOver(places, (at) => own[at]!)
    return all > 0 ? sumOver(places, (at) => topics[at]!.value) / all : 0
  })
  const most = Math.max(...usual)
  const points = usual.reduce((sum, weight, at) => sum + weight * gain[at]!, 0)
  const valuesWith = (weights: number[]) => topics.map((_, at) => own[at]! * weights[sectionOf[at]!]!)
  const share = (weights: number[]) => {
    const values = valuesWith(weights)
    return allocate(
      topics.map((topic, at) => ({ ...topic, value: values[at]! })),
      hours,
    ).hours
  }
  let weights = usual
  for (let round = 0; round < rounds; round++) {
    const { chances, believed } = look(share(weights))
    const all = chances.reduce((sum, chance, at) => sum + chance * gain[at]!, 0)
    if (!all) break
    weights = weights.map(
      (weight, at) => (weight + believed * ((points * chances[at]!) / all) + (1 - believed) * usual[at]!) / 2,
    )
  }
  const bases = usual.map((weight) => weight || most)
  const counts = weights.map((weight, at) =>
    weight > 0 && bases[at] ? exp(told * Math.round(ln(weight / bases[at]!) / told)) : 0,
  )
  const final = counts.map((count, at) => count * bases[at]!)
  const split = share(final)
  const { chances } = look(split)
  return {
    by: 'odds',
    values: valuesWith(final),
    hours: split,
    counts,
    chances: topics.map((topic, at) =>
      yieldOf({
        value: own[at]! * chances[sectionOf[at]!]!,
        known: knownAfter(topic, split[at]!),
        tau: topic.tau,
      }),
    ),
  }
}

/** What the hours of a candidate count by. Who goes by another order than yield has said what comes first, whatever the target. */
export function countedBy({ goal, record }: Assessment): Values['by'] {
  const { counts, order } = chosenWays(record.settings)
  return goal.mean !== undefined && order === 'yield' ? counts : 'points'
}

const found = rememberedFor<Assessment, Values>()

/** What hours are worth, with so many of them until a day; remembered for the assessment. */
export const valuesOf = (assessment: Assessment, hours: number, day: DayNumber): Values =>
  found(assessment, `${hours} ${day}`, () =>
    countedBy(assessment) === 'odds' ? byOdds(assessment, hours, day) : byPoints(assessment, hours),
  )
