import type { PlanSession } from '@climber/contract'
import { startOf, topicsOf } from '../../sessions/session'
import type { PlanInput } from '../input'

/** Which topic must wait for which: an order is broken where one is begun before what it builds on. */
export class TopicOrder {
  private readonly needs: Map<string, string[]>
  private readonly builds = new Map<string, string[]>()
  private readonly begun: Set<string>

  constructor(topics: PlanInput['topics']) {
    this.needs = new Map(topics.map(({ id, prerequisites }) => [id, prerequisites]))
    this.begun = new Set(topics.flatMap(({ id, touches }) => (touches.length ? [id] : [])))
    for (const { id, prerequisites } of topics)
      for (const before of prerequisites) this.builds.set(before, [...(this.builds.get(before) ?? []), id])
  }

  /** When each topic is first met, in minutes, by the sessions given. */
  static firsts(sessions: PlanSession[]): Map<string, number> {
    const first = new Map<string, number>()
    for (const session of sessions)
      for (const topic of topicsOf(session))
        first.set(topic, Math.min(first.get(topic) ?? Infinity, startOf(session)))
    return first
  }

  /** The pair [topic, what it builds on] out of order once `topics` are met at `minute`; undefined where all is well. */
  broken(topics: string[], minute: number, first: Map<string, number>): [string, string] | undefined {
    for (const topic of topics) {
      if (this.begun.has(topic)) continue
      const own = Math.min(minute, first.get(topic) ?? Infinity)
      for (const before of this.needs.get(topic) ?? []) {
        const there = Math.min(first.get(before) ?? Infinity, topics.includes(before) ? minute : Infinity)
        if (!this.begun.has(before) && there !== Infinity && there >= own) return [topic, before]
      }
      for (const later of this.builds.get(topic) ?? []) {
        const there = first.get(later)
        if (!this.begun.has(later) && there !== undefined && !topics.includes(later) && there <= own)
          return [later, topic]
      }
    }
    return undefined
  }

  /** All pairs out of order. */
  faults(first: Map<string, number>): [string, string][] {
    return [...first].flatMap(([topic, own]) =>
      this.begun.has(topic)
        ? []
        : (this.needs.get(topic) ?? [])
            .filter((before) => !this.begun.has(before) && (first.get(before) ?? -Infinity) >= own)
            .map((before): [string, string] => [topic, before]),
    )
  }
}
