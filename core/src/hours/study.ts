import type { PlanSession } from '@climber/contract'
import { topicsOf } from '../sessions/session'
import type { Landscape, Levels } from './landscape'
import { knownAfter } from './allocate'
import { knownGiven, type TopicAnswers } from './answered'
import { type Memory, retention, touched } from '../learner/retention'
import { dayNumber, type DayNumber } from '../time/day'

/** Study of some topics on a day; the minutes are shared evenly between them. */
export interface Study {
  day: DayNumber
  minutes: number
  topics: string[]
  /** What was answered of each of the topics, in their order; it says how much of them is known. */
  answers?: TopicAnswers[]
  /** Too short to count as having been at the topics. */
  brief?: boolean
}

/** Done sessions before `today` count with the minutes logged; planned and running ones from today on, in full. */
export function studyOf(sessions: PlanSession[], today: DayNumber, ahead: boolean): Study[] {
  return sessions
    .flatMap((session): Study[] => {
      const { status, date, minutes, minutesDone } = session
      const topics = topicsOf(session)
      const day = dayNumber(date)
      const done = status === 'done'
      const comes = ahead && (status === 'planned' || status === 'running') && day >= today
      return topics.length && (done || comes)
        ? [{ day, minutes: done ? (minutesDone ?? minutes) : minutes, topics }]
        : []
    })
    .sort((a, b) => a.day - b.day)
}

/** Share known of one of the topics of `study` after it. */
function afterStudy(landscape: Landscape, at: number, known: number, study: Study, place: number): number {
  const { minutes, topics, answers } = study
  const learned = knownAfter({ ...landscape.topics[at]!, known }, minutes / 60 / topics.length)
  const own = answers?.[place]
  return own ? knownGiven(learned, own) : learned
}

/** Knowledge and memory of every topic after `study`, in the exam's order. */
export function knowledgeAfter(
  landscape: Landscape,
  study: Study[],
): { known: number[]; touches: DayNumber[][] } {
  const place = new Map(landscape.exam.topics.map(({ id }, at) => [id, at]))
  const known = landscape.known()
  const touches: DayNumber[][] = known.map(() => [])
  for (const one of study)
    one.topics.forEach((id, own) => {
      const at = place.get(id)
      if (at === undefined) return
      known[at] = afterStudy(landscape, at, known[at]!, one, own)
      if (!one.brief) touches[at]!.push(one.day)
    })
  return { known, touches }
}

/**
 * Gains over the diagnostic's level on each of `days` (ascending) from the study before that day: what was known then
 * stays; the new part counts at the retention that its touches leave. Section gains in the exam's order.
 */
export function gainsAt(landscape: Landscape, study: Study[], days: DayNumber[]): Levels[] {
  const place = new Map(landscape.exam.topics.map(({ id }, at) => [id, at]))
  const known = landscape.known()
  const memory: (Memory | undefined)[] = known.map(() => undefined)
  let next = 0
  return days.map((day) => {
    for (; next < study.length && study[next]!.day < day; next++) {
      const one = study[next]!
      one.topics.forEach((id, own) => {
        const at = place.get(id)
        if (at === undefined) return
        known[at] = afterStudy(landscape, at, known[at]!, one, own)
        if (!one.brief) memory[at] = touched(memory[at], one.day)
      })
    }
    return landscape.gains(
      known.map((k, at) => landscape.atExam(at, k, memory[at] ? retention(memory[at]!, day) : 1)),
    )
  })
}
