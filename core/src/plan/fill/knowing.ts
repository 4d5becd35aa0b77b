import { knownAfter } from '../../hours/allocate'
import { type Memory, retention, touched } from '../../learner/retention'
import type { DayNumber } from '../../time/day'
import type { PlanTopic } from '../input'

/** What is known and remembered of every topic on the way through a plan, in order of time. */
export class Knowing {
  readonly known: number[]
  readonly memory: (Memory | undefined)[]
  readonly started: boolean[]

  constructor(readonly topics: readonly PlanTopic[]) {
    this.known = topics.map((topic) => topic.known)
    this.memory = topics.map((topic) => topic.touches.reduce<Memory | undefined>(touched, undefined))
    this.started = topics.map((topic) => topic.touches.length > 0)
  }

  /** So many hours on a topic on a day. */
  meet(at: number, hours: number, day: DayNumber): void {
    this.known[at] = knownAfter({ ...this.topics[at]!, known: this.known[at]! }, hours)
    this.memory[at] = touched(this.memory[at], day)
    this.started[at] = true
  }
  /** Points that an hour on a topic brings now. */
  yieldNow(at: number): number {
    const { value, tau } = this.topics[at]!
    return (value * (1 - this.known[at]!)) / tau
  }
  lastDay(at: number): DayNumber {
    return this.memory[at]?.lastDay ?? -Infinity
  }
  /** Share of what was new of a topic that is still at hand on a day. */
  kept(at: number, day: DayNumber): number {
    const memory = this.memory[at]
    return memory ? retention(memory, day) : 1
  }
}
