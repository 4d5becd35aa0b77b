import type { PlanSession } from '@climber/contract'
import { isActive, isWhole } from '../../sessions/session'
import { dayNumber, type DayNumber, minuteOf } from '../../time/day'
import { type Calendar, type Span, without } from '../calendar/calendar'
import { cutInto, shortestSession } from '../calendar/cut'
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
}

/** Minutes before a whole test that are kept clear. */
const quietBefore = 90

/** Spans without what lies right before a test. */
function beforeTests(spans: Span[], starts: readonly number[]): Span[] {
  return without(
    spans,
    starts.map((start) => ({ from: start - quietBefore, to: start })),
  )
}

/** What the slots of a plan are cut from and by. */
export interface SlotRules {
  sessionMinutes: number
  breakMinutes: number
  /** Minutes a day for the banks that ask for a daily number. */
  quotaMinutes?: number
  /** Minutes of the day at which whole tests start, by day. */
  testStarts?: ReadonlyMap<DayNumber, number[]>
  /** Days that are cut; all where absent. */
  wanted?: (day: DayNumber) => boolean
}

/** One day's free time cut into slots. */
function slotsOn(calendar: Calendar, day: DayNumber, stage: PlacedStage, rules: SlotRules): Slot[] {
  const { sessionMinutes, breakMinutes, quotaMinutes = 0, testStarts } = rules
  const { best } = calendar.availability
  const least = Math.min(shortestSession, sessionMinutes)
  const slots: Slot[] = []
  const free = () => beforeTests(calendar.free(day), testStarts?.get(day) ?? [])
  const take = (from: number, wanted: number, shortest: number, quota = false): boolean => {
    const room = Math.min(wanted, calendar.dayRoom(day), calendar.weekRoom(day))
    const minutes = Math.floor(room / 5) * 5
    if (minutes < shortest) return false
    calendar.take(day, from, minutes)
    slots.push({ day, from, minutes, stage, ...(quota && { quota }) })
    return true
  }
  const cut = (spans: Span[]) => {
    for (const { from, to } of spans) {
      let at = from
      for (const minutes of cutInto(to - from, sessionMinutes, breakMinutes, least)) {
        if (!take(at, minutes, least)) return
        at += minutes + breakMinutes
      }
    }
  }
  if (quotaMinutes) {
    // What is more than the questions take is for a look at them; on a day that holds no whole session they stand alone.
    const whole = free().find(({ from, to }) => to - from >= least)
    const shortest = Math.min(least, quotaMinutes)
    const small = calendar.taken(day) ? undefined : free().find(({ from, to }) => to - from >= shortest)
    if (whole) take(whole.from, Math.min(Math.max(least, quotaMinutes), whole.to - whole.from), least, true)
    else if (small) take(small.from, Math.min(quotaMinutes, small.to - small.from), shortest, true)
  }
  if (best) {
    const [from, to] = [minuteOf(best.from), minuteOf(best.to)]
    cut(free().map((span) => ({ from: Math.max(span.from, from), to: Math.min(span.to, to) })))
  }
  cut(free())
  return slots
}

/** Cuts the free time before the taper into sessions, week by week up to its slack; the best hours of a day first. */
export const studySlots = (calendar: Calendar, stages: PlacedStage[], rules: SlotRules): Slot[] =>
  calendar
    .days()
    .flatMap((day) => {
      const stage = stages.find(({ from, to }) => day >= from && day < to)
      return !stage || rules.wanted?.(day) === false ? [] : slotsOn(calendar, day, stage, rules)
    })
    .sort((a, b) => a.day - b.day || a.from - b.from)

/** The places of sessions as slots. */
export const slotsAt = (sessions: readonly PlanSession[], stages: PlacedStage[]): Slot[] =>
  sessions.flatMap(({ date, start, minutes }) => {
    const day = dayNumber(date)
    const stage = stages.find(({ from, to }) => day >= from && day < to)
    return stage ? [{ day, from: minuteOf(start), minutes, stage }] : []
  })

/** When the whole tests of a plan start, by day; half an hour of a section needs no quiet before it. */
export function testStartsOf(sessions: readonly PlanSession[]): Map<DayNumber, number[]> {
  const starts = new Map<DayNumber, number[]>()
  for (const session of sessions)
    if (isWhole(session) && isActive(session)) {
      const day = dayNumber(session.date)
      starts.set(day, [...(starts.get(day) ?? []), minuteOf(session.start)])
    }
  return starts
}
