import type { PlanSession } from '@climber/contract'
import { type Memory, retention, touched } from '../../learner/retention'
import { dateOf, dayNumber, type DayNumber, timeOf } from '../../time/day'
import type { Calendar } from '../calendar/calendar'
import type { PlanInput } from '../input'
import { place } from './place'

const lightMinutes = 30
const warmMinutes = 15
const shortest = 10
const mostTopics = 3

const step = 5

/**
 * How long cards are worked at. Where the queue is known: as long as what it brought since the last time takes, in steps of five minutes,
 * and not at all where that is less than is worth sitting down for, unless the day is there to keep warm. Else as long as is usual.
 */
function wantedMinutes(waiting: number | undefined, most: number, always: boolean): number | undefined {
  if (waiting === undefined) return most
  const wanted = Math.min(lightMinutes, step * Math.round(waiting / step))
  return wanted >= shortest ? wanted : always ? shortest : undefined
}

/**
 * Light work: cards and notes in the windows that take nothing else, and a little on idle days; as long as the queue of what must come back
 * from memory takes where there is one.
 */
export function lightWork(
  input: PlanInput,
  calendar: Calendar,
  study: { day: DayNumber; topics: string[] }[],
  taper: DayNumber,
  name: (key: string) => string,
): PlanSession[] {
  const memory = new Map<string, Memory>()
  const meet = (day: DayNumber, ids: string[]) =>
    ids.forEach((id) => memory.set(id, touched(memory.get(id), day)))
  for (const { id, touches } of input.topics) for (const day of touches) meet(day, [id])
  const byDay = new Map<DayNumber, string[]>()
  for (const { day, topics } of study) byDay.set(day, [...(byDay.get(day) ?? []), ...topics])
  const sessions: PlanSession[] = []
  /** Minutes that the queue brought since it was last worked at. */
  let waiting = input.recallMinutes === undefined ? undefined : 0
  const standing = new Map<DayNumber, number>()
  for (const { kind, date, minutes, status } of input.kept)
    if (kind === 'light' && status === 'planned')
      standing.set(dayNumber(date), (standing.get(dayNumber(date)) ?? 0) + minutes)
  for (const day of calendar.days()) {
    if (day >= taper) break
    if (waiting !== undefined) waiting += input.recallMinutes!
    const stands = standing.get(day)
    if (stands !== undefined) {
      if (waiting !== undefined) waiting = Math.max(0, waiting - stands)
      meet(day, byDay.get(day) ?? [])
      continue
    }
    const fading = [...memory]
      .filter(([, { lastDay }]) => lastDay < day)
      .sort(([a, m], [b, n]) => retention(m, day) - retention(n, day) || a.localeCompare(b))
      .slice(0, mostTopics)
      .map(([id]) => id)
    const idle = Boolean(input.availability.keepWarm) && calendar.taken(day) === 0
    const passive = calendar.free(day, true).some(({ from, to }) => to - from >= shortest)
    const wanted = wantedMinutes(waiting, passive ? lightMinutes : warmMinutes, !passive)
    const found =
      wanted !== undefined && (passive || idle)
        ? place(calendar, [day], wanted, shortest, passive ? 'light' : 'free')
        : undefined
    if (found) {
      if (waiting !== undefined) waiting = Math.max(0, waiting - found.minutes)
      sessions.push({
        id: name('light.cards'),
        date: dateOf(day),
        start: timeOf(found.from),
        minutes: found.minutes,
        kind: 'light',
        purpose: passive ? 'cards' : 'warm',
        topics: fading,
        pinned: false,
        status: 'planned',
      })
      meet(day, fading)
    }
    meet(day, byDay.get(day) ?? [])
  }
  return sessions
}
