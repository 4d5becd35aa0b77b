import { z } from 'zod'
import { parts } from './candidate'
import {
  countIssues,
  diagnosisIssues,
  type Incoherence,
  repeatedIds,
  settingsIssues,
  targetIssues,
} from './coherence'
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
    commitments: parts.commitments.optional(),
    drills: parts.drills.optional(),
    guessing: parts.guessing.optional(),
  })
  .superRefine((file, context) => {
    const say = (issues: Incoherence[], path: (string | number)[]) =>
      issues.forEach((issue) =>
        context.addIssue({ code: 'custom', path: [...path, ...issue.path], message: issue.message }),
      )
    if (file.diagnosis) say(diagnosisIssues(file.exam, file.diagnosis), ['diagnosis'])
    if (file.settings) say(settingsIssues(file.exam, file.settings), ['settings'])
    if (file.target) say(targetIssues(file.exam, file.target), ['target'])
    file.tests?.forEach((test, row) => say(countIssues(file.exam, test.counts), ['tests', row, 'counts']))
    say(repeatedIds(file.tests), ['tests'])
    say(repeatedIds(file.plan?.sessions), ['plan', 'sessions'])
  })

export type ClimberFile = z.infer<typeof ClimberFile>
