import { knownAfter } from '../hours/allocate'
import { type Memory, retention, touched } from '../hours/retention'
import { type DayNumber, minuteOf, mondayOf } from '../time/day'
import type { Calendar, Span } from './calendar'
import type { PlanInput, PlanTopic } from './input'
import type { PlacedStage } from './phases'

/** A place for one study session. */
export interface Slot {
  day: DayNumber
  from: number
  minutes: number
  stage: PlacedStage
  /** Held for a bank's daily number of questions. */
  quota?: boolean
}

export type StudyKind = 'learn' | 'drill' | 'mixed'

/** A slot with what is studied in it: indices into the input's topics, one unless mixed. */
export interface Filled extends Slot {
  kind: StudyKind
  topics: number[]
  figures: {
    known: number
    yield: number
    daysSince: number
    kept: number
    /** The other topic with the best yield just then, and that yield. */
    instead?: { topic: number; yield: number }
  }
}

const shortestSlot = 20
const mixedTopics = 4
/** Knowledge from which a topic is drilled rather than learnt. */
const drillFrom = 0.6
/** A topic whose budget is smaller than this, in hours, is left out and its hours go to the others. */
const smallestBudget = 0.3

/**
 * Cuts the free time before the taper into sessions, week by week up to its slack; the best hours of a day first, and
 * `quotaMinutes` of each day for the banks that ask for a daily number.
 */
export function studySlots(
  calendar: Calendar,
  stages: PlacedStage[],
  sessionMinutes: number,
  quotaMinutes = 0,
  wanted: (day: DayNumber) => boolean = () => true,
): Slot[] {
  const slots: Slot[] = []
  const { best } = calendar.availability
  const [bestFrom, bestTo] = best ? [minuteOf(best.from), minuteOf(best.to)] : [0, 0]
  for (const day of calendar.days()) {
    const stage = stages.find(({ from, to }) => day >= from && day < to)
    if (!stage || !wanted(day)) continue
    let quota = quotaMinutes > 0
    for (;;) {
      const long = (spans: Span[]) => spans.find(({ from, to }) => to - from >= shortestSlot)
      const free = calendar.free(day)
      const span =
        (best &&
          !quota &&
          long(free.map(({ from, to }) => ({ from: Math.max(from, bestFrom), to: Math.min(to, bestTo) })))) ||
        long(free)
      if (!span) break
      const room = Math.min(
        span.to - span.from,
        quota ? quotaMinutes : sessionMinutes,
        calendar.dayRoom(day),
        calendar.weekRoom(day),
      )
      const minutes = Math.floor(room / 5) * 5
      if (minutes < (quota ? Math.min(shortestSlot, quotaMinutes) : shortestSlot)) break
      calendar.take(day, span.from, minutes)
      slots.push({ day, from: span.from, minutes, stage, ...(quota && { quota }) })
      quota = false
    }
  }
  return slots.sort((a, b) => a.day - b.day || a.from - b.from)
}

/** So many times the hours that the allocation gives it go to the section that is easiest to lift. */
const easiestWeight = 2.5

/** The section where an hour yields most: the easiest to lift. */
function easiestSection(topics: PlanTopic[]): string | undefined {
  const best = new Map<string, number>()
  for (const { section, value, known, tau } of topics)
    best.set(section, Math.max(best.get(section) ?? 0, (value * (1 - known)) / tau))
  return [...best].sort((a, b) => b[1] - a[1] || a[0].localeCompare(b[0]))[0]?.[0]
}

/**
 * Hours per topic: from the exact allocation, or as the chosen school shares them out (weakest first: by what is not
 * known; in book order: by length). Those too small for a session are shared out again.
 */
export function budgets(input: PlanInput, hours: number): number[] {
  const { order = 'yield' } = input.settings.schools ?? {}
  const easiest = order === 'easiest section' ? easiestSection(input.topics) : undefined
  const weights =
    order === 'weakest'
      ? input.topics.map(({ known, tau }) => (1 - known) * (1 - known) * tau)
      : order === 'book'
        ? input.topics.map(({ tau }) => tau)
        : undefined
  const exact = weights ? [] : input.split(hours)
  const total = weights?.reduce((a, b) => a + b, 0) ?? 0
  const split = weights
    ? weights.map((weight) => (total ? (weight * hours) / total : 0))
    : exact.map((own, at) => own * (easiest && input.topics[at]!.section === easiest ? easiestWeight : 1))
  const large = split.map((share) => (share >= smallestBudget ? share : 0))
  const sum = large.reduce((a, b) => a + b, 0)
  return sum > 0 ? large.map((share) => (share * hours) / sum) : split
}

/** Study that stands already: it is counted, and not changed. */
export interface FixedStudy {
  day: DayNumber
  from: number
  minutes: number
  topics: number[]
}

/** Days that chapters which overlap are kept apart. */
export const overlapDays = 4

/** For each topic, those that share a chapter of the shelf with it. */
export function overlaps(input: PlanInput, place: Map<string, number>): Set<number>[] {
  const shared = input.topics.map(() => new Set<number>())
  for (const { chapters = [] } of input.shelf)
    for (const chapter of chapters) {
      const here = chapter.topics.flatMap((id) => place.get(id) ?? [])
      for (const a of here) for (const b of here) if (a !== b) shared[a]!.add(b)
    }
  return shared
}

/** Known from here on, a topic counts as strong: it gets touches, so that it does not slip. */
const strongFrom = 0.7

/**
 * Topics into slots, in order of time: at each slot the topic with the best of yield now, spacing due and budget left,
 * never the one just studied; a mixed set of what fades fastest at the stage's rhythm.
 */
export function fillSlots(input: PlanInput, slots: Slot[], fixed: FixedStudy[] = []): Filled[] {
  const { topics } = input
  const { order = 'yield', subjects = 'mixed' } = input.settings.schools ?? {}
  const hours = [...slots, ...fixed].reduce((sum, { minutes }) => sum + minutes / 60, 0)
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

  const nextSlotIsFixed = (index: number): boolean => {
    const [one, other] = [standing[nextFixed], slots[index + 1]]
    return Boolean(one && (!other || one.day < other.day || (one.day === other.day && one.from < other.from)))
  }
  const bookWorth = (at: number) =>
    1 / (1 + topics.filter((_, other) => other < at && left[other]! > 0.05).length)
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
    for (const at of chosen) touch(at, slot.minutes / 60 / chosen.length, slot.day)
  }
  const touch = (at: number, share: number, day: DayNumber): void => {
    known[at] = knownAfter({ ...topics[at]!, known: known[at]! }, share)
    left[at]! -= share
    memory[at] = touched(memory[at], day)
    started[at] = true
  }

  const shared = overlaps(input, place)
  /** A strong topic that nobody has touched for longest: it joins a mixed set. */
  const upkeep = (day: DayNumber): number | undefined => {
    const idle = topics.flatMap(({ known: at0, value }, at) =>
      at0 >= strongFrom &&
      value > 0 &&
      left[at]! <= 0.05 &&
      !late(at) &&
      waits[at]!.every((needed) => started[needed]) &&
      day - (memory[at]?.lastDay ?? -Infinity) > 10
        ? [at]
        : [],
    )
    const since = (at: number) => memory[at]?.lastDay ?? -Infinity
    return idle.sort((a, b) => since(a) - since(b) || topics[b]!.value - topics[a]!.value || a - b)[0]
  }
  let week = { monday: -1, section: '' }
  /** Whole weeks on one section: the one whose share of the hours is furthest behind. */
  const sectionOf = (day: DayNumber): string => {
    if (week.monday !== mondayOf(day)) {
      const behind = new Map<string, number>()
      topics.forEach(({ section }, at) =>
        behind.set(section, (behind.get(section) ?? 0) + Math.max(0, left[at]!)),
      )
      const [first] = [...behind].sort((a, b) => b[1] - a[1] || a[0].localeCompare(b[0]))
      week = { monday: mondayOf(day), section: first?.[0] ?? '' }
    }
    return week.section
  }
  let nextFixed = 0
  const standing = [...fixed].sort((a, b) => a.day - b.day || a.from - b.from)
  const passFixed = (day: DayNumber, from: number): void => {
    for (; nextFixed < standing.length; nextFixed++) {
      const one = standing[nextFixed]!
      if (one.day > day || (one.day === day && one.from > from)) return
      for (const at of one.topics) touch(at, one.minutes / 60 / one.topics.length, one.day)
      last = one.topics.length === 1 ? one.topics[0] : undefined
    }
  }
  const fixedAfter = (): number | undefined =>
    standing[nextFixed]?.topics.length === 1 ? standing[nextFixed]!.topics[0] : undefined

  for (const [index, slot] of slots.entries()) {
    passFixed(slot.day, slot.from)
    sinceMixed++
    const warm =
      slot.quota || sinceMixed >= slot.stage.mixedEvery
        ? topics.flatMap((_, at) => (memory[at] && memory[at]!.lastDay < slot.day ? [at] : []))
        : []
    if (warm.length >= 3) {
      sinceMixed = 0
      last = undefined
      const fading = (at: number) =>
        topics[at]!.value * known[at]! * (1 - retention(memory[at]!, slot.day + 3))
      const fades = new Map(warm.map((at) => [at, fading(at)]))
      const set = warm.sort((a, b) => fades.get(b)! - fades.get(a)! || a - b).slice(0, mixedTopics)
      const strong = upkeep(slot.day)
      if (strong !== undefined && !set.includes(strong)) set[Math.min(set.length, mixedTopics - 1)] = strong
      study(slot, 'mixed', set)
      continue
    }
    const score = (at: number): number => {
      const before = memory[at]
      const days = before ? slot.day - before.lastDay : Infinity
      const ideal = before ? Math.max(2, before.stability * 0.4) : 1
      const spacing = days < 1 ? 0.1 : Math.min(1.3, 0.4 + (0.6 * days) / ideal)
      const behind = budget[at]! > 0 ? Math.max(0, left[at]!) / budget[at]! : 0
      const worth =
        order === 'weakest'
          ? 1 - known[at]!
          : order === 'book'
            ? bookWorth(at)
            : Math.sqrt(Math.max(1e-9, yieldNow(at)))
      const elsewhere =
        subjects === 'a section a week' && topics[at]!.section !== sectionOf(slot.day) ? 0.02 : 1
      const near =
        shared[at]!.size &&
        [...shared[at]!].some((other) => slot.day - (memory[other]?.lastDay ?? -Infinity) < overlapDays)
          ? 0.25
          : 1
      return worth * spacing * (0.15 + behind) * elsewhere * near
    }
    const next = nextSlotIsFixed(index) ? fixedAfter() : undefined
    const pick = (fits: (at: number) => boolean): number | undefined => {
      let best: number | undefined
      let most = -1
      for (let at = 0; at < topics.length; at++) {
        if (!fits(at)) continue
        const own = score(at)
        if (own > most) [best, most] = [at, own]
      }
      return best
    }
    const best =
      pick((at) => left[at]! > 0.05 && at !== last && at !== next && !blocked(at) && !late(at)) ??
      pick((at) => at !== last && !blocked(at) && !late(at)) ??
      pick((at) => !blocked(at) && !late(at))
    if (best === undefined) continue
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

/** Works the kind and the figures of each session out again, after topics have changed places. */
export function retell(input: PlanInput, filled: Filled[]): void {
  const { topics } = input
  const known = topics.map((topic) => topic.known)
  const memory = topics.map((topic) => topic.touches.reduce<Memory | undefined>(touched, undefined))
  const started = topics.map((topic) => topic.touches.length > 0)
  for (const session of filled) {
    const lead = session.topics[0]!
    const before = memory[lead]
    if (session.kind !== 'mixed') session.kind = studyKind(topics[lead]!, known[lead]!, started[lead]!)
    const yields = topics.map((one, at) => (one.value * (1 - known[at]!)) / one.tau)
    const other = yields.reduce<number | undefined>(
      (most, own, at) =>
        !session.topics.includes(at) && (most === undefined || own > yields[most]!) ? at : most,
      undefined,
    )
    session.figures = {
      ...(other !== undefined && { instead: { topic: other, yield: yields[other]! } }),
      known: known[lead]!,
      yield: yields[lead]!,
      daysSince: before ? session.day - before.lastDay : -1,
      kept: before ? retention(before, session.day) : 1,
    }
    for (const at of session.topics) {
      known[at] = knownAfter(
        { ...topics[at]!, known: known[at]! },
        session.minutes / 60 / session.topics.length,
      )
      memory[at] = touched(memory[at], session.day)
      started[at] = true
    }
  }
}
