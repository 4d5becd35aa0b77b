import { roundToStep } from '../scoring/conversion'
import { compositeRange } from '../scoring/composite'
import { meets } from '../learner/demand'
import { quantile } from '../learner/estimate'
import type { Work } from '../learner/work'
import { dayNumber } from '../time/day'
import { asLearned, assess, type Assessment, exposureOn, scoresOn } from './assessment'
import { hoursTo, strong } from './gap'
import { drawnTarget } from './goal'
import type { CandidateRecord, Moment } from './moment'
import { cutDemands, oddsFrom, planOdds } from './odds'
import { hoursAhead, type Moved, spoken, withMoved } from './verdict'

/** One thing to change, the rest left as it is, that brings the chance to `wantedChance`. */
export type Lever =
  | { kind: 'time'; minutesMoreAWeek?: number }
  | { kind: 'sitting'; sitting: string; date: string; hours: number; odds: number }
  | { kind: 'target'; target?: number }
  | { kind: 'topics'; topics: string[]; hours: number; reached: boolean }

/** Study hours by the exam and the odds with them: of a part of the plan that is spoken of, or with painted minutes more a week. */
export interface HoursTried {
  part?: number
  hours: number
  odds: number
  minutes: number
}

export interface Levers {
  /** Hours of study by the exam with which the target is reached with a chance; undefined where no painted hours do. */
  hoursNeeded: { chance: number; hours?: number }[]
  /** The plans that this was found between: parts of the one that is spoken of, it, and those with so many painted minutes more a week. */
  tried: HoursTried[]
  levers: Lever[]
}

export const wantedChance = 0.8
/** Minutes more a week that are painted to find how the odds rise. */
const painted = [60, 150, 300, 540, 900]
/** The step in which minutes are told. */
const minuteStep = 15

/** Hours at which a chance is reached on the way between some points of rising hours. */
function hoursAt(points: HoursTried[], chance: number): { hours: number; minutes: number } | undefined {
  const at = points.findIndex(({ odds }) => odds >= chance)
  if (at < 0) return undefined
  const to = points[at]!
  const from = points[at - 1]
  if (!from || to.odds <= from.odds) return to
  const share = (chance - from.odds) / (to.odds - from.odds)
  return {
    hours: from.hours + share * (to.hours - from.hours),
    minutes: from.minutes + share * (to.minutes - from.minutes),
  }
}

/** Odds with parts of the plan as it stands, from its tests alone to all: of its study every so-manieth session stays. */
function lesser(assessment: Assessment, day: number): HoursTried[] {
  const { learner, ahead } = assessment
  const all = hoursAhead(assessment)
  const study = ahead.filter(({ wide }) => !wide)
  const hoursOf = (work: Work[]) => work.reduce((sum, { hours }) => hours.reduce((a, b) => a + b, sum), 0)
  return [0, 0.25, 0.5, 0.75].map((part) => {
    const some = study.filter((_, at) => Math.floor((at + 1) * part) > Math.floor(at * part))
    const stays = new Set(some)
    const exposure = exposureOn(
      { ...assessment, ahead: ahead.filter((work) => work.wide ?? stays.has(work)) },
      day,
    )
    return {
      part,
      hours: study.length ? (all * hoursOf(some)) / hoursOf(study) : 0,
      odds: oddsFrom(assessment, learner.scores(exposure, { kept: asLearned(assessment) })).odds!,
      minutes: 0,
    }
  })
}

/** The highest target that is reached with the wanted chance together with every cut. */
function safeTarget(assessment: Assessment, day: number): number | undefined {
  const { learner, goal, record } = assessment
  const { exam } = record
  const scores = scoresOn(assessment, day)
  const drawn = drawnTarget(goal, learner.size)
  const passes = meets(cutDemands(exam, scores))
  const { low, high } = compositeRange(exam)
  // Where the target moves, what is reached of it: a safe one lies as far below its middle.
  const spare = scores.composite.map((score, one) => (passes(one) ? score - drawn[one]! + goal.mean! : -1e9))
  const most = quantile(spare, learner.weights, 1 - wantedChance)
  const { step } = exam.composite
  let target = Math.min(high, roundToStep(Math.floor(most / step + 1e-9) * step, step))
  const reached = (of: number) => learner.share((one) => spare[one]! >= of - 1e-9)
  while (target >= low && reached(target) < wantedChance) target = roundToStep(target - step, step)
  return target < low ? undefined : target
}

/** Plans tried out for a safe target. */
const mostTries = 4

/** A safe target with the plan that is made for it, which may share the hours out otherwise than the one at hand. */
function targetKept(
  assessment: Assessment,
  day: number,
  planFor: (scaled: number) => Assessment,
): number | undefined {
  const { step } = assessment.record.exam.composite
  let target = safeTarget(assessment, day)
  for (let tries = 0; target !== undefined && tries < mostTries; tries++) {
    const own = planFor(target)
    if (planOdds(own)!.odds! >= wantedChance) return target
    target = Math.min(roundToStep(target - step, step), safeTarget(own, day) ?? -Infinity)
    if (target < compositeRange(assessment.record.exam).low) return undefined
  }
  return target
}

/** Topics to bring to "strong", those that pay most an hour first, until the target is reached with the wanted chance. */
function topicsToStrong(assessment: Assessment, day: number): Lever {
  const { learner, landscape, known } = assessment
  const exposure = exposureOn(assessment, day)
  const kept = asLearned(assessment)
  const then = learner.known(exposure, { kept })
  const order = landscape.topics
    .map(({ value, tau }, at) => ({
      at,
      value,
      hours: hoursTo(known[at]!, strong, tau),
      gap: strong - known[at]!,
    }))
    .filter(({ gap, value }) => gap > 0 && value > 0)
    .sort((a, b) => (b.value * b.gap) / b.hours - (a.value * a.gap) / a.hours)
  const oddsOf = (count: number) => {
    const lifted = new Set(order.slice(0, count).map(({ at }) => at))
    const raised = then.map((own, at) => (lifted.has(at) ? own.map((k) => Math.max(k, strong)) : own))
    return oddsFrom(assessment, learner.scores(exposure, { kept }, raised)).odds!
  }
  const told = (count: number, reached: boolean): Lever => ({
    kind: 'topics',
    topics: order.slice(0, count).map(({ at }) => landscape.exam.topics[at]!.id),
    hours: order.slice(0, count).reduce((sum, { hours }) => sum + hours, 0),
    reached,
  })
  if (oddsOf(order.length) < wantedChance) return told(order.length, false)
  let [low, high] = [-1, order.length]
  while (high - low > 1) {
    const middle = (low + high) >> 1
    if (oddsOf(middle) >= wantedChance) high = middle
    else low = middle
  }
  return told(high, true)
}

/** The least painted minutes a week that reach the wanted chance: found between the points, then made sure of by plans. */
function minutesEnough(points: HoursTried[], oddsWith: (minutes: number) => HoursTried): number | undefined {
  const found = hoursAt(points, wantedChance)
  if (!found) return undefined
  let minutes = Math.ceil(found.minutes / minuteStep - 1e-9) * minuteStep
  const most = points[points.length - 1]!.minutes
  while (minutes > 0 && minutes < most && oddsWith(minutes).odds < wantedChance) minutes += 2 * minuteStep
  return Math.min(minutes, most)
}

/**
 * What would bring the odds to four in five, each by itself, solved on plans that would be made: painted minutes, other sittings,
 * another target, topics brought to a level. Undefined where there is no sitting or no target.
 */
export function levers(record: CandidateRecord, now: Moment, moved: Moved = {}): Levers | undefined {
  const changed = withMoved(record, moved)
  const before = assess(changed, now)
  const { sitting, today, goal } = before
  if (!sitting || dayNumber(sitting.date) <= today || goal.mean === undefined) return undefined
  const day = dayNumber(sitting.date)
  const learning = (one: Assessment): Assessment => (moved.learns ? { ...one, learns: moved.learns } : one)
  const assessment = learning(spoken(before, Boolean(moved.minutesMoreAWeek)).assessment)
  const here: HoursTried = {
    part: 1,
    hours: hoursAhead(assessment),
    odds: planOdds(assessment)!.odds!,
    minutes: 0,
  }
  const planFor = (further: Moved, anew = false) =>
    spoken(assess(withMoved(changed, further), now), anew || Boolean(moved.minutesMoreAWeek)).assessment
  const oddsWith = (minutes: number): HoursTried => {
    const richer = learning(planFor({ minutesMoreAWeek: minutes }, true))
    return { hours: hoursAhead(richer), odds: planOdds(richer)!.odds!, minutes }
  }
  const points = [...lesser(assessment, day), here]
  for (const minutes of painted) {
    if (points[points.length - 1]!.odds >= 0.9) break
    points.push(oddsWith(minutes))
  }
  const others = record.exam.sittings.filter(({ id, date }) => dayNumber(date) > today && id !== sitting.id)
  return {
    hoursNeeded: [0.5, wantedChance, 0.9].map((chance) => ({
      chance,
      hours: hoursAt(points, chance)?.hours,
    })),
    tried: points,
    levers: [
      { kind: 'time', minutesMoreAWeek: minutesEnough(points, oddsWith) },
      ...others.map(({ id, date }): Lever => {
        const there = learning(planFor({ sitting: id }))
        return { kind: 'sitting', sitting: id, date, hours: hoursAhead(there), odds: planOdds(there)!.odds! }
      }),
      { kind: 'target', target: targetKept(assessment, day, (scaled) => learning(planFor({ scaled }))) },
      topicsToStrong(assessment, day),
    ],
  }
}
