import type { ExamFormat, PlanSession, StudySession } from '@climber/contract'
import { secondsOfSet } from '../../exam/set'
import { isActive, isTimed } from '../../sessions/session'
import { dayNumber, type DayNumber, mondayOf } from '../../time/day'
import type { Slot } from './slots'

/** Items of a set at exam pace, where the session has the time. */
const fewestItems = 15
const mostItems = 20
/** The share of a session that a set takes, the rest being for a look at each item; a set of fewest items may take more. */
const usualShare = 0.6
const largestShare = 0.8
const shortest = 25

/**
 * Marks the slots that hold the timed work of their week: one in each full week, Monday to Sunday, that nothing timed stands in; the last that is
 * long enough, so that the topics of the week are in it.
 */
export function withTimed(
  slots: Slot[],
  standing: PlanSession[],
  first: DayNumber,
  taper: DayNumber,
): Slot[] {
  const tested = new Set(
    standing
      .filter((session) => isTimed(session) && isActive(session))
      .map(({ date }) => mondayOf(dayNumber(date))),
  )
  const last = new Map<DayNumber, number>()
  slots.forEach(({ day, minutes, quota }, at) => {
    const monday = mondayOf(day)
    if (!quota && minutes >= shortest && monday >= first && monday + 7 <= taper && !tested.has(monday))
      last.set(monday, at)
  })
  const chosen = new Set(last.values())
  return slots.map((slot, at) => (chosen.has(at) ? { ...slot, timed: true } : slot))
}

/** So many items of some topics in so many seconds at the pace of the exam, as a session of some minutes has room for. */
export function setIn(
  exam: ExamFormat,
  topics: string[],
  minutes: number,
  timeFactor: number,
): StudySession['timed'] {
  const seconds = (items: number) => secondsOfSet(exam, { items, topics }, timeFactor)
  const room = (share: number) => share * minutes * 60
  const most = (from: number, share: number): number => {
    let items = from
    while (items > 1 && seconds(items) > room(share)) items--
    return items
  }
  const items = Math.max(most(mostItems, usualShare), most(fewestItems, largestShare))
  return topics.length ? { items, seconds: seconds(items) } : undefined
}
