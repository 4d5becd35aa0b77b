import type { ExamFormat, PlanSession, Settings } from '@climber/contract'
import { dayNumber, minuteOf } from '../time/day'
import { testMinutes } from './tests'

/** A session that stands in the calendar, whether done or still to come. */
export const isActive = ({ status }: Pick<PlanSession, 'status'>): boolean =>
  status !== 'slipped' && status !== 'skipped'

/** Work that may stand in windows for light work, and in the taper. */
export const isEasy = ({ kind }: Pick<PlanSession, 'kind'>): boolean => kind === 'light' || kind === 'errand'

/** Minutes since 1970-01-01 on the candidate's clock. */
export const startOf = ({ date, start }: Pick<PlanSession, 'date' | 'start'>): number =>
  dayNumber(date) * 1440 + minuteOf(start)
export const endOf = (session: Pick<PlanSession, 'date' | 'start' | 'minutes'>): number =>
  startOf(session) + session.minutes

export const byTime = (a: PlanSession, b: PlanSession): number =>
  a.date.localeCompare(b.date) || a.start.localeCompare(b.start) || a.id.localeCompare(b.id)

/** Full length of a test in minutes, or of the sections of its part. */
export const lengthOf = (
  { exam, settings }: { exam: ExamFormat; settings: Settings },
  { sections }: Pick<PlanSession, 'sections'>,
): number =>
  testMinutes(
    exam.sections.filter(({ id }) => !sections || sections.includes(id)),
    settings.timeFactor,
  )
