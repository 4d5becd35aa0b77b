import type { PlanSession } from '@climber/contract'
import { knownAfter } from '../../hours/allocate'
import { type Memory, retention, touched } from '../../learner/retention'
import { topicsOf } from '../../sessions/session'
import { chosenWays } from '../../sessions/ways'
import { dayNumber, type DayNumber, minuteOf, mondayOf } from '../../time/day'
import type { PlanInput } from '../input'
import { budgets, mustsOf } from './budgets'
import { overlapDays, overlaps } from './overlaps'
import { studyKind } from './retell'
import type { Filled, Slot, StudyKind } from './slots'

const mixedTopics = 4
/** A mixed set is of so many topics at least. */
const fewestMixed = 3
/** Known from here on, a topic counts as strong: it gets touches, so that it does not slip. */
const strongFrom = 0.7
/** Days after which a strong topic wants a touch. */
const idleDays = 10
/** A rest of a budget smaller than this, in hours, is used up. */
const leastLeft = 0.05

/** Study that stands already: it is counted, and not changed. */
export interface FixedStudy {
  day: DayNumber
  from: number
  minutes: number
  topics: number[]
}

/** Sessions as study that stands already. */
export function fixedOf(
  { topics }: Pick<PlanInput, 'topics'>,
  sessions: readonly PlanSession[],
): FixedStudy[] {
  const place = new Map(topics.map(({ id }, at) => [id, at]))
  return sessions.map((session) => ({
    day: dayNumber(session.date),
    from: minuteOf(session.start),
    minutes: session.minutes,
    topics: topicsOf(session).flatMap((id) => place.get(id) ?? []),
  }))
}

/** Every topic on the way through the slots: what is known, budgeted and remembered of it by then. */
class Progress {
  readonly left: number[]
  readonly budget: number[]
  readonly known: number[]
  readonly memory: (Memory | undefined)[]
  readonly started: boolean[]
  private readonly waits: number[][]
  private readonly builds: number[][]
  private readonly musts: number[]

  constructor(
    readonly input: PlanInput,
    place: Map<string, number>,
    hours: number,
  ) {
    const { topics } = input
    this.left = budgets(input, hours)
    this.musts = mustsOf(input)
    this.budget = [...this.left]
    this.known = topics.map((topic) => topic.known)
    this.memory = topics.map((topic) => topic.touches.reduce<Memory | undefined>(touched, undefined))
    this.started = topics.map((topic) => topic.touches.length > 0)
    this.waits = topics.map((topic) => topic.prerequisites.flatMap((id) => place.get(id) ?? []))
    this.builds = topics.map(() => [])
    this.waits.forEach((needed, at) => needed.forEach((before) => this.builds[before]!.push(at)))
  }

  touch(at: number, share: number, day: DayNumber): void {
    this.known[at] = knownAfter({ ...this.input.topics[at]!, known: this.known[at]! }, share)
    this.left[at]! -= share
    this.memory[at] = touched(this.memory[at], day)
    this.started[at] = true
  }
  lastDay(at: number): DayNumber {
    return this.memory[at]?.lastDay ?? -Infinity
  }
  yieldNow(at: number): number {
    const { value, tau } = this.input.topics[at]!
    return (value * (1 - this.known[at]!)) / tau
  }
  /** Something it builds on has hours to come and was not begun. */
  blocked(at: number): boolean {
    return this.waits[at]!.some((needed) => !this.started[needed] && this.left[needed]! > 0)
  }
  /** Begun after something that builds on it: too late to be in order. */
  late(at: number): boolean {
    return !this.started[at] && this.builds[at]!.some((later) => this.started[later])
  }
  /** Topics that no plan leaves out and that were not begun. */
  owing(): number[] {
    return this.musts.filter((at) => !this.started[at])
  }
  hasBudget(at: number): boolean {
    return this.left[at]! > leastLeft
  }
}

/** Whole weeks on one section: the one whose share of the hours is furthest behind. */
class SectionWeeks {
  private week = { monday: -1, section: '' }
  constructor(private readonly progress: Progress) {}

  on(day: DayNumber): string {
    const { progress } = this
    if (this.week.monday !== mondayOf(day)) {
      const behind = new Map<string, number>()
      progress.input.topics.forEach(({ section }, at) =>
        behind.set(section, (behind.get(section) ?? 0) + Math.max(0, progress.left[at]!)),
      )
      const [first] = [...behind].sort((a, b) => b[1] - a[1] || a[0].localeCompare(b[0]))
      this.week = { monday: mondayOf(day), section: first?.[0] ?? '' }
    }
    return this.week.section
  }
}

/** How much a topic is wanted in a slot: its worth now, spacing due, budget left, what overlaps it kept apart. */
class Wanting {
  private readonly shared: Set<number>[]
  private readonly choices: ReturnType<typeof chosenWays>
  private readonly weeks: SectionWeeks

  constructor(
    private readonly progress: Progress,
    place: Map<string, number>,
  ) {
    this.shared = overlaps(progress.input, place)
    this.choices = chosenWays(progress.input.settings)
    this.weeks = new SectionWeeks(progress)
  }

  private worth(at: number): number {
    const { progress } = this
    if (this.choices.order === 'weakest') return 1 - progress.known[at]!
    if (this.choices.order === 'book')
      return (
        1 / (1 + progress.input.topics.filter((_, other) => other < at && progress.hasBudget(other)).length)
      )
    return Math.sqrt(Math.max(1e-9, progress.yieldNow(at)))
  }

  score(at: number, day: DayNumber): number {
    const { progress } = this
    const before = progress.memory[at]
    const days = before ? day - before.lastDay : Infinity
    const ideal = before ? Math.max(2, before.stability * 0.4) : 1
    const spacing = days < 1 ? 0.1 : Math.min(1.3, 0.4 + (0.6 * days) / ideal)
    const budget = progress.budget[at]!
    const behind = budget > 0 ? Math.max(0, progress.left[at]!) / budget : 0
    const elsewhere =
      this.choices.subjects === 'a section a week' &&
      progress.input.topics[at]!.section !== this.weeks.on(day)
        ? 0.02
        : 1
    const shared = this.shared[at]!
    const near =
      shared.size && [...shared].some((other) => day - progress.lastDay(other) < overlapDays) ? 0.25 : 1
    return this.worth(at) * spacing * (0.15 + behind) * elsewhere * near
  }

  /** The topic that is wanted most among those that fit; undefined where none does. */
  best(day: DayNumber, fits: (at: number) => boolean): number | undefined {
    let best: number | undefined
    let most = -1
    for (let at = 0; at < this.progress.input.topics.length; at++) {
      if (!fits(at)) continue
      const own = this.score(at, day)
      if (own > most) [best, most] = [at, own]
    }
    return best
  }
}

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
function mixedSet(progress: Progress, day: DayNumber, fewest = fewestMixed): number[] | undefined {
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

/** Study that stands already, passed by in order of time. */
class Standing {
  private readonly list: FixedStudy[]
  private next = 0
  constructor(fixed: FixedStudy[]) {
    this.list = [...fixed].sort((a, b) => a.day - b.day || a.from - b.from)
  }
  /** What stands up to a moment and was not passed yet. */
  upTo({ day, from }: Slot): FixedStudy[] {
    const passed: FixedStudy[] = []
    for (let one = this.list[this.next]; one; one = this.list[++this.next]) {
      if (one.day > day || (one.day === day && one.from > from)) break
      passed.push(one)
    }
    return passed
  }
  /** The one topic of what stands next, where it comes before the slot `after`. */
  topicBefore(after: Slot | undefined): number | undefined {
    const one = this.list[this.next]
    const comes = one && (!after || one.day < after.day || (one.day === after.day && one.from < after.from))
    return comes && one.topics.length === 1 ? one.topics[0] : undefined
  }
}

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
  const hours = [...slots, ...fixed].reduce((sum, { minutes }) => sum + minutes / 60, 0)
  const progress = new Progress(input, place, hours)
  const wanting = new Wanting(progress, place)
  const standing = new Standing(fixed)
  const filled: Filled[] = []
  const single = topicsAhead(slots)
  let last: number | undefined
  let sinceMixed = 0

  const study = (slot: Slot, kind: StudyKind, chosen: number[]): void => {
    const lead = chosen[0]!
    const before = progress.memory[lead]
    filled.push({
      ...slot,
      kind,
      topics: chosen,
      figures: {
        known: progress.known[lead]!,
        yield: progress.yieldNow(lead),
        daysSince: before ? slot.day - before.lastDay : -1,
        kept: before ? retention(before, slot.day) : 1,
      },
    })
    for (const at of chosen) progress.touch(at, slot.minutes / 60 / chosen.length, slot.day)
  }

  for (const [index, slot] of slots.entries()) {
    for (const one of standing.upTo(slot)) {
      for (const at of one.topics) progress.touch(at, one.minutes / 60 / one.topics.length, one.day)
      last = one.topics.length === 1 ? one.topics[0] : undefined
    }
    sinceMixed++
    const due = slot.quota || slot.timed || sinceMixed >= slot.stage.mixedEvery
    const set = due ? mixedSet(progress, slot.day, slot.timed ? 1 : undefined) : undefined
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
    study(slot, studyKind(topics[best]!, progress.known[best]!, progress.started[best]!), [best])
    last = best
  }
  return filled
}
