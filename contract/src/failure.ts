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
  request: z.string().optional().describe('quote this when you report the fault'),
})
export type Failure = z.infer<typeof Failure>

/** Every problem of a Zod error, as paths and sentences. */
export function issuesOf(error: z.ZodError): { field: string; message: string }[] {
  return error.issues.map((issue) => ({ field: issue.path.map(String).join('.'), message: issue.message }))
}
