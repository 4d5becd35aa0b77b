import type { PlanSession } from '@climber/contract'
import { materialOf } from '../sessions/session'
import type { Words } from '../sessions/words'
import { writeTable } from './cells'

export const planColumns = [
  'date',
  'start',
  'minutes',
  'kind',
  'title',
  'material',
  'status',
  'minutes_done',
  'feeling',
  'why',
]

/** The plan as a table, a session a row. */
export const writePlan = (sessions: PlanSession[], words: Words): string =>
  writeTable(
    planColumns,
    sessions.map((session) => [
      session.date,
      session.start,
      session.minutes,
      session.kind,
      words.title(session),
      materialOf(session)?.text,
      session.status,
      session.minutesDone,
      session.feeling,
      words.why(session),
    ]),
  )
