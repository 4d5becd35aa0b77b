import { retention } from '../../learner/retention'
import type { DayNumber } from '../../time/day'
import type { Progress } from './progress'

const mixedTopics = 4
/** A mixed set is of so many topics at least. */
const fewestMixed = 3
/** Known from here on, a topic counts as strong: it gets touches, so that it does not slip. */
const strongFrom = 0.7
/** Days after which a strong topic wants a touch. */
const idleDays = 10

/** A strong topic that was met and that nobody has touched for longest: it joins a mixed set. */
function upkeep(progress: Progress, day: DayNumber): number | undefined {
  const { topics } = progress.input
  const idle = topics.flatMap(({ known, value }, at) =>
    known >= strongFrom &&
    value > 0 &&
    !progress.hasBudget(at) &&
    progress.started[at] &&
    day - progress.lastDay(at) > idleDays
      ? [at]
      : [],
  )
  return idle.sort(
    (a, b) => progress.lastDay(a) - progress.lastDay(b) || topics[b]!.value - topics[a]!.value || a - b,
  )[0]
}

/** The topics of a mixed set on a day: what fades fastest of what was met before; undefined while those are too few. */
export function mixedSet(progress: Progress, day: DayNumber, fewest = fewestMixed): number[] | undefined {
  const { topics } = progress.input
  const warm = topics.flatMap((_, at) =>
    progress.lastDay(at) > -Infinity && progress.lastDay(at) < day ? [at] : [],
  )
  if (warm.length < fewest) return undefined
  const fades = new Map(
    warm.map((at) => {
      const memory = progress.memory[at]
      const lost = memory ? 1 - retention(memory, day + 3) : 0
      return [at, topics[at]!.value * progress.known[at]! * lost]
    }),
  )
  const set = warm.sort((a, b) => fades.get(b)! - fades.get(a)! || a - b).slice(0, mixedTopics)
  const strong = upkeep(progress, day)
  if (strong !== undefined && !set.includes(strong)) set[Math.min(set.length, mixedTopics - 1)] = strong
  return set
}

/** The topics of a set at exam pace: as of a mixed set, be it of one; on the first day of work those that were met before it that day. */
export function timedSet(progress: Progress, day: DayNumber): number[] | undefined {
  const set = mixedSet(progress, day, 1)
  if (set) return set
  const today = progress.input.topics.flatMap((_, at) => (progress.lastDay(at) === day ? [at] : []))
  return today.length ? today.slice(0, mixedTopics) : undefined
}
