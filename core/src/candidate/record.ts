import type {
  Availability,
  Commitments,
  Diagnosis,
  Drills,
  ExamDay,
  ExamFormat,
  Guessing,
  Materials,
  Pacing,
  Plan,
  PracticeTest,
  Settings,
  Sitting,
  Target,
} from '@climber/contract'

/** What the core needs to know of one candidate; the same on the server and in the browser. */
export interface CandidateRecord {
  exam: ExamFormat
  availability: Availability
  diagnosis: Diagnosis
  target: Target
  settings: Settings
  pacing: Pacing
  examDay: ExamDay
  materials?: Materials
  commitments?: Commitments
  drills?: Drills
  guessing?: Guessing
  tests: PracticeTest[]
  plan?: Plan
}

/** The moment at which something is worked out: a date and a minute in the candidate's zone. */
export interface Moment {
  date: string
  minute: number
}

/** The sitting aimed at: the one chosen, or else the first that is not over. */
export function sittingOf(
  record: Pick<CandidateRecord, 'exam' | 'target'>,
  today: string,
): Sitting | undefined {
  const chosen = record.exam.sittings.find(({ id }) => id === record.target.sitting)
  return (
    chosen ??
    [...record.exam.sittings].sort((a, b) => a.date.localeCompare(b.date)).find(({ date }) => date >= today)
  )
}

/** The day from which gains are counted: the diagnostic's, or the plan's, or today. */
export function startDate(record: CandidateRecord, today: string): string {
  const known = [record.diagnosis.date, record.plan?.madeOn, today].filter((date) => date !== undefined)
  return known.sort()[0]!
}
