import { type DayNumber, minuteOf } from '../../time/day'
import type { Calendar, Span } from '../calendar/calendar'
import type { PlacedStage } from '../phases'

/** A place for one study session. */
export interface Slot {
  day: DayNumber
  from: number
  minutes: number
  stage: PlacedStage
  /** Held for a bank's daily number of questions. */
  quota?: boolean
  /** The timed work of its week, since no test stands there. */
  timed?: boolean
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
