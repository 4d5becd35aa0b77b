import type { ExamFormat, Lately, PlanSession } from '@climber/contract'
import { hasSlipped, topicsOf } from '../sessions/session'
import { dateOf, dayNumber, weekdayOf } from '../time/day'
import type { Assessment } from './assessment'
import { sessionsOf } from './moment'

/** Days over which the days of the week are compared. */
const weeksBack = 28
/** Sessions that have to slip on a day of the week before it is worth asking about. */
const worthAsking = 2

const minutesOf = ({ minutes, minutesDone }: PlanSession): number => minutesDone ?? minutes

/** The day of the week on which most slipped, where that was at least half of what was planned on it. */
function slippingDay(sessions: readonly PlanSession[], today: string): Lately['weekday'] {
  const days = new Map<number, { slipped: number; of: number }>()
  for (const session of sessions) {
    const weekday = weekdayOf(dayNumber(session.date))
    const day = days.get(weekday) ?? { slipped: 0, of: 0 }
    if (hasSlipped(session, today)) day.slipped++
    if (session.status !== 'skipped') day.of++
    days.set(weekday, day)
  }
  const [worst] = [...days]
    .map(([weekday, day]) => ({ weekday, ...day }))
    .filter(({ slipped, of }) => slipped >= worthAsking && slipped * 2 >= of)
    .sort((a, b) => b.slipped - a.slipped || b.slipped / b.of - a.slipped / a.of || a.weekday - b.weekday)
  return worst ?? null
}

/** The topic on which most was done after one day and by another; minutes of a session of several are shared among them. */
function mostWorked(
  { topics: all }: Pick<ExamFormat, 'topics'>,
  done: readonly PlanSession[],
  after: string,
  by: string,
): Lately['topic'] {
  const minutes = new Map<string, number>()
  for (const session of done) {
    if (session.date <= after || session.date > by) continue
    const topics = topicsOf(session)
    for (const topic of topics)
      minutes.set(topic, (minutes.get(topic) ?? 0) + minutesOf(session) / topics.length)
  }
  const [most] = [...minutes].sort((a, b) => b[1] - a[1] || a[0].localeCompare(b[0]))
  const topic = all.find(({ id }) => id === most?.[0])
  return most && topic ? { title: topic.title, minutes: Math.round(most[1]) } : null
}

/**
 * What has happened lately, as facts for whoever looks after the candidate: the day of the last work, minutes of the seven days before
 * today, the day of the week that does not hold, and the whole test before the last one with the topic most worked on since.
 */
export function latelyOf({ record, now, scored }: Pick<Assessment, 'record' | 'now' | 'scored'>): Lately {
  const today = dayNumber(now.date)
  const sessions = sessionsOf(record)
  const done = sessions.filter(({ status, date }) => status === 'done' && date <= now.date)
  const days = [
    ...done.map(({ date }) => date),
    ...record.attempts.map(({ date }) => date),
    ...record.recalled.days.map(({ day }) => dateOf(day)),
  ].flatMap((date) => (date !== undefined && date <= now.date ? [date] : []))
  const within = (back: number) =>
    sessions.filter(({ date }) => date < now.date && dayNumber(date) >= today - back)
  const week = within(7)
  const [before, last] = scored.length > 1 ? scored.slice(-2) : [undefined, undefined]
  return {
    lastWork: days.sort().pop() ?? null,
    week: {
      planned: week
        .filter(({ status }) => status !== 'skipped')
        .reduce((sum, { minutes }) => sum + minutes, 0),
      done: week
        .filter(({ status }) => status === 'done')
        .reduce((sum, session) => sum + minutesOf(session), 0),
    },
    weekday: slippingDay(within(weeksBack), now.date),
    before: before ? { date: before.test.date, scaled: before.score.composite } : null,
    topic: before && last ? mostWorked(record.exam, done, before.test.date, last.test.date) : null,
  }
}
