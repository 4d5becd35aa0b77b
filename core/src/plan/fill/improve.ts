import { exp } from '../../exact/functions'
import { afterTouch, effective, type Memory, touched } from '../../hours/retention'
import { overlapDays, overlaps } from './overlaps'
import { retell } from './retell'
import type { Filled } from './slots'
import type { PlanInput } from '../input'
import { randomFrom } from '../../exact/random'

/** Trials per session, at least and at most; a bound on work, not on time, so that no result depends on the machine. */
const trialsPerSession = 40
const fewestTrials = 4000
const mostTrials = 12_000
/** Start of the cooling, as a share of what an average session is worth. */
const heat = 0.25

/**
 * What a point on each topic counts for: its value, or more where the allocation gives it more hours than its value
 * alone would earn, because its section is short of its cut. At the optimum of the allocation all marginal points are
 * alike (hours/allocate.ts), so the ratio of the greatest to a topic's own is the weight that its section carries.
 */
export function weightsOf({ topics, split }: PlanInput, hours: number): number[] {
  const given = split(hours)
  const margins = topics.map(({ value, known, tau }, at) =>
    given[at]! > 0 ? (value * (1 - known) * exp(-given[at]! / tau)) / tau : 0,
  )
  const most = Math.max(...margins)
  return topics.map(({ value }, at) => (margins[at]! > 0 ? (value * most) / margins[at]! : value))
}

/**
 * Local search on the finished filling, cooling from seeded random moves: a session takes another topic, or two swap,
 * where that leaves more on exam day of what is new. Lengths and places stay; prerequisites stay in order, no topic comes
 * twice running, chapters that overlap come no closer. Changes `filled` in place.
 */
export function improve(input: PlanInput, filled: Filled[], examDay: number): void {
  const { topics } = input
  const place = new Map(topics.map(({ id }, at) => [id, at]))
  const single = filled.flatMap((session, index) => (session.topics.length === 1 ? [index] : []))
  if (single.length < 2 || topics.length < 2) return
  const sessionsOf: number[][] = topics.map(() => [])
  filled.forEach((session, index) => session.topics.forEach((at) => sessionsOf[at]!.push(index)))
  const waits = topics.map((topic) =>
    topic.prerequisites.map((id) => place.get(id)).filter((at) => at !== undefined),
  )
  const follows: number[][] = topics.map(() => [])
  waits.forEach((needed, at) => needed.forEach((before) => follows[before]!.push(at)))
  const startKnown = topics.map((topic) => topic.touches.reduce<Memory | undefined>(touched, undefined))
  const hoursAll = filled.reduce((sum, { minutes }) => sum + minutes / 60, 0)
  const weight = weightsOf(input, hoursAll)
  const dayOf = Int32Array.from(filled, ({ day }) => day)
  const hoursOf = Float64Array.from(filled, ({ minutes, topics: inIt }) => minutes / 60 / inIt.length)
  const topicOf = Int32Array.from(filled, ({ topics: inIt }) => (inIt.length === 1 ? inIt[0]! : -1))
  const shared = overlaps(input, place)

  const worth = (at: number): number => {
    let stability = startKnown[at]?.stability ?? 0
    let last = startKnown[at]?.lastDay ?? 0
    let hours = 0
    for (const index of sessionsOf[at]!) {
      hours += hoursOf[index]!
      stability = afterTouch(stability, dayOf[index]! - last)
      last = dayOf[index]!
    }
    if (!hours) return 0
    const kept = exp(-(examDay - last) / stability)
    const topic = topics[at]!
    return weight[at]! * (1 - topic.known) * (1 - exp(-hours / topic.tau)) * effective(1, kept)
  }
  const worths = topics.map((_, at) => worth(at))
  const firstOf = (at: number) => (topics[at]!.touches.length ? -1 : (sessionsOf[at]![0] ?? Infinity))
  const inOrder = (at: number) =>
    waits[at]!.every(
      (needed) =>
        firstOf(at) === Infinity || sessionsOf[needed]!.length === 0 || firstOf(needed) < firstOf(at),
    )
  const ordered = (at: number) => inOrder(at) && follows[at]!.every(inOrder)
  /** Neighbours in time on the same topic, and overlapping chapters too close, that a session has. */
  const clashes = (index: number): number => {
    const at = topicOf[index]!
    let count = Number(topicOf[index - 1] === at) + Number(topicOf[index + 1] === at)
    if (shared[at]!.size)
      for (const step of [-1, 1])
        for (let other = index + step; other >= 0 && other < filled.length; other += step) {
          if (Math.abs(dayOf[other]! - dayOf[index]!) >= overlapDays) break
          if (shared[at]!.has(topicOf[other]!)) count++
        }
    return count
  }
  const give = (index: number, to: number): void => {
    const from = sessionsOf[topicOf[index]!]!
    from.splice(from.indexOf(index), 1)
    const list = sessionsOf[to]!
    let where = list.length
    while (where > 0 && list[where - 1]! > index) where--
    list.splice(where, 0, index)
    topicOf[index] = to
  }

  const random = randomFrom(input.seed)
  const trials = Math.min(mostTrials, Math.max(fewestTrials, trialsPerSession * single.length))
  let total = worths.reduce((a, b) => a + b, 0)
  const hot = (heat * total) / single.length
  let best = total
  let kept = Int32Array.from(topicOf)
  for (let trial = 0; trial < trials; trial++) {
    const i = single[Math.floor(random() * single.length)]!
    const a = topicOf[i]!
    const swap = random() < 0.5
    const j = swap ? single[Math.floor(random() * single.length)]! : -1
    const b = swap ? topicOf[j]! : Math.floor(random() * topics.length)
    const luck = random()
    if (a === b || weight[b]! <= 0) continue
    const before = clashes(i) + (swap ? clashes(j) : 0)
    give(i, b)
    if (swap) give(j, a)
    let keep = clashes(i) + (swap ? clashes(j) : 0) <= before && ordered(a) && ordered(b)
    if (keep) {
      const [newA, newB] = [worth(a), worth(b)]
      const gain = newA + newB - worths[a]! - worths[b]!
      const heatNow = hot * (1 - trial / trials)
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
      if (swap) give(j, b)
      give(i, a)
    }
  }
  single.forEach((index) => (filled[index]!.topics = [kept[index]!]))
  retell(input, filled)
}
