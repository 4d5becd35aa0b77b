import type { DayNumber } from '../../time/day'
import type { PlanInput } from '../input'
import { budgets, mustsOf } from './budgets'
import type { FixedStudy } from './fixed'
import { Knowing } from './knowing'

/** A rest of a budget smaller than this, in hours, is used up. */
const leastLeft = 0.05

/** Every topic on the way through the slots: what is known, budgeted and remembered of it by then. */
export class Progress extends Knowing {
  readonly left: number[]
  readonly budget: number[]
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
    super(topics)
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
    this.waits = topics.map((topic) => topic.prerequisites.flatMap((id) => place.get(id) ?? []))
    this.builds = topics.map(() => [])
    this.waits.forEach((needed, at) => needed.forEach((before) => this.builds[before]!.push(at)))
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
