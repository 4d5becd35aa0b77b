import type { PlanSession } from '@climber/contract'
import { type Memory, retention, touched } from '../../hours/retention'
import { dateOf, type DayNumber, timeOf } from '../../time/day'
import type { Calendar } from '../calendar/calendar'
import type { PlanInput } from '../input'
import { place } from './place'

const lightMinutes = 30
const warmMinutes = 15
const shortest = 10
const mostTopics = 3

/** Light work: cards and notes in the windows that take nothing else, and a quarter of an hour on idle days. */
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
  for (const day of calendar.days()) {
    if (day >= taper) break
    const fading = [...memory]
      .filter(([, { lastDay }]) => lastDay < day)
      .sort(([a, m], [b, n]) => retention(m, day) - retention(n, day) || a.localeCompare(b))
      .slice(0, mostTopics)
      .map(([id]) => id)
    const idle = Boolean(input.availability.keepWarm) && calendar.taken(day) === 0
    const passive = calendar.free(day, true).some(({ from, to }) => to - from >= shortest)
    const found = passive
      ? place(calendar, [day], lightMinutes, shortest, 'light')
      : idle
        ? place(calendar, [day], warmMinutes, shortest)
        : undefined
    if (found) {
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
