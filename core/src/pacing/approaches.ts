import type { ApproachShape } from '@climber/contract'
import { leavePlan, type LeavePlan, markSeconds } from './leave'
import type { Approach, Paper, Passes } from './sittings/paper'
import { meanOf, sitMany } from './sittings/sitMany'
import { hazardPeak, leaveTime } from './solving'

/** A paper with what its classes are worth, so that leave times can be found for it. */
export interface PacedPaper {
  paper: Paper
  /** By class: what solving one adds to leaving it. */
  worth: number[]
}

/** Longest stay that stands for "to the end". */
export const toTheEnd = 1e7

const seconds = ({ paper: { first, second } }: PacedPaper): number => second?.[0]?.until ?? first.until

/** The legs of a paper with the seconds each has to itself; a second stage has what the first leaves by the budget. */
const legsOf = ({ paper }: PacedPaper) => [
  { leg: paper.first, seconds: paper.first.until },
  ...(paper.second ?? []).map((leg) => ({ leg, seconds: leg.until - paper.first.until })),
]

/** The same limits by class in every leg. */
function byClass(paced: PacedPaper, passes: ((kind: number, leg: number) => number)[]): Approach {
  const [first, ...second] = legsOf(paced).map(({ leg }, at): Passes =>
    passes.map((limit) => leg.of.map((kind) => limit(kind, at))),
  )
  return { first: first!, ...(second.length && { second }) }
}

/** One limit for every item, then once more through what is left. */
export const fixedLimit = (paced: PacedPaper, limit: number): Approach =>
  byClass(paced, [() => limit, () => toTheEnd])

/** Straight through: each item until it is solved, or until so many times its even share of the time. */
export const straightThrough = (paced: PacedPaper, patience = 3): Approach => {
  const [first, ...second] = legsOf(paced).map(({ leg, seconds: own }): Passes => {
    const reading = leg.reading.reduce((a, b) => a + b, 0)
    const each = (patience * (own - reading)) / Math.max(1, leg.of.length)
    return [leg.of.map(() => each)]
  })
  return { first: first!, ...(second.length && { second }) }
}

/** Leave times of every leg for its own time. */
export function leavePlans(paced: PacedPaper): LeavePlan[] {
  return legsOf(paced).map(({ leg, seconds: own }) => {
    const counts = paced.paper.classes.map((_, kind) => leg.of.filter((one) => one === kind).length)
    const reading = leg.reading.reduce((a, b) => a + b, 0)
    return leavePlan(
      paced.paper.classes.map((one, kind) => ({ ...one, count: counts[kind]!, worth: paced.worth[kind]! })),
      own - reading,
    )
  })
}

/** Leave times once found for a paper; shapes differ in little else. */
export class LeaveTimes {
  readonly plans: LeavePlan[]
  /** Classes from the poorest rate to the best. */
  readonly ranked: number[]
  private readonly rates: number[]
  private readonly peaks: number[]

  constructor(readonly paced: PacedPaper) {
    const { classes } = paced.paper
    this.plans = leavePlans(paced)
    this.peaks = classes.map(hazardPeak)
    // What a start brings at best is the same in every leg.
    this.rates = this.plans[0]!.rules.map(({ rate }) => rate)
    this.ranked = classes.map((_, kind) => kind).sort((a, b) => this.rates[a]! - this.rates[b]! || a - b)
  }

  /** How many classes, poorest first, a first pass may go past; nothing is come back to after a single one. */
  deferrals(passes: ApproachShape['passes']): number[] {
    return passes === 1 ? [0] : this.ranked.map((_, deferred) => deferred)
  }

  /** Seconds after which a class is left at `haste` times mu; 0 where a start does not pay. */
  at(kind: number, leg: number, haste: number): number {
    const mu = this.plans[leg]!.mu * haste
    const own = this.paced.paper.classes[kind]!
    const worth = this.paced.worth[kind]!
    if (worth <= 0) return 0
    // A class at the margin is started; time decides how many of it are.
    if (haste === 1 && this.plans[leg]!.rules[kind]!.started > 0) return this.plans[leg]!.rules[kind]!.seconds
    if (this.rates[kind]! <= mu) return 0
    return leaveTime(own, worth + mu * markSeconds, mu, this.peaks[kind])
  }

  approach({ passes, haste, deferred }: ApproachShape): Approach {
    const later = new Set(this.ranked.slice(0, deferred))
    const own = (kind: number, leg: number) => this.at(kind, leg, 1)
    // What is left after that is taken longer, then to the end: the time that luck has saved.
    const wide = (kind: number, leg: number) => {
      const limit = leaveTime(
        this.paced.paper.classes[kind]!,
        Math.max(1e-9, this.paced.worth[kind]!),
        this.plans[leg]!.mu / 2,
        this.peaks[kind],
      )
      return Math.max(own(kind, leg), limit)
    }
    const lists: ((kind: number, leg: number) => number)[] = [
      (kind, leg) =>
        passes > 1 && later.has(kind) ? 0 : haste === 1 ? own(kind, leg) : this.at(kind, leg, haste),
    ]
    if (passes > 1) lists.push(own)
    if (passes > 2) lists.push(wide)
    if (passes > 1) lists.push(() => toTheEnd)
    const approach = byClass(this.paced, lists)
    // A pass that would go past everything is none.
    const worked = (all: Passes): Passes => {
      const kept = all.filter((limits) => limits.some((limit) => limit > 0))
      return kept.length ? kept : [all[0]!.map(() => toTheEnd)]
    }
    return {
      first: worked(approach.first),
      ...(approach.second && { second: approach.second.map(worked) }),
    }
  }
}

/** Sittings with which shapes are tried against each other. */
const trialSittings = 400

/** Mean marks of an approach on the sittings of one seed. */
const marksOf = (paced: PacedPaper, approach: Approach, sittings: number, seed: number): number =>
  meanOf(sitMany(paced.paper, approach, sittings, seed).raw)

export interface Found<S> {
  approach: Approach
  shape: S
  marks: number
}

function best<S>(
  paced: PacedPaper,
  shapes: S[],
  approachOf: (shape: S) => Approach,
  sittings: number,
  seed: number,
): Found<S> {
  let found: Found<S> | undefined
  for (const shape of shapes) {
    const approach = approachOf(shape)
    const marks = marksOf(paced, approach, sittings, seed)
    if (!found || marks > found.marks + 1e-12) found = { approach, shape, marks }
  }
  return found!
}

/**
 * Leave times with `passes` passes; which classes the first goes past is tried on simulated sittings, since that guards
 * the good items at the end of the paper against a slow start.
 */
export function byLeaveTimes(
  times: LeaveTimes,
  passes: ApproachShape['passes'],
  seed: number,
  sittings = trialSittings,
): Found<ApproachShape> {
  return best(
    times.paced,
    times.deferrals(passes).map((deferred): ApproachShape => ({ passes, haste: 1, deferred })),
    (shape) => times.approach(shape),
    sittings,
    seed,
  )
}

/** The best single limit of 10 to 400 seconds, every five. */
export const bestFixedLimit = (paced: PacedPaper, seed: number, sittings = trialSittings): Found<number> =>
  best(
    paced,
    Array.from({ length: 79 }, (_, at) => 10 + 5 * at).filter((limit) => limit <= seconds(paced)),
    (limit) => fixedLimit(paced, limit),
    sittings,
    seed,
  )

const hastes = [0.5, 0.7, 1, 1.4, 2, 2.8, 4]

/**
 * The best approach by leave times: a search over the number of passes, the haste of the first, and what it goes past;
 * the best few of a short trial are tried again on more sittings. Yields the share done.
 */
export function* bestApproach(times: LeaveTimes, seed: number): Generator<number, Found<ApproachShape>> {
  const shapes: ApproachShape[] = ([1, 2, 3] as const).flatMap((passes) =>
    hastes.flatMap((haste) => times.deferrals(passes).map((deferred) => ({ passes, haste, deferred }))),
  )
  const tried: { shape: ApproachShape; marks: number }[] = []
  for (const [at, shape] of shapes.entries()) {
    tried.push({ shape, marks: marksOf(times.paced, times.approach(shape), trialSittings, seed) })
    if (at % 4 === 3) yield (0.7 * at) / shapes.length
  }
  const finalists = tried.sort((a, b) => b.marks - a.marks).slice(0, 6)
  let found: Found<ApproachShape> | undefined
  for (const [at, { shape }] of finalists.entries()) {
    const approach = times.approach(shape)
    const marks = marksOf(times.paced, approach, 10 * trialSittings, seed + 1)
    if (!found || marks > found.marks + 1e-12) found = { approach, shape, marks }
    yield 0.7 + (0.3 * (at + 1)) / finalists.length
  }
  return found!
}
