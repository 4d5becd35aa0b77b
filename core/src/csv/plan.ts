import type { PlanSession } from '@climber/contract'
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
export const writePlan = (sessions: PlanSession[]): string =>
  writeTable(
    planColumns,
    sessions.map(({ date, start, minutes, kind, title, material, status, minutesDone, feeling, why }) => [
      date,
      start,
      minutes,
      kind,
      title,
      material?.text,
      status,
      minutesDone,
      feeling,
      why.text,
    ]),
  )
