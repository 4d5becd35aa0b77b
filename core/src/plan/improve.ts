import { exp } from '../exact/functions'
import { afterTouch, effective, type Memory, touched } from '../hours/retention'
import type { Filled } from './fill'
import type { PlanInput } from './input'
import { randomFrom } from './random'

/** Trials per session, and at most; a bound on work, not on time, so that the result does not depend on the machine. */
const trialsPerSession = 30
const mostTrials = 9000

/**
 * Local search on the finished filling: swaps two sessions' topics where that leaves more of the new knowledge on exam
 * day. Kinds and lengths stay where they are, prerequisites stay in order, no topic comes twice running. Changes
 * `filled` in place and returns the number of swaps kept.
 */
export function improve(input: PlanInput, filled: Filled[], examDay: number): number {
  const { topics } = input
  const place = new Map(topics.map(({ id }, at) => [id, at]))
  const sessionsOf: number[][] = topics.map(() => [])
  filled.forEach((session, index) => session.topics.forEach((at) => sessionsOf[at]!.push(index)))
  const waits = topics.map((topic) =>
    topic.prerequisites.map((id) => place.get(id)).filter((at) => at !== undefined),
  )
  const follows: number[][] = topics.map(() => [])
  waits.forEach((needed, at) => needed.forEach((before) => follows[before]!.push(at)))
  const startKnown = topics.map((topic) => topic.touches.reduce<Memory | undefined>(touched, undefined))

  // Swaps exchange topics between sessions of one topic each, so a session's day and its hours a topic never change.
  const dayOf = Int32Array.from(filled, ({ day }) => day)
  const hoursOf = Float64Array.from(filled, ({ minutes, topics: inIt }) => minutes / 60 / inIt.length)
  const worth = (at: number): number => {
    let stability = startKnown[at]?.stability ?? 0
    let last = startKnown[at]?.lastDay ?? 0
    let hours = 0
    for (const index of sessionsOf[at]!) {
      hours += hoursOf[index]!
      stability = afterTouch(stability, dayOf[index]! - last)
      last = dayOf[index]!
    }
    if (!stability) return 0
    const kept = exp(-(examDay - last) / stability)
    return (
      topics[at]!.value * (1 - topics[at]!.known) * (1 - exp(-hours / topics[at]!.tau)) * effective(1, kept)
    )
  }
  const worths = topics.map((_, at) => worth(at))
  const firstOf = (at: number) => (topics[at]!.touches.length ? -1 : (sessionsOf[at]![0] ?? Infinity))
  const inOrder = (at: number) =>
    waits[at]!.every(
      (needed) =>
        firstOf(at) === Infinity || sessionsOf[needed]!.length === 0 || firstOf(needed) < firstOf(at),
    )
  const ordered = (at: number) => inOrder(at) && follows[at]!.every(inOrder)
  const studies = (index: number, at: number) =>
    filled[index]?.topics.length === 1 && filled[index]!.topics[0] === at
  const clashes = (index: number) => {
    const at = filled[index]!.topics[0]!
    return studies(index - 1, at) || studies(index + 1, at)
  }
  const single = filled.flatMap((session, index) => (session.topics.length === 1 ? [index] : []))
  if (single.length < 2) return 0
  const random = randomFrom(input.seed)
  const trials = Math.min(mostTrials, trialsPerSession * single.length)
  let kept = 0
  const swap = (i: number, j: number) => {
    const a = filled[i]!
    const b = filled[j]!
    const [ta, tb] = [a.topics[0]!, b.topics[0]!]
    ;[a.topics, b.topics] = [b.topics, a.topics]
    ;[a.kind, b.kind] = [b.kind, a.kind]
    ;[a.figures, b.figures] = [b.figures, a.figures]
    const replace = (at: number, gone: number, come: number) => {
      const list = sessionsOf[at]!
      list.splice(list.indexOf(gone), 1)
      let where = list.length
      while (where > 0 && list[where - 1]! > come) where--
      list.splice(where, 0, come)
    }
    replace(ta, i, j)
    replace(tb, j, i)
  }
  for (let trial = 0; trial < trials; trial++) {
    const i = single[Math.floor(random() * single.length)]!
    const j = single[Math.floor(random() * single.length)]!
    const ta = filled[i]!.topics[0]!
    const tb = filled[j]!.topics[0]!
    if (ta === tb || Math.abs(filled[i]!.minutes - filled[j]!.minutes) > 5) continue
    const hadClash = Number(clashes(i)) + Number(clashes(j))
    swap(i, j)
    const hasClash = Number(clashes(i)) + Number(clashes(j))
    const [newA, newB] = hasClash <= hadClash ? [worth(ta), worth(tb)] : [0, 0]
    if (newA + newB > worths[ta]! + worths[tb]! + 1e-9 && ordered(ta) && ordered(tb)) {
      worths[ta] = newA
      worths[tb] = newB
      kept++
    } else swap(i, j)
  }
  return kept
}
