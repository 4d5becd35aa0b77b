import { z } from 'zod'
import { Attempt } from './attempt'
import { attemptIssues, fileIssues, repeatedIds, repeatedNotes } from './coherence'
import { ExamFormat } from './exam'
import { type PartName, parts, partNames } from './parts'
import { Plan } from './plan'
import { Card, mostAnswers, mostCards, RecallAnswer } from './recall'
import { mostNotes, ReviewNote } from './review'
import { open } from './shared'
import { pathIn1, upgrade } from './upgrade'
import { unfitIn } from './wellFormed'

export const climberFileVersion = 2

type OptionalParts = { [P in PartName]: z.ZodOptional<(typeof parts)[P]> }
const optionalParts = Object.fromEntries(
  partNames.map((part) => [part, (parts[part] as z.ZodType).optional()]),
) as unknown as OptionalParts

/** What a Climber file of this version holds. docs/climber-file.schema.json is generated from this. */
export const ClimberFileShape = open({
  climber: z.literal(climberFileVersion, {
    error: ({ input }) =>
      typeof input === 'number' && input > climberFileVersion
        ? `this file is of version ${input}; this Climber reads version ${climberFileVersion}`
        : `a Climber file says "climber": ${climberFileVersion}`,
  }),
  exam: ExamFormat,
  ...optionalParts,
  plan: Plan.optional(),
  pastPlans: z.array(Plan).max(60).optional().describe('for other sittings, oldest first'),
  attempts: z.array(Attempt).max(5000).optional(),
  review: z.array(ReviewNote).max(mostNotes).optional().describe('what was found in review, by item'),
  recall: open({
    cards: z.array(Card).max(mostCards).optional(),
    answers: z.array(RecallAnswer).max(mostAnswers).optional(),
  })
    .optional()
    .describe('what is to be brought back from memory, and what came back'),
}).superRefine((file, context) => {
  for (const { path, message } of [
    ...fileIssues(file.exam, file),
    ...(file.attempts ?? []).flatMap((attempt, row) =>
      attemptIssues(file.exam, attempt).map(({ path, message }) => ({
        path: ['attempts', row, ...path],
        message,
      })),
    ),
    ...repeatedIds(file.attempts).map(({ path, message }) => ({ path: ['attempts', ...path], message })),
    ...repeatedNotes(file.review).map(({ path, message }) => ({ path: ['review', ...path], message })),
    ...(['cards', 'answers'] as const).flatMap((list) =>
      repeatedIds(file.recall?.[list]).map(({ path, message }) => ({
        path: ['recall', list, ...path],
        message,
      })),
    ),
    ...repeatedIds(file.plan?.sessions).map(({ path, message }) => ({
      path: ['plan', 'sessions', ...path],
      message,
    })),
  ])
    context.addIssue({ code: 'custom', path, message })
})

export type ClimberFile = z.infer<typeof ClimberFileShape>

/** A file as it was read, and as it was written: what was absent there is absent when it goes out again. */
export interface WrittenFile {
  file: ClimberFile
  written: Record<string, unknown>
}

/**
 * A Climber file of any version, read as one of this version. Unknown keys are kept, at every depth; a newer major version is
 * refused. Problems are told at their place in the file as it was read.
 */
export const WrittenFile = z.unknown().transform((input, context): WrittenFile => {
  const unfit = unfitIn(input)
  if (unfit) {
    context.addIssue({ code: 'custom', ...unfit })
    return z.NEVER
  }
  const { file, came } = upgrade(input)
  const found = ClimberFileShape.safeParse(file)
  if (found.success) return { file: found.data, written: file as Record<string, unknown> }
  for (const { path, message } of found.error.issues)
    context.addIssue({
      code: 'custom',
      message,
      path: came.length || file !== input ? pathIn1(path as (string | number)[], came) : [...path],
    })
  return z.NEVER
})

/** The same, as it is read. */
export const ClimberFile = WrittenFile.transform(({ file }): ClimberFile => file)
