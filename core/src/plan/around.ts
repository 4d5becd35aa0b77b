import type { PlanNotice, PlanSession } from '@climber/contract'
import { retention, touched, type Memory } from '../hours/retention'
import { dateOf, dayNumber, type DayNumber, timeOf } from '../time/day'
import type { Calendar, Span } from './calendar'
import type { PlanInput } from './input'

/** Work around the study itself: retests, light work, errands, the last days. Each takes its time from the calendar. */

/** Days after its wished one on which a retest or an errand may still stand. */
const window = 6
const retestMinutes = 30
const lightMinutes = 30
const warmMinutes = 15
const shortest = 10
export const usualRetestDays = 7

interface Found {
  sessions: PlanSession[]
  notices: PlanNotice[]
}

const plain = { seen: false, pinned: false, status: 'planned' as const, topics: [] as string[] }

/**
 * The first place of `minutes` on one of `days`; shorter, down to `least`, where a day has no more. In free time, in
 * windows for light work, or in either, those for light work first.
 */
function place(
  calendar: Calendar,
  days: DayNumber[],
  minutes: number,
  least = minutes,
  where: 'free' | 'light' | 'either' = 'free',
): { day: DayNumber; from: number; minutes: number } | undefined {
  for (const day of days) {
    const room = calendar.dayRoom(day)
    const spans: Span[] = [
      ...(where === 'free' ? [] : calendar.free(day, true)),
      ...(where === 'light' ? [] : calendar.free(day)),
    ]
    const span = spans.find(({ from, to }) => Math.min(room, to - from) >= least)
    if (!span) continue
    const long = Math.floor(Math.min(minutes, room, span.to - span.from))
    calendar.take(day, span.from, long)
    return { day, from: span.from, minutes: long }
  }
  return undefined
}

/** What was missed, tried again some days after each review. */
export function retests(
  input: PlanInput,
  calendar: Calendar,
  tests: PlanSession[],
  taper: DayNumber,
  name: (key: string) => string,
): Found {
  const { retestDays = usualRetestDays } = input.settings
  if (retestDays === null) return { sessions: [], notices: [] }
  const lastReview = new Map<string, PlanSession>()
  for (const session of tests)
    if (session.kind === 'review' && (lastReview.get(session.of!)?.date ?? '') <= session.date)
      lastReview.set(session.of!, session)
  let none = 0
  const sessions = [...lastReview.values()].flatMap((review): PlanSession[] => {
    const wished = dayNumber(review.date) + retestDays
    if (wished >= taper) return []
    const days = calendar.days().filter((day) => day >= wished && day <= wished + window && day < taper)
    const found = place(calendar, days, retestMinutes, 20)
    if (!found) {
      none++
      return []
    }
    return [
      {
        ...plain,
        id: name(`retest.${review.form}`),
        date: dateOf(found.day),
        start: timeOf(found.from),
        minutes: found.minutes,
        kind: 'retest',
        title: `Retest: what ${review.title.replace(/^Review /, '')} showed`,
        form: review.form,
        of: review.of,
        why: {
          text: `${found.day - dayNumber(review.date)} days after its review, the items that were missed once more: what is right now has stayed.`,
          figures: { daysSince: found.day - dayNumber(review.date) },
        },
      },
    ]
  })
  return {
    sessions,
    notices: none
      ? [
          {
            code: 'retest-no-room',
            message: `${none === 1 ? 'One retest' : `${none} retests`} of missed items found no half-hour within ${window} days of the wished one. More free time, or a longer wait until a retest, would make room.`,
          },
        ]
      : [],
  }
}

/** Light work: cards and notes in the windows that take nothing else, and a quarter of an hour on idle days. */
export function lightWork(
  input: PlanInput,
  calendar: Calendar,
  study: { day: DayNumber; topics: string[] }[],
  taper: DayNumber,
  name: (key: string) => string,
): PlanSession[] {
  const titles = new Map(input.topics.map((topic) => [topic.id, topic]))
  const memory = new Map<string, Memory>()
  for (const { id, touches } of input.topics)
    for (const day of touches) memory.set(id, touched(memory.get(id), day))
  const byDay = new Map<DayNumber, string[]>()
  for (const { day, topics } of study) byDay.set(day, [...(byDay.get(day) ?? []), ...topics])
  const sessions: PlanSession[] = []
  const meet = (day: DayNumber, ids: string[]) =>
    ids.forEach((id) => memory.set(id, touched(memory.get(id), day)))
  for (const day of calendar.days()) {
    if (day >= taper) break
    const fading = [...memory]
      .filter(([, { lastDay }]) => lastDay < day)
      .sort(([a, m], [b, n]) => retention(m, day) - retention(n, day) || a.localeCompare(b))
      .slice(0, 3)
      .map(([id]) => id)
    const idle = Boolean(input.availability.keepWarm) && calendar.taken(day) === 0
    const passive = calendar.free(day, true).some(({ from, to }) => to - from >= shortest)
    if (passive || idle) {
      const found = passive
        ? place(calendar, [day], lightMinutes, shortest, 'light')
        : place(calendar, [day], warmMinutes, shortest)
      if (found) {
        const words = fading.map((id) => titles.get(id)?.title).filter(Boolean)
        sessions.push({
          ...plain,
          id: name('light.cards'),
          date: dateOf(day),
          start: timeOf(found.from),
          minutes: found.minutes,
          kind: 'light',
          title: words.length ? `Cards and notes: ${words.join(', ')}` : 'Leaf through the materials',
          topics: fading,
          why: {
            text: passive
              ? 'A stretch that takes no hard work: cards and notes of what fades fastest.'
              : 'A day with nothing else on it: a quarter of an hour keeps things warm.',
            figures: { minutes: found.minutes },
          },
        })
        meet(day, fading)
      }
    }
    meet(day, byDay.get(day) ?? [])
  }
  return sessions
}

interface Errand {
  id: string
  kind: 'light' | 'errand'
  title: string
  text: string
  minutes: number
  least: number
  /** Days on which it may stand, the wished one first. */
  days: DayNumber[]
  /** Said where no day holds it. */
  missed: string
}

/** Registration, a visit to the place, the journey, and the last days. */
export function errands(
  input: PlanInput,
  calendar: Calendar,
  first: DayNumber,
  taper: DayNumber,
  exam: DayNumber,
): Found {
  const { sitting, settings } = input
  const days = calendar.days()
  const between = (from: DayNumber, to: DayNumber) => days.filter((day) => day >= from && day <= to)
  const wanted: Errand[] = []
  const deadline = sitting.registerBy === undefined ? undefined : dayNumber(sitting.registerBy)
  if (deadline !== undefined && deadline >= first)
    wanted.push({
      id: 'errand.register.1',
      kind: 'errand',
      title: `Register for the sitting, by ${sitting.registerBy}`,
      text: `Registration closes in ${deadline - first} days${sitting.fee ? `; the fee is ${sitting.fee.amount} ${sitting.fee.currency}` : ''}. Without it there is no exam.`,
      minutes: 15,
      least: 10,
      days: [...between(first + 1, deadline - 2), ...between(first, deadline)],
      missed: `Registration closes on ${sitting.registerBy}, and no free quarter of an hour comes before: do it all the same.`,
    })
  if (input.travelMinutes >= 120 && exam - first > 7)
    wanted.push({
      id: 'errand.journey.1',
      kind: 'errand',
      title: 'Book the journey to the exam, and a bed if one is needed',
      text: `The way there takes ${input.travelMinutes} minutes; booked early it is one thing less to think of.`,
      minutes: 20,
      least: 10,
      days: between(Math.max(first, exam - 28), exam - 5),
      missed: 'The journey to the exam wants booking, and no free time is left for it.',
    })
  if (settings.visit) {
    const minutes = Math.min(480, 2 * input.travelMinutes + 30)
    wanted.push({
      id: 'errand.visit.1',
      kind: 'errand',
      title: 'Go and see the place of the exam',
      text: `${minutes} minutes there and back: a way that was walked once holds no surprises on the day.`,
      minutes,
      least: minutes,
      days: [...between(exam - 21, exam - 7), ...between(first, exam - 2).reverse()],
      missed: `The visit to the place takes ${minutes} minutes, and no free block before the exam is that long. A day with that much free time would hold it.`,
    })
  }
  if (settings.schools?.lastDays === 'light work to the eve')
    for (let day = Math.max(first, taper); day < exam - 2; day++)
      wanted.push({
        id: `light.last.${exam - day}`,
        kind: 'light',
        title: 'Light work: own notes and cards',
        text: 'Light work to the eve, as chosen: nothing new, half an hour at most.',
        minutes: 30,
        least: 15,
        days: between(day, day),
        missed: '',
      })
  const last = (
    id: string,
    day: DayNumber,
    kind: 'light' | 'errand',
    title: string,
    text: string,
  ): Errand => ({
    id,
    kind,
    title,
    text,
    minutes: 30,
    least: 15,
    days: day >= taper ? between(day, day) : [],
    missed: '',
  })
  wanted.push(
    last(
      'light.pace-card.1',
      exam - 2,
      'light',
      'Read the pace card and your own notes',
      'Half an hour to bring the checkpoints to mind. New material this late costs more sleep than it earns marks.',
    ),
    last(
      'errand.kit.1',
      exam - 1,
      'errand',
      'Pack the kit and check the way there',
      'Packed the day before, nothing is looked for on the morning.',
    ),
  )
  const notices: PlanNotice[] = []
  const sessions = wanted.flatMap((errand): PlanSession[] => {
    if (input.kept.some(({ id }) => id === errand.id)) return []
    const found = place(calendar, errand.days, errand.minutes, errand.least, 'either')
    if (!found) {
      if (errand.missed)
        notices.push({ code: errand.id.split('.').slice(0, 2).join('-'), message: errand.missed })
      return []
    }
    return [
      {
        ...plain,
        id: errand.id,
        date: dateOf(found.day),
        start: timeOf(found.from),
        minutes: found.minutes,
        kind: errand.kind,
        title: errand.title,
        why: { text: errand.text, figures: { daysToExam: exam - found.day } },
      },
    ]
  })
  return { sessions, notices }
}
