import { exp, ln, logistic, square } from '../exact/functions'
import { normals } from './draws'
import { type Fit, least, lnReached, paceAfter, type Problem, speedName } from './fit'
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

const each = (size: number, of: (one: number) => number): Float64Array => {
  const found = new Float64Array(size)
  for (let one = 0; one < size; one++) found[one] = of(one)
  return found
}

/** Columns of L'^-1 z: one of each part. */
function spread({ lower }: Fit, names: string[], size: number): Float64Array[] {
  const columns = names.map((name) => normals(name, size))
  const wide = names.length
  for (let row = wide - 1; row >= 0; row--) {
    const own = columns[row]!
    const pivot = lower[row * wide + row]!
    for (let one = 0; one < size; one++) own[one]! /= pivot
    for (let at = 0; at < row; at++) {
      const by = lower[row * wide + at]!
      if (!by) continue
      const other = columns[at]!
      for (let one = 0; one < size; one++) other[one]! -= by * own[one]!
    }
  }
  return columns
}

/** Share known of the topics (all, unless some are named) by every candidate after `done` hours and a part of those `ahead`. */
export function knownBy(
  { size, old, speeds, forgetting }: Candidates,
  taus: ArrayLike<number>,
  { done, ahead, idle, fresh }: Exposure,
  { kept, only }: { kept?: Float64Array; only?: Set<number> } = {},
): Float64Array[] {
  return old.map((own, topic) => {
    const found = new Float64Array(size)
    if (only && !only.has(topic)) return found
    const spent = done[topic]! / taus[topic]!
    const comes = ahead[topic]! / taus[topic]!
    const away = idle[topic]! / oldStability
    const since = fresh[topic]!
    const speed = speeds[topic]!
    for (let one = 0; one < size; one++) {
      const dose = spent + (kept ? kept[one]! * comes : comes)
      const fades = forgetting[one]!
      let known = own[one]! * effective(1, away ? exp(-fades * away) : 1)
      if (dose)
        known +=
          (1 - own[one]!) * (1 - exp(-speed[one]! * dose)) * effective(1, since ? exp(-fades * since) : 1)
      found[one] = known
    }
    return found
  })
}

/** Parts of a day for every candidate, drawn with the candidate's own, and the logarithm of how much likelier they are than so drawn. */
function drawnDay(
  fit: Fit,
  at: number,
  variance: number,
  off: Float64Array[],
  size: number,
  into: Float64Array,
): Float64Array[] {
  const { mode, lower, cross } = fit.days[at]!
  const parts = Math.round(Math.sqrt(lower.length))
  const wide = off.length
  const columns = Array.from({ length: parts }, (_, part) => normals(`answers ${at} ${part}`, size))
  for (const own of columns) for (let one = 0; one < size; one++) into[one]! += square(own[one]!) / 2
  // L' d = z - L^-1 C x, so that d lies about -(L L')^-1 C x.
  const pushed = Array.from({ length: parts }, (_, part) => {
    const found = new Float64Array(size)
    for (let place = 0; place < wide; place++) {
      const by = cross[part * wide + place]!
      if (!by) continue
      const own = off[place]!
      for (let one = 0; one < size; one++) found[one]! += by * own[one]!
    }
    return found
  })
  for (let row = 0; row < parts; row++) {
    const own = pushed[row]!
    for (let before = 0; before < row; before++) {
      const by = lower[row * parts + before]!
      const other = pushed[before]!
      for (let one = 0; one < size; one++) own[one]! -= by * other[one]!
    }
    const pivot = lower[row * parts + row]!
    for (let one = 0; one < size; one++) {
      own[one]! /= pivot
      columns[row]![one]! -= own[one]!
    }
  }
  for (let row = parts - 1; row >= 0; row--) {
    const own = columns[row]!
    const pivot = lower[row * parts + row]!
    for (let one = 0; one < size; one++) own[one]! /= pivot
    for (let before = 0; before < row; before++) {
      const by = lower[row * parts + before]!
      const other = columns[before]!
      for (let one = 0; one < size; one++) other[one]! -= by * own[one]!
    }
  }
  columns.forEach((own, part) => {
    const spreads = part ? square(prior.day.section) : variance
    for (let one = 0; one < size; one++) {
      own[one]! += mode[part]!
      into[one]! -= square(own[one]!) / (2 * spreads)
    }
  })
  return columns
}

/** Adds the logarithm of the likelihood of some answers for every candidate. */
function addLikelihood(
  problem: Problem,
  at: number,
  candidates: Candidates,
  days: Float64Array[],
  into: Float64Array,
): void {
  const { size, blanks } = candidates
  const { cells, maker, reached, variance } = problem.answers[at]!
  const { sectionOf, taus } = problem
  const exposure = problem.exposures[at]!
  const known = knownBy(candidates, taus, exposure, { only: new Set(cells.flatMap(({ topics }) => topics)) })
  const shared = variance > 0
  const ofMaker = maker === undefined ? undefined : candidates.makers.get(maker)!
  const factors = candidates.paces.map((_, section) =>
    each(size, (one) =>
      shared || ofMaker
        ? exp((ofMaker?.[one] ?? 0) + (shared ? days[0]![one]! + days[1 + section]![one]! : 0))
        : 1,
    ),
  )
  for (const { topics, shares, guess, right, wrong, blank, easier } of cells) {
    const own = exp(easier)
    for (let one = 0; one < size; one++) {
      let all = 0
      for (let place = 0; place < topics.length; place++) {
        const topic = topics[place]!
        const factor = own * factors[sectionOf[topic]!]![one]!
        const before = known[topic]![one]!
        all += (shares[place]! * before * factor) / (1 - before + before * factor)
      }
      const missed = 1 - all
      const left = blanks[one]!
      let log = 0
      if (right) log += right * ln(Math.max(least, all + missed * (1 - left) * guess))
      if (wrong) log += wrong * ln(Math.max(least, missed * (1 - left) * (1 - guess)))
      if (blank) log += blank * ln(Math.max(least, missed * left))
      into[one]! += log
    }
  }
  for (const one of reached) {
    const sections = one.section === undefined ? candidates.paces.map((_, section) => section) : [one.section]
    for (let which = 0; which < size; which++) {
      const pace =
        sections.reduce((sum, section) => sum + candidates.paces[section]![which]!, 0) / sections.length
      into[which]! += lnReached(one, paceAfter(pace, exposure.timed))
    }
  }
}

/** Weights as large as leave at least half of the candidates telling: w^a with a at most 1 (tempering). */
function settled(logs: Float64Array, size: number): { weights: Float64Array; effective: number } {
  const peak = logs.reduce((most, log) => Math.max(most, log), -Infinity)
  const at = (power: number) => {
    const weights = each(size, (one) => exp(power * (logs[one]! - peak)))
    const sum = weights.reduce((a, b) => a + b, 0)
    const squares = weights.reduce((a, b) => a + b * b, 0)
    return { weights: weights.map((weight) => (weight * size) / sum), effective: (sum * sum) / squares }
  }
  let found = at(1)
  if (found.effective >= size / 2) return found
  let [low, high] = [0, 1]
  for (let step = 0; step < 20; step++) {
    const middle = (low + high) / 2
    found = at(middle)
    if (found.effective >= size / 2) low = middle
    else high = middle
  }
  return at(low)
}

/**
 * Possible candidates drawn from the normal distribution about the likeliest, and weighed by how much likelier each is than so drawn
 * (importance sampling; Kloek and van Dijk 1978), its days drawn along with it.
 */
export function candidatesOf(problem: Problem, fit: Fit, size: number): Candidates {
  const { layout, sectionOf, shifts, answers } = problem
  const off = spread(fit, layout.names, size)
  const column = (at: number) => {
    const own = off[at]!
    const mode = fit.mode[at]!
    return each(size, (one) => mode + own[one]!)
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
  const candidates: Candidates = {
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
  if (!answers.length) return candidates
  const logs = new Float64Array(size)
  layout.names.forEach((name, at) => {
    const z = normals(name, size)
    const own = off[at]!
    const mode = fit.mode[at]!
    for (let one = 0; one < size; one++) logs[one]! += (square(z[one]!) - square(mode + own[one]!)) / 2
  })
  answers.forEach(({ variance }, at) => {
    const days = variance > 0 ? drawnDay(fit, at, variance, off, size, logs) : []
    addLikelihood(problem, at, candidates, days, logs)
  })
  return { ...candidates, ...settled(logs, size) }
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
