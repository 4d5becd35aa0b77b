import type { ExamFormat, Settings } from '@climber/contract'

/**
 * The exam as this candidate sits it, and the factor that still applies to every section. A granted accommodation
 * lengthens the sections and breaks themselves (factor 1 remains); without one, the candidate's own factor does.
 */
export function asSat(
  exam: ExamFormat,
  settings: Pick<Settings, 'timeFactor' | 'accommodation'>,
): { exam: ExamFormat; timeFactor: number } {
  const granted = exam.accommodations?.find(({ id }) => id === settings.accommodation)
  if (!granted) return { exam, timeFactor: settings.timeFactor }
  const last = exam.sections.length - 1
  return {
    timeFactor: 1,
    exam: {
      ...exam,
      sections: exam.sections.map((section, at) => ({
        ...section,
        minutes: section.minutes * (granted.sections?.[section.id] ?? granted.timeFactor),
        breakAfter:
          at < last && section.breakAfter > 0
            ? section.breakAfter + (granted.breakMinutes ?? 0)
            : section.breakAfter,
      })),
    },
  }
}
