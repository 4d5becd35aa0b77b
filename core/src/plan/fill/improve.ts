import { exp } from '../../exact/functions'
import { afterTouch, effective, type Memory, touched } from '../../learner/retention'
import { budgets, mustsOf, readingOf } from './budgets'
import type { FixedStudy } from './fixed'
import { overlapDays, overlaps } from './overlaps'
import type { Filled } from './slots'
import type { PlanInput } from '../input'
import { randomFrom } from '../../exact/random'

/** Trials per session, at least and at most; a bound on work, not on time, so that no result depends on the machine. */
const trialsPerSession = 40
const fewestTrials = 4000
const mostTrials = 12_000
/** Hours that any session gives, for a topic that is not to be left out. */
const anyAtAll = 0.01
/** Start of the cooling, as a share of what an average session is worth. */
const heat = 0.25

/**
 * What a point on each topic counts for in the search: as much as makes the budgets the best sharing there is, so that the search finds
 * times for them and does not undo them. At the optimum of the allocation all marginal points are alike (hours/allocate.ts), so the ratio of
 * the greatest to a topic's own is its weight.
 */
export function weightsOf(input: PlanInput, hours: number): number[] {
  const given = budgets(input, hours)
  const margins = input.topics.map(({ value, known, tau }, at) =>
    given[at]! > 0 ? (value * (1 - known) * exp(-given[at]! / tau)) / tau : 0,
  )
  const most = Math.max(...margins)
  return input.topics.map(({ value }, at) => (margins[at]! > 0 ? (value * most) / margins[at]! : value))
}

/** A session as the search sees it: one of a filling, which may take another topic, or one that stands already. */
type Entry = Pick<Filled, 'day' | 'from' | 'minutes' | 'topics' | 'timed'> & { stands?: boolean }

/** A filling on trial: which session has which topic, what each topic's sessions are worth on exam day, and what stands against it. */
class Trial {
  /** Sessions of one topic: those that may take another. */
  readonly single: number[]
  readonly topicOf: Int32Array
  /** What a point on each topic counts for. */
  readonly weight: number[]
  private readonly dayOf: Int32Array
  private readonly hoursOf: Float64Array
  private readonly sessionsOf: number[][]
  private readonly waits: number[][]
  private readonly follows: number[][]
  private readonly start: (Memory | undefined)[]
  private readonly shared: Set<number>[]
  /** Hours that each topic is not to fall under: of reading, or any at all of what is not to be left out. */
  private readonly least: number[]

  constructor(
    private readonly input: PlanInput,
    filled: Entry[],
    private readonly examDay: number,
  ) {
    const { topics } = input
    const place = new Map(topics.map(({ id }, at) => [id, at]))
    this.single = filled.flatMap(({ topics: inIt, timed, stands }, index) =>
      inIt.length === 1 && !timed && !stands ? [index] : [],
    )
    this.sessionsOf = topics.map(() => [])
    filled.forEach((session, index) => session.topics.forEach((at) => this.sessionsOf[at]!.push(index)))
    this.waits = topics.map((topic) =>
      topic.prerequisites.map((id) => place.get(id)).filter((at) => at !== undefined),
    )
    this.follows = topics.map(() => [])
    this.waits.forEach((needed, at) => needed.forEach((before) => this.follows[before]!.push(at)))
    this.start = topics.map((topic) => topic.touches.reduce<Memory | undefined>(touched, undefined))
    this.weight = weightsOf(
      input,
      filled.reduce((sum, { minutes }) => sum + minutes / 60, 0),
    )
    this.dayOf = Int32Array.from(filled, ({ day }) => day)
    this.hoursOf = Float64Array.from(filled, ({ minutes, topics: inIt }) => minutes / 60 / inIt.length)
    // A timed set has no topic of its own: what it takes up is chosen from what was met before it.
    this.topicOf = Int32Array.from(filled, ({ topics: inIt, timed }) =>
      inIt.length === 1 && !timed ? inIt[0]! : -1,
    )
    this.shared = overlaps(input, place)
    const musts = new Set(mustsOf(input))
    this.least = readingOf(
      input,
      filled.reduce((sum, { minutes }) => sum + minutes / 60, 0),
    ).map((hours, at) => hours || (musts.has(at) ? anyAtAll : 0))
  }

  /** What is new of a topic and still at hand on exam day, in weighted points. */
  worth(at: number): number {
    let stability = this.start[at]?.stability ?? 0
    let last = this.start[at]?.lastDay ?? 0
    let hours = 0
    for (const index of this.sessionsOf[at]!) {
      hours += this.hoursOf[index]!
      stability = afterTouch(stability, this.dayOf[index]! - last)
      last = this.dayOf[index]!
    }
    if (!hours) return 0
    const kept = exp(-(this.examDay - last) / stability)
    const topic = this.input.topics[at]!
    return this.weight[at]! * (1 - topic.known) * (1 - exp(-hours / topic.tau)) * effective(1, kept)
  }

  private firstOf(at: number): number {
    return this.input.topics[at]!.touches.length ? -1 : (this.sessionsOf[at]![0] ?? Infinity)
  }
  private inOrder(at: number): boolean {
    const first = this.firstOf(at)
    return (
      first === Infinity ||
      this.waits[at]!.every((needed) => this.sessionsOf[needed]!.length === 0 || this.firstOf(needed) < first)
    )
  }
  /** Not met before, it is met in a session of its own, not in a mixed set. */
  private metAlone(at: number): boolean {
    const [first] = this.sessionsOf[at]!
    return first === undefined || this.start[at] !== undefined || this.topicOf[first] === at
  }
  /** The topic comes after what it needs, and what needs it after it; and is met by itself. */
  ordered(at: number): boolean {
    return this.metAlone(at) && this.inOrder(at) && this.follows[at]!.every((next) => this.inOrder(next))
  }

  /** Neighbours in time on the same topic, and overlapping chapters too close, that a session has. */
  clashes(index: number): number {
    const { topicOf, dayOf } = this
    const at = topicOf[index]!
    let count = Number(topicOf[index - 1] === at) + Number(topicOf[index + 1] === at)
    const shared = this.shared[at]!
    if (shared.size)
      for (const step of [-1, 1])
        for (let other = index + step; other >= 0 && other < topicOf.length; other += step) {
          if (Math.abs(dayOf[other]! - dayOf[index]!) >= overlapDays) break
          if (shared.has(topicOf[other]!)) count++
        }
    return count
  }

  /** Whether a topic has fewer hours of its own now than it is to have; a mixed set does not read its chapters. */
  lacks(at: number): boolean {
    const { least, hoursOf, topicOf } = this
    if (!least[at]) return false
    let hours = 0
    for (const index of this.sessionsOf[at]!) if (topicOf[index] === at) hours += hoursOf[index]!
    return hours < least[at]! - 1e-9
  }

  give(index: number, to: number): void {
    const from = this.sessionsOf[this.topicOf[index]!]!
    from.splice(from.indexOf(index), 1)
    const list = this.sessionsOf[to]!
    let where = list.length
    while (where > 0 && list[where - 1]! > index) where--
    list.splice(where, 0, index)
    this.topicOf[index] = to
  }
}

/**
 * Local search on the finished filling, cooling from seeded random moves: a session takes another topic, or two swap,
 * where that leaves more on exam day of what is new. Lengths and places stay; prerequisites stay in order, no topic comes
 * twice running, chapters that overlap come no closer. What stands already is reckoned with and stays. Changes `filled` in place.
 */
export function improve(input: PlanInput, filled: Filled[], examDay: number, fixed: FixedStudy[] = []): void {
  const entries: Entry[] = [...filled, ...fixed.map((one) => ({ ...one, stands: true }))]
  if (fixed.length) entries.sort((a, b) => a.day - b.day || a.from - b.from)
  const trial = new Trial(input, entries, examDay)
  const { single, topicOf, weight } = trial
  if (single.length < 2 || input.topics.length < 2) return
  const worths = input.topics.map((_, at) => trial.worth(at))
  const random = randomFrom(input.seed)
  const trials = Math.min(mostTrials, Math.max(fewestTrials, trialsPerSession * single.length))
  let total = worths.reduce((a, b) => a + b, 0)
  const hot = (heat * total) / single.length
  let best = total
  let kept = Int32Array.from(topicOf)
  for (let round = 0; round < trials; round++) {
    const i = single[Math.floor(random() * single.length)]!
    const a = topicOf[i]!
    const swap = random() < 0.5
    const j = swap ? single[Math.floor(random() * single.length)]! : -1
    const b = swap ? topicOf[j]! : Math.floor(random() * input.topics.length)
    const luck = random()
    if (a === b || weight[b]! <= 0) continue
    const before = trial.clashes(i) + (swap ? trial.clashes(j) : 0)
    trial.give(i, b)
    if (swap) trial.give(j, a)
    let keep =
      trial.clashes(i) + (swap ? trial.clashes(j) : 0) <= before &&
      trial.ordered(a) &&
      trial.ordered(b) &&
      !trial.lacks(a) &&
      (!swap || !trial.lacks(b))
    if (keep) {
      const [newA, newB] = [trial.worth(a), trial.worth(b)]
      const gain = newA + newB - worths[a]! - worths[b]!
      const heatNow = hot * (1 - round / trials)
      keep = gain > 1e-9 || (heatNow > 0 && luck < exp(gain / heatNow))
      if (keep) {
        worths[a] = newA
        worths[b] = newB
        total += gain
        if (total > best + 1e-9) {
          best = total
          kept = Int32Array.from(topicOf)
        }
      }
    }
    if (!keep) {
      if (swap) trial.give(j, b)
      trial.give(i, a)
    }
  }
  single.forEach((index) => (entries[index]!.topics = [kept[index]!]))
}
