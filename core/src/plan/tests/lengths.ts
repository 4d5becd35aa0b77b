import type { ExamFormat, PlanSession, Section, Settings } from '@climber/contract'
import { partOf } from '../../sessions/session'

export const sectionMinutes = (section: Section, timeFactor: number): number =>
  Math.ceil(section.minutes * timeFactor)

/** Length of a test with its breaks, in minutes. */
export function testMinutes(sections: Section[], timeFactor: number): number {
  return sections.reduce(
    (sum, section, at) =>
      sum +
      sectionMinutes(section, timeFactor) +
      (at < sections.length - 1 ? Math.ceil(section.breakAfter) : 0),
    0,
  )
}

/** Full length of a test session in minutes, or of the sections of its part. */
export function lengthOf(
  { exam, settings }: { exam: ExamFormat; settings: Settings },
  session: Omit<PlanSession, 'date' | 'start'> & Pick<PlanSession, 'kind'>,
): number {
  const part = partOf(session as PlanSession)
  return testMinutes(
    exam.sections.filter(({ id }) => !part || part.includes(id)),
    settings.timeFactor,
  )
}
