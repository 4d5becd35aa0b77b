import type { ExamFormat, PlanSession, Recalled, SessionKind } from '@climber/contract'
import { examShares } from '../exam/coverage'
import { timedSeconds, topicsOf } from '../sessions/session'
import { dayNumber, type DayNumber } from '../time/day'
import { touches } from './fromMemory'
import { afterTouch } from './retention'

/** What an hour of each kind teaches, against an hour of study of the topic. */
export const worth: Record<SessionKind, number> = {
  learn: 1,
  drill: 1,
  mixed: 1,
  review: 0.7,
  retest: 0.7,
  test: 0.25,
  light: 0.5,
  errand: 0,
}
/** Minutes at a topic on one day that count as having been at it. */
const touchMinutes = 8

/** What one session does: hours of study on each of `topics`, and whole tests of timed work. */
export interface Work {
  day: DayNumber
  /** Places in the exam's order, and the effective hours on each. */
  topics: number[]
  hours: number[]
  /** Timed work, in whole tests. */
  timed: number
  /** Still to come; it counts as far as the candidate keeps plans. */
  ahead: boolean
  /** Counts as having been at the topics, whatever the hours. */
  touch?: boolean
  /** Spread over the whole exam, as a test and its review are: nobody was at a topic for its own sake. */
  wide?: boolean
}

/** Minutes of a session, of which so many were spent, that are at the pace of the exam. */
const timedMinutes = (session: PlanSession, spent: number): number =>
  session.kind === 'test' ? spent : Math.min(spent, (timedSeconds(session) ?? 0) / 60)

/** Sessions as work: those done with the minutes logged, and those to come where `ahead`. In order of time. */
export function workOf(exam: ExamFormat, sessions: PlanSession[], today: DayNumber, ahead: boolean): Work[] {
  const places = new Map(exam.topics.map(({ id }, at) => [id, at]))
  const shares = examShares(exam)
  const everywhere = exam.topics.map((_, at) => at)
  const whole = exam.sections.reduce((sum, { minutes }) => sum + minutes, 0)
  return inTime(
    sessions.flatMap((session): Work[] => {
      const { status, kind, date, minutes, minutesDone } = session
      const day = dayNumber(date)
      const done = status === 'done'
      const comes = ahead && (status === 'planned' || status === 'running') && day >= today
      if (!(done || comes) || !worth[kind]) return []
      const spent = done ? (minutesDone ?? minutes) : minutes
      const hours = (worth[kind] * spent) / 60
      const own = topicsOf(session).flatMap((id) => places.get(id) ?? [])
      const wide = kind === 'test' || kind === 'review' || kind === 'retest'
      if (!own.length && !wide) return []
      const topics = own.length ? own : everywhere
      return [
        {
          day,
          topics,
          hours: topics.map((at) => (own.length ? hours / own.length : hours * shares[at]!)),
          timed: Math.min(1, timedMinutes(session, spent) / whole),
          ahead: !done,
          ...(!own.length && { wide: true }),
        },
      ]
    }),
  )
}

/** Days of answers from memory on which a topic was met; their minutes are those of the sessions they were given in. */
export function metIn(exam: ExamFormat, { days }: Recalled, today: DayNumber): Work[] {
  const places = new Map(exam.topics.map(({ id }, at) => [id, at]))
  return days
    .filter((one) => touches(one) && one.day <= today && places.has(one.topic))
    .map(({ topic, day }) => ({
      day,
      topics: [places.get(topic)!],
      hours: [0],
      timed: 0,
      ahead: false,
      touch: true,
    }))
}

export const inTime = (work: Work[]): Work[] => work.sort((a, b) => a.day - b.day)

const isTouch = ({ touch, hours }: Work, place: number): boolean =>
  touch === true || hours[place]! * 60 >= touchMinutes

/** Days on which each topic was worked on for its own sake, ascending, in the exam's order. */
export function touchesOf(work: Work[], topics: number): DayNumber[][] {
  const found = Array.from({ length: topics }, (): DayNumber[] => [])
  for (const one of work)
    one.topics.forEach((at, place) => {
      if (!one.wide && isTouch(one, place)) found[at]!.push(one.day)
    })
  return found
}

/** What work until a day comes to, for each topic in the exam's order. */
export interface Exposure {
  day: DayNumber
  done: Float64Array
  ahead: Float64Array
  /** Days since the last touch over the stability of what is new; 0 where it was never touched, as nothing is new. */
  fresh: Float64Array
  /** Days since what was known of old was last met. */
  idle: Float64Array
  /** Whole tests of timed work done, and to come. */
  timed: number
  timedAhead: number
}

/** Exposures on `days`, ascending: work before the day counts, and the days since `from`. */
export function exposures(work: Work[], topics: number, from: DayNumber, days: DayNumber[]): Exposure[] {
  const done = new Float64Array(topics)
  const ahead = new Float64Array(topics)
  const stability = new Float64Array(topics)
  const last = new Float64Array(topics).fill(from)
  let [timed, timedAhead, next] = [0, 0, 0]
  return days.map((day) => {
    for (; next < work.length && work[next]!.day < day; next++) {
      const one = work[next]!
      const into = one.ahead ? ahead : done
      one.topics.forEach((at, place) => {
        into[at]! += one.hours[place]!
        if (!isTouch(one, place)) return
        stability[at] = afterTouch(stability[at]!, one.day - last[at]!)
        last[at] = one.day
      })
      if (one.ahead) timedAhead += one.timed
      else timed += one.timed
    }
    return {
      day,
      done: done.slice(),
      ahead: ahead.slice(),
      fresh: Float64Array.from(stability, (days_, at) => (days_ ? Math.max(0, day - last[at]!) / days_ : 0)),
      idle: Float64Array.from(last, (then) => Math.max(0, day - then)),
      timed,
      timedAhead,
    }
  })
}
