import { z } from 'zod'
import { parts } from './candidate'
import { ExamFormat } from './exam'
import { Plan } from './plan'
import { PracticeTest } from './practice'

export const climberFileVersion = 1

/**
 * Everything about one candidate, or an exam format alone. Unknown keys are kept; a newer major version is refused.
 * docs/climber-file.schema.json is generated from this.
 */
export const ClimberFile = z
  .looseObject({
    climber: z.literal(climberFileVersion, {
      error: ({ input }) =>
        typeof input === 'number' && input > climberFileVersion
          ? `this file is of version ${input}; this Climber reads version ${climberFileVersion}`
          : `a Climber file says "climber": ${climberFileVersion}`,
    }),
    exam: ExamFormat,
    candidate: parts.candidate.optional(),
    availability: parts.availability.optional(),
    materials: parts.materials.optional(),
    diagnosis: parts.diagnosis.optional(),
    target: parts.target.optional(),
    settings: parts.settings.optional(),
    pacing: parts.pacing.optional(),
    plan: Plan.optional(),
    tests: z.array(PracticeTest).max(2000).optional(),
    examDay: parts.examDay.optional(),
  })
  .superRefine((file, context) => {
    const issue = (path: (string | number)[], message: string) => context.addIssue({ code: 'custom', path, message })
    const groups = new Map(file.exam.sections.flatMap(({ groups }) => groups.map((group) => [group.id, group.items])))
    const topics = new Set(file.exam.topics.map(({ id }) => id))
    const fits = (counts: Record<string, { right: number; wrong: number; blank: number }>, path: (string | number)[]) => {
      for (const [id, { right, wrong, blank }] of Object.entries(counts)) {
        const items = groups.get(id)
        if (items === undefined) issue([...path, id], `the exam has no item group ${id}`)
        else if (right + wrong + blank !== items)
          issue([...path, id], `right, wrong and blank add up to ${right + wrong + blank}; there are ${items} items`)
      }
    }
    if (file.diagnosis) {
      fits(file.diagnosis.sections, ['diagnosis', 'sections'])
      for (const id of Object.keys(file.diagnosis.topics))
        if (!topics.has(id)) issue(['diagnosis', 'topics', id], `the exam has no topic ${id}`)
    }
    file.tests?.forEach((test, row) => fits(test.counts, ['tests', row, 'counts']))
    const sitting = file.target?.sitting
    if (sitting && !file.exam.sittings.some(({ id }) => id === sitting))
      issue(['target', 'sitting'], `the exam has no sitting ${sitting}`)
  })

export type ClimberFile = z.infer<typeof ClimberFile>
