import type {
  Availability,
  Busy,
  ExamFormat,
  PlanSession,
  ReviewSession,
  Settings,
  Sitting,
} from '@climber/contract'
import type { FormSat } from '../attempts/sat'
import type { Shelved } from '../hours/shelf'
import type { Remedy } from '../review/remedies'

/** One topic as the planner sees it. Values in composite points, or as if they were where the odds count; hours as in hours/allocate.ts. */
export interface PlanTopic {
  id: string
  title: string
  section: string
  /** Share of the whole exam's items. */
  share: number
  value: number
  /** Share known today, and at the diagnostic. */
  known: number
  tau: number
  prerequisites: string[]
  /** Day numbers of earlier touches, ascending. */
  touches: number[]
}

export interface PlanInput {
  exam: ExamFormat
  sitting: Sitting
  /** Today, `YYYY-MM-DD`, and the minute of the day before which nothing can be planned. */
  today: string
  nowMinute: number
  availability: Availability
  /** Commitments: when something else is on. */
  busy: Busy[]
  /** What there is to learn from, with the own pace filled in. */
  shelf: Shelved[]
  /** Minutes to the place of the exam. */
  travelMinutes: number
  settings: Settings
  topics: PlanTopic[]
  /** What the values of the topics are counted by. */
  by: 'odds' | 'points'
  /** Splits hours over `topics` (same order), section cuts met where they can be. */
  split: (hours: number) => number[]
  /** Forms already met, with the day. */
  sat: FormSat[]
  /** The baseline has been measured with a full test. */
  measured: boolean
  /** Sessions that stay: past, running and pinned ones. */
  kept: PlanSession[]
  /** Reviews still to be done of tests that were sat. */
  owed: ReviewSession[]
  /** What reviews of late ask for. */
  remedies: Remedy[]
  /** Minutes a day that the cards ask for; absent where there are none. */
  recallMinutes?: number
  /** What was done under plans for other sittings. */
  lived: PlanSession[]
  /** Ids used under those plans: a session's id is its own for ever. */
  taken: string[]
  seed: number
}
