import type { PlanSession } from '@climber/contract'
import { topicsOf } from '../../sessions/session'
import { dayNumber, type DayNumber, minuteOf } from '../../time/day'
import type { PlanInput } from '../input'
import type { Slot } from './slots'

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

/** Study that stands already, passed by in order of time. */
export class Standing {
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
