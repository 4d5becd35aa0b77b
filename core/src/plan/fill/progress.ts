import { knownAfter } from '../../hours/allocate'
import { type Memory, retention, touched } from '../../learner/retention'
import type { DayNumber } from '../../time/day'
import type { PlanInput } from '../input'
import { budgets, mustsOf } from './budgets'
import type { FixedStudy } from './fixed'

/** A rest of a budget smaller than this, in hours, is used up. */
const leastLeft = 0.05

/** Every topic on the way through the slots: what is known, budgeted and remembered of it by then. */
export class Progress {
  readonly left: number[]
  readonly budget: number[]
  readonly known: number[]
  readonly memory: (Memory | undefined)[]
  readonly started: boolean[]
  /** Sessions that stand already and were not come to yet, by topic. */
  private readonly standing: number[]
  private readonly waits: number[][]
  private readonly builds: number[][]
  private readonly musts: number[]

  /** `hours` of slots are to be filled beside what stands already. */
  constructor(
    readonly input: PlanInput,
    place: Map<string, number>,
    hours: number,
    fixed: FixedStudy[] = [],
  ) {
    const { topics } = input
    const given = topics.map(() => 0)
    this.standing = topics.map(() => 0)
    for (const one of fixed)
      for (const at of one.topics) {
        given[at]! += one.minutes / 60 / one.topics.length
        this.standing[at]!++
      }
    this.budget = budgets(input, hours + given.reduce((sum, own) => sum + own, 0))
    this.left = this.budget.map((own, at) => own - given[at]!)
    this.musts = mustsOf(input)
    this.known = topics.map((topic) => topic.known)
    this.memory = topics.map((topic) => topic.touches.reduce<Memory | undefined>(touched, undefined))
    this.started = topics.map((topic) => topic.touches.length > 0)
    this.waits = topics.map((topic) => topic.prerequisites.flatMap((id) => place.get(id) ?? []))
    this.builds = topics.map(() => [])
    this.waits.forEach((needed, at) => needed.forEach((before) => this.builds[before]!.push(at)))
  }

  private meet(at: number, share: number, day: DayNumber): void {
    this.known[at] = knownAfter({ ...this.input.topics[at]!, known: this.known[at]! }, share)
    this.memory[at] = touched(this.memory[at], day)
    this.started[at] = true
  }
  /** A slot was given so many hours of a topic. */
  touch(at: number, share: number, day: DayNumber): void {
    this.left[at]! -= share
    this.meet(at, share, day)
  }
  /** Goes past what stands already. */
  pass({ topics, minutes, day }: FixedStudy): void {
    for (const at of topics) {
      this.standing[at]!--
      this.meet(at, minutes / 60 / topics.length, day)
    }
  }
  lastDay(at: number): DayNumber {
    return this.memory[at]?.lastDay ?? -Infinity
  }
  /** What is told of a topic as a session on it begins. */
  figures(at: number, day: DayNumber): { known: number; yield: number; daysSince?: number; kept: number } {
    const before = this.memory[at]
    return {
      known: this.known[at]!,
      yield: this.yieldNow(at),
      ...(before && { daysSince: day - before.lastDay }),
      kept: before ? retention(before, day) : 1,
    }
  }
  yieldNow(at: number): number {
    const { value, tau } = this.input.topics[at]!
    return (value * (1 - this.known[at]!)) / tau
  }
  /** Something it builds on has hours to come and was not begun. */
  blocked(at: number): boolean {
    return this.waits[at]!.some(
      (needed) => !this.started[needed] && (this.left[needed]! > 0 || this.standing[needed]! > 0),
    )
  }
  /** Begun after something that builds on it: too late to be in order. */
  late(at: number): boolean {
    return !this.started[at] && this.builds[at]!.some((later) => this.started[later])
  }
  /** Topics that no plan leaves out and that were not begun. */
  owing(): number[] {
    return this.musts.filter((at) => !this.started[at] && !this.standing[at])
  }
  hasBudget(at: number): boolean {
    return this.left[at]! > leastLeft
  }
}
