import type { PlanInput } from '../input'
import { type FixedStudy, Standing } from './fixed'
import { mixedSet, timedSet } from './mixed'
import { Progress } from './progress'
import { studyKind } from './retell'
import type { Filled, Slot, StudyKind } from './slots'
import { Wanting } from './wanting'

/** How many slots from each on, it included, will hold one topic, at least. */
function topicsAhead(slots: Slot[]): Map<number, number> {
  const ahead = new Map<number, number>()
  let count = 0
  for (let index = slots.length - 1; index >= 0; index--) {
    const { quota, timed, stage } = slots[index]!
    count += quota || timed ? 0 : 1 - 1 / stage.mixedEvery
    ahead.set(index, count)
  }
  return ahead
}

/**
 * Topics into slots, in order of time: at each slot the topic with the best of yield now, spacing due and budget left,
 * never the one just studied; a mixed set of what fades fastest at the stage's rhythm.
 */
export function fillSlots(input: PlanInput, slots: Slot[], fixed: FixedStudy[] = []): Filled[] {
  const { topics } = input
  const place = new Map(topics.map(({ id }, at) => [id, at]))
  const hours = slots.reduce((sum, { minutes }) => sum + minutes / 60, 0)
  const progress = new Progress(input, place, hours, fixed)
  const wanting = new Wanting(progress, place)
  const standing = new Standing(fixed)
  const filled: Filled[] = []
  const single = topicsAhead(slots)
  let last: number | undefined
  let sinceMixed = 0

  const study = (slot: Slot, kind: StudyKind, chosen: number[]): void => {
    filled.push({ ...slot, kind, topics: chosen })
    for (const at of chosen) progress.touch(at, slot.minutes / 60 / chosen.length, slot.day)
  }

  for (const [index, slot] of slots.entries()) {
    for (const one of standing.upTo(slot)) {
      progress.pass(one)
      last = one.topics.length === 1 ? one.topics[0] : undefined
    }
    sinceMixed++
    const due = slot.quota || slot.timed || sinceMixed >= slot.stage.mixedEvery
    const set = !due ? undefined : slot.timed ? timedSet(progress, slot.day) : mixedSet(progress, slot.day)
    if (set) {
      sinceMixed = 0
      last = undefined
      study(slot, set.length > 1 ? 'mixed' : 'drill', set)
      continue
    }
    const owing = progress.owing()
    const isOwing = owing.length && owing.length >= single.get(index)!
    const next = standing.topicBefore(slots[index + 1])
    const inOrder = (at: number) => !progress.blocked(at) && !progress.late(at)
    const best =
      (isOwing
        ? wanting.best(slot.day, (at) => owing.includes(at) && at !== last && inOrder(at))
        : undefined) ??
      wanting.best(slot.day, (at) => progress.hasBudget(at) && at !== last && at !== next && inOrder(at)) ??
      wanting.best(slot.day, (at) => at !== last && inOrder(at)) ??
      wanting.best(slot.day, inOrder)
    if (best === undefined) continue
    // Where nothing was met yet, nothing can be timed.
    const { timed: _, ...plain } = slot
    study(plain, studyKind(topics[best]!, progress.known[best]!, progress.started[best]!), [best])
    last = best
  }
  return filled
}
