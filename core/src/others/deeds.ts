import type { ExamFormat, PlanSession } from '@climber/contract'
import { examShares } from '../exam/coverage'
import { timedSeconds, topicsOf } from '../sessions/session'
import { dayNumber, type DayNumber } from '../time/day'
import type { Person } from './person'

/** One thing that is done, by whatever plan. */
export interface Deed {
  day: DayNumber
  kind: 'study' | 'test' | 'review' | 'retest' | 'light'
  minutes: number
  /** Places in the exam's order. */
  topics: number[]
  /** Of these, minutes at the pace of the exam, where it is no test. */
  timed?: number
}

const kindOf = ({ kind }: PlanSession): Deed['kind'] | undefined =>
  kind === 'learn' || kind === 'drill' || kind === 'mixed' ? 'study' : kind === 'errand' ? undefined : kind

/** A plan's sessions as deeds, in order of time. */
export function deedsOf(exam: ExamFormat, sessions: PlanSession[]): Deed[] {
  const place = new Map(exam.topics.map(({ id }, at) => [id, at]))
  return [...sessions]
    .sort((a, b) => (a.date + a.start).localeCompare(b.date + b.start))
    .flatMap((session): Deed[] => {
      const kind = kindOf(session)
      if (!kind) return []
      return [
        {
          day: dayNumber(session.date),
          kind,
          minutes: session.minutes,
          topics: topicsOf(session).flatMap((id) => place.get(id) ?? []),
          timed: (timedSeconds(session) ?? 0) / 60,
        },
      ]
    })
}

/** A person after so much was done. */
export function afterDeeds(person: Person, deeds: Deed[]): Person {
  for (const { day, kind, minutes, topics, timed } of deeds) {
    person.works(day, kind === 'study' ? 'learn' : kind, minutes, topics)
    if (timed) person.times(timed)
  }
  return person
}

/** How far a person gets is of so many days, so that one day's luck says nothing. */
const days = 8

/** Of each section the share of its questions, from 0 to 1, that a person knows and gets to on a day. */
export function sectionShares(exam: ExamFormat, person: Person, day: DayNumber): number[] {
  const place = new Map(exam.sections.map(({ id }, at) => [id, at]))
  const known = exam.sections.map(() => 0)
  exam.topics.forEach(
    ({ section, share }, at) => (known[place.get(section)!]! += share * person.knows(at, day)),
  )
  return known.map((share, at) => {
    let reached = 0
    for (let turn = 0; turn < days; turn++) reached += person.reaches(at)
    return (share * reached) / days
  })
}

/** The share of the exam's marks, of a hundred, that comes of section shares. */
export function marksOf(exam: ExamFormat, shares: number[]): number {
  const place = new Map(exam.sections.map(({ id }, at) => [id, at]))
  const weights = exam.sections.map(() => 0)
  examShares(exam).forEach((share, at) => (weights[place.get(exam.topics[at]!.section)!]! += share))
  return 100 * shares.reduce((sum, share, at) => sum + share * weights[at]!, 0)
}
