import { z } from 'zod'

/** The one shape of every error that the server answers. `current` comes with a conflict: what is stored now. */
export const Failure = z.object({
  code: z.enum([
    'invalid',
    'not-signed-in',
    'not-found',
    'conflict',
    'wrong-password',
    'too-many',
    'busy',
    'forged',
    'forbidden',
    'unavailable',
    'internal',
  ]),
  message: z.string(),
  field: z.string().optional().describe('path of the first field at fault, such as windows.0.to'),
  issues: z.array(z.object({ field: z.string(), message: z.string() })).optional(),
  current: z.unknown().optional(),
  changedBy: z.string().optional(),
  changedUnder: z
    .string()
    .optional()
    .describe(
      'the `request` under which what is stored now was saved: perhaps one of your own whose answer was lost',
    ),
  request: z.string().optional().describe('quote this when you report the fault'),
})
export type Failure = z.infer<typeof Failure>

/** Problems as fields and sentences: those of a Zod error, or found by our own checks. */
export function issuesOf({
  issues,
}: {
  issues: { path: PropertyKey[]; message: string }[]
}): { field: string; message: string }[] {
  return issues.map((issue) => ({ field: issue.path.map(String).join('.'), message: issue.message }))
}
