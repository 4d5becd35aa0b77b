import type { z } from 'zod'
import { examRules } from './examRules'
import { ExamShape } from './examShape'

export * from './examShape'
export { checkFormItem, prerequisiteCycle } from './examRules'

/** An exam format: its shape, and the rules between its parts. */
export const ExamFormat = ExamShape.superRefine((exam, context) => {
  for (const rule of examRules)
    rule(exam, (path, message) => context.addIssue({ code: 'custom', path, message }))
})
export type ExamFormat = z.infer<typeof ExamFormat>
