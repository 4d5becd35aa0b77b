import type { PlanNotice, PlanSession, SessionOf } from '@climber/contract'
import { chosenWays } from '../../sessions/ways'
import { dateOf, dayNumber, type DayNumber, timeOf } from '../../time/day'
import type { Calendar } from '../calendar/calendar'
import type { PlanInput } from '../input'
import { place } from './place'

/** From so many minutes on the way is a journey that wants booking, in the days between these before the exam where there are so many. */
const journeyFrom = 60
const bookedBetween = [28, 5] as const
/** The kit is packed on the eve, or on one of so many days before where the eve has no free time. */
const kitWithin = 4

interface Errand {
  /** What its id begins with. */
  key: string
  purpose:
    | { kind: 'light'; purpose: NonNullable<SessionOf<'light'>['purpose']> }
    | { kind: 'errand'; purpose: NonNullable<SessionOf<'errand'>['purpose']> }
  minutes: number
  least: number
  /** Days on which it may stand, the wished one first. */
  days: DayNumber[]
  /** Said where no day holds it. */
  missed?: string
}

/** Registration, the journey and a visit to the place. */
function outings(input: PlanInput, days: DayNumber[], first: DayNumber, exam: DayNumber): Errand[] {
  const { sitting, settings, travelMinutes } = input
  const between = (from: DayNumber, to: DayNumber) => days.filter((day) => day >= from && day <= to)
  const deadline = sitting.registerBy === undefined ? undefined : dayNumber(sitting.registerBy)
  const wanted: Errand[] = []
  if (deadline !== undefined && deadline >= first)
    wanted.push({
      key: 'errand.register',
      purpose: { kind: 'errand', purpose: 'register' },
      minutes: 15,
      least: 10,
      days: [...between(first + 1, deadline - 2), ...between(first, deadline)],
      missed: `Registration closes on ${sitting.registerBy}, and no free quarter of an hour comes before: do it all the same.`,
    })
  if (travelMinutes > journeyFrom)
    wanted.push({
      key: 'errand.journey',
      purpose: { kind: 'errand', purpose: 'journey' },
      minutes: 20,
      least: 10,
      days: [...between(exam - bookedBetween[0], exam - bookedBetween[1]), ...between(first, exam - 1)],
      missed: 'The journey to the exam wants booking, and no free time is left for it.',
    })
  if (settings.visit) {
    const minutes = Math.min(480, 2 * travelMinutes + 30)
    wanted.push({
      key: 'errand.visit',
      purpose: { kind: 'errand', purpose: 'visit' },
      minutes,
      least: minutes,
      days: [...between(exam - 21, exam - 7), ...between(first, exam - 2).reverse()],
      missed: `The visit to the place takes ${minutes} minutes, and no free block before the exam is that long. A day with that much free time would hold it.`,
    })
  }
  return wanted
}

/** The last days: light work where it was chosen, the pace card two days before, the kit on the eve. */
function lastDays(
  input: PlanInput,
  days: DayNumber[],
  first: DayNumber,
  taper: DayNumber,
  exam: DayNumber,
): Errand[] {
  const on = (day: DayNumber) => days.filter((one) => one === day)
  const half = { minutes: 30, least: 15 }
  const wanted: Errand[] = []
  if (chosenWays(input.settings).lastDays === 'light work to the eve')
    for (let day = Math.max(first, taper); day < exam - 2; day++)
      wanted.push({
        key: `light.last.${exam - day}`,
        purpose: { kind: 'light', purpose: 'last days' },
        ...half,
        days: on(day),
      })
  const inTaper = (day: DayNumber) => (day >= taper ? on(day) : [])
  wanted.push(
    {
      key: 'light.pace-card',
      purpose: { kind: 'light', purpose: 'pace card' },
      ...half,
      days: inTaper(exam - 2),
    },
    {
      key: 'errand.kit',
      purpose: { kind: 'errand', purpose: 'kit' },
      ...half,
      days: days.filter((day) => day >= exam - kitWithin).reverse(),
    },
  )
  return wanted
}

/**
 * Registration, a visit to the place, the journey, and the last days. What stands already, or was done, is not asked for
 * again; what slipped is.
 */
export function errands(
  input: PlanInput,
  calendar: Calendar,
  first: DayNumber,
  taper: DayNumber,
  exam: DayNumber,
  name: (key: string) => string,
): { sessions: PlanSession[]; notices: PlanNotice[] } {
  const days = calendar.days()
  const wanted = [...outings(input, days, first, exam), ...lastDays(input, days, first, taper, exam)]
  const notices: PlanNotice[] = []
  const sessions = wanted.flatMap(({ key, purpose, minutes, least, days, missed }): PlanSession[] => {
    if (
      input.kept.some(
        (session) => session.status !== 'slipped' && (session.id === key || session.id.startsWith(`${key}.`)),
      )
    )
      return []
    const found = place(calendar, days, minutes, least, 'either')
    if (!found) {
      if (missed) notices.push({ code: key.replace('.', '-'), message: missed })
      return []
    }
    const common = {
      // The last days count back from the exam, so that each has its own.
      id: key.startsWith('light.last') ? key : name(key),
      date: dateOf(found.day),
      start: timeOf(found.from),
      minutes: found.minutes,
      pinned: false,
      status: 'planned' as const,
    }
    return [purpose.kind === 'light' ? { ...common, ...purpose, topics: [] } : { ...common, ...purpose }]
  })
  return { sessions, notices }
}
