import { knownAfter } from '../hours/allocate'
import { type Memory, retention, touched } from '../hours/retention'
import type { DayNumber } from '../time/day'
import type { Calendar } from './calendar'
import type { PlanInput, PlanTopic } from './input'
import type { PlacedStage } from './phases'

/** A place for one study session. */
export interface Slot {
  day: DayNumber
  from: number
  minutes: number
  stage: PlacedStage
}

export type StudyKind = 'learn' | 'drill' | 'mixed'

/** A slot with what is studied in it: indices into the input's topics, one unless mixed. */
export interface Filled extends Slot {
  kind: StudyKind
  topics: number[]
  figures: { known: number; yield: number; daysSince: number; kept: number }
}

const shortestSlot = 20
const mixedTopics = 4
/** Knowledge from which a topic is drilled rather than learnt. */
const drillFrom = 0.6
/** A topic whose budget is smaller than this, in hours, is left out and its hours go to the others. */
const smallestBudget = 0.3

/** Cuts the free time before the taper into sessions, week by week up to its slack. */
export function studySlots(calendar: Calendar, stages: PlacedStage[], sessionMinutes: number): Slot[] {
  const slots: Slot[] = []
  for (const day of calendar.days()) {
    const stage = stages.find(({ from, to }) => day >= from && day < to)
    if (!stage) continue
    for (;;) {
      const span = calendar.free(day).find(({ from, to }) => to - from >= shortestSlot)
      if (!span) break
      const room = Math.min(
        span.to - span.from,
        sessionMinutes,
        calendar.dayRoom(day),
        calendar.weekRoom(day),
      )
      const minutes = Math.floor(room / 5) * 5
      if (minutes < shortestSlot) break
      calendar.take(day, span.from, minutes)
      slots.push({ day, from: span.from, minutes, stage })
    }
  }
  return slots.sort((a, b) => a.day - b.day || a.from - b.from)
}

/** Hours per topic from the exact allocation, those too small for a session shared out again. */
export function budgets(input: PlanInput, hours: number): number[] {
  const split = input.split(hours)
  const large = split.map((share) => (share >= smallestBudget ? share : 0))
  const sum = large.reduce((a, b) => a + b, 0)
  return sum > 0 ? large.map((share) => (share * hours) / sum) : split
}

/**
 * Topics into slots, in order of time: at each slot the topic with the best of yield now, spacing due and budget left,
 * never the one just studied; a mixed set of what fades fastest at the stage's rhythm.
 */
export function fillSlots(input: PlanInput, slots: Slot[]): Filled[] {
  const { topics } = input
  const hours = slots.reduce((sum, { minutes }) => sum + minutes / 60, 0)
  const left = budgets(input, hours)
  const budget = [...left]
  const place = new Map(topics.map(({ id }, at) => [id, at]))
  const known = topics.map((topic) => topic.known)
  const memory: (Memory | undefined)[] = topics.map((topic) =>
    topic.touches.reduce<Memory | undefined>(touched, undefined),
  )
  const started = topics.map((topic) => topic.touches.length > 0)
  const waits = topics.map((topic) =>
    topic.prerequisites.map((id) => place.get(id)).filter((at) => at !== undefined),
  )
  const blocked = (at: number) => waits[at]!.some((needed) => !started[needed] && left[needed]! > 0)
  /** Begun after something that builds on it: too late to be in order. */
  const late = (at: number) => !started[at] && builds[at]!.some((later) => started[later])
  const builds: number[][] = topics.map(() => [])
  waits.forEach((needed, at) => needed.forEach((before) => builds[before]!.push(at)))
  const filled: Filled[] = []
  let last: number | undefined
  let sinceMixed = 0

  const yieldNow = (at: number) => (topics[at]!.value * (1 - known[at]!)) / topics[at]!.tau
  const study = (slot: Slot, kind: StudyKind, chosen: number[]): void => {
    const lead = chosen[0]!
    const before = memory[lead]
    filled.push({
      ...slot,
      kind,
      topics: chosen,
      figures: {
        known: known[lead]!,
        yield: yieldNow(lead),
        daysSince: before ? slot.day - before.lastDay : -1,
        kept: before ? retention(before, slot.day) : 1,
      },
    })
    for (const at of chosen) {
      const share = slot.minutes / 60 / chosen.length
      known[at] = knownAfter({ ...topics[at]!, known: known[at]! }, share)
      left[at]! -= share
      memory[at] = touched(memory[at], slot.day)
      started[at] = true
    }
  }

  for (const slot of slots) {
    const warm = topics.flatMap((_, at) => (memory[at] && memory[at]!.lastDay < slot.day ? [at] : []))
    sinceMixed++
    if (sinceMixed >= slot.stage.mixedEvery && warm.length >= 3) {
      sinceMixed = 0
      last = undefined
      const fading = (at: number) =>
        topics[at]!.value * known[at]! * (1 - retention(memory[at]!, slot.day + 3))
      study(slot, 'mixed', [...warm].sort((a, b) => fading(b) - fading(a) || a - b).slice(0, mixedTopics))
      continue
    }
    const score = (at: number): number => {
      const before = memory[at]
      const days = before ? slot.day - before.lastDay : Infinity
      const ideal = before ? Math.max(2, before.stability * 0.4) : 1
      const spacing = days < 1 ? 0.1 : Math.min(1.3, 0.4 + (0.6 * days) / ideal)
      const behind = budget[at]! > 0 ? Math.max(0, left[at]!) / budget[at]! : 0
      return Math.sqrt(Math.max(1e-9, yieldNow(at))) * spacing * (0.15 + behind)
    }
    let open = topics.flatMap((_, at) => (at !== last && !blocked(at) && left[at]! > 0.05 ? [at] : []))
    if (!open.length) open = topics.flatMap((_, at) => (at !== last && !blocked(at) && !late(at) ? [at] : []))
    if (!open.length) open = topics.flatMap((_, at) => (blocked(at) || late(at) ? [] : [at]))
    if (!open.length) continue
    const best = open.reduce((a, b) => (score(b) > score(a) ? b : a), open[0]!)
    study(slot, studyKind(topics[best]!, known[best]!, started[best]!), [best])
    last = best
  }
  return filled
}

const studyKind = (topic: PlanTopic, known: number, started: boolean): StudyKind =>
  !started && topic.known < drillFrom
    ? 'learn'
    : known < drillFrom && known - topic.known < 0.15
      ? 'learn'
      : 'drill'
