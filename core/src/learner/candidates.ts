import { exp, logistic } from '../exact/functions'
import { normals } from './draws'
import { type Problem, speedName } from './layout'
import { oldStability } from './knowing'
import { prior } from './prior'
import { effective } from './retention'
import type { Exposure } from './work'

/** Possible candidates: each part one number a candidate. */
export interface Candidates {
  size: number
  /** What each knew of every topic of old, in the exam's order. */
  old: Float64Array[]
  speed: Float64Array
  /** The same of each topic. */
  speeds: Float64Array[]
  forgetting: Float64Array
  blanks: Float64Array
  /** Of each section, before any timed work. */
  paces: Float64Array[]
  /** Logarithm of the odds by which another maker's questions are easier, by name. */
  makers: ReadonlyMap<string, Float64Array>
  /** How likely each is, against one of as many that are alike; they sum to `size`. */
  weights: Float64Array
  /** As many candidates alike would tell as much. */
  effective: number
}

/** One number a candidate. */
export const each = (size: number, of: (one: number) => number): Float64Array => {
  const found = new Float64Array(size)
  for (let one = 0; one < size; one++) found[one] = of(one)
  return found
}

/** What is left by every candidate after some stabilities: of topics that were last met alike, found once. */
function fadedBy(forgetting: Float64Array): (stabilities: number) => Float64Array {
  const found = new Map<number, Float64Array>()
  return (stabilities) => {
    let own = found.get(stabilities)
    if (!own) {
      own = each(forgetting.length, (one) =>
        effective(1, stabilities ? exp(-forgetting[one]! * stabilities) : 1),
      )
      found.set(stabilities, own)
    }
    return own
  }
}

/** Share known of the topics (all, unless some are named) by every candidate after `done` hours and a part of those `ahead`. */
export function knownBy(
  { size, old, speeds, forgetting }: Candidates,
  taus: ArrayLike<number>,
  { done, ahead, idle, fresh }: Exposure,
  { kept, only }: { kept?: Float64Array; only?: Set<number> } = {},
): Float64Array[] {
  const faded = fadedBy(forgetting)
  return old.map((own, topic) => {
    const found = new Float64Array(size)
    if (only && !only.has(topic)) return found
    const spent = done[topic]! / taus[topic]!
    const comes = ahead[topic]! / taus[topic]!
    const ofOld = faded(idle[topic]! / oldStability)
    const ofNew = faded(fresh[topic]!)
    const speed = speeds[topic]!
    const learns = spent > 0 || comes > 0
    for (let one = 0; one < size; one++) {
      let known = own[one]! * ofOld[one]!
      if (learns) {
        const dose = spent + (kept ? kept[one]! * comes : comes)
        known += (1 - own[one]!) * (1 - exp(-speed[one]! * dose)) * ofNew[one]!
      }
      found[one] = known
    }
    return found
  })
}

/** The candidates of some points: each part as far off the likeliest as `off` has it. */
export function candidatesAt(
  problem: Problem,
  mode: Float64Array,
  off: Float64Array[],
  size: number,
): Candidates {
  const { layout, sectionOf, shifts } = problem
  const column = (at: number) => {
    const own = off[at]!
    const middle = mode[at]!
    return each(size, (one) => middle + own[one]!)
  }
  const logNormal = ({ mean, sd }: { mean: number; sd: number }, at: number) => {
    const own = column(at)
    return each(size, (one) => exp(mean + sd * own[one]!))
  }
  const [general, pace, left] = [column(layout.general), column(layout.pace), column(layout.blanks)]
  const sections = Array.from({ length: layout.paces - layout.sections }, (_, at) => at)
  const levels = sections.map((at) => {
    const own = column(layout.sections + at)
    return each(
      size,
      (one) => prior.general.mean + prior.general.sd * general[one]! + prior.section.sd * own[one]!,
    )
  })
  const speed = logNormal(prior.speed, layout.speed)
  return {
    size,
    old: Array.from(sectionOf, (section, at) => {
      const level = levels[section]!
      const own = column(layout.topics + at)
      return each(size, (one) => logistic(level[one]! + shifts[at]! + prior.topic.sd * own[one]!))
    }),
    speed,
    speeds: problem.topics.map((id, at) => {
      const place = layout.speeds[at]!
      const own = place < 0 ? normals(speedName(id), size) : column(place)
      return each(size, (one) => speed[one]! * exp(prior.topicSpeed.sd * own[one]!))
    }),
    forgetting: logNormal(prior.forgetting, layout.forgetting),
    blanks: each(size, (one) => logistic(problem.blanks + prior.blanks.sd * left[one]!)),
    paces: sections.map((at) => {
      const own = column(layout.paces + at)
      return each(
        size,
        (one) => prior.pace.mean + prior.pace.sd * pace[one]! + prior.pace.section * own[one]!,
      )
    }),
    makers: new Map(
      problem.makers.map((maker, at) => {
        const own = column(layout.makers + at)
        return [maker, each(size, (one) => prior.maker.mean + prior.maker.sd * own[one]!)]
      }),
    ),
    weights: new Float64Array(size).fill(1),
    effective: size,
  }
}

/** Every so-manieth of them, for what need not be as exact. */
export function thinned(candidates: Candidates, size: number): Candidates {
  const step = candidates.size / size
  const few = (values: Float64Array) => each(size, (one) => values[Math.floor(one * step)]!)
  const weights = few(candidates.weights)
  const all = weights.reduce((a, b) => a + b, 0)
  return {
    size,
    old: candidates.old.map(few),
    speed: few(candidates.speed),
    speeds: candidates.speeds.map(few),
    forgetting: few(candidates.forgetting),
    blanks: few(candidates.blanks),
    paces: candidates.paces.map(few),
    makers: new Map([...candidates.makers].map(([maker, own]) => [maker, few(own)])),
    weights: weights.map((weight) => (weight * size) / all),
    effective: candidates.effective / step,
  }
}
