import type { Failure } from '@climber/contract'

/** What HTTP calls each kind of refusal. */
export const statusOf: Record<Failure['code'], number> = {
  invalid: 422,
  'not-signed-in': 401,
  'not-found': 404,
  conflict: 409,
  'wrong-password': 401,
  'too-many': 429,
  busy: 429,
  forged: 403,
  forbidden: 403,
  unavailable: 503,
  internal: 500,
}

/** An answer other than the one asked for, in the one shape of errors. Services throw it; `app.ts` writes it. */
export class Refusal extends Error {
  constructor(readonly failure: Failure) {
    super(failure.message)
  }

  get status(): number {
    return statusOf[this.failure.code]
  }
}

/** Somebody who may read and not do this. */
export const forbidden = (): Refusal =>
  new Refusal({ code: 'forbidden', message: 'You may look at this, but not change it.' })

export const notFound = (): Refusal =>
  new Refusal({ code: 'not-found', message: 'There is nothing here that you may see.' })

/** Problems told at once; a file can have as many as it has lines. */
const mostIssues = 200

export function invalid(found: { field: string; message: string }[]): Refusal {
  const issues =
    found.length <= mostIssues
      ? found
      : [
          ...found.slice(0, mostIssues),
          { field: '', message: `and ${found.length - mostIssues} more problems` },
        ]
  const [first] = issues
  return new Refusal({
    code: 'invalid',
    message: first
      ? first.field
        ? `${first.field}: ${first.message}`
        : first.message
      : 'The input is not valid.',
    field: first?.field,
    issues,
  })
}

/** Two people changed the same thing: `current` is what is stored now. */
export const conflict = (current: unknown, changedBy?: string, message?: string): Refusal =>
  new Refusal({
    code: 'conflict',
    message:
      message ??
      `${changedBy ?? 'Someone'} changed this in the meantime. Nothing of yours is lost: keep theirs, or save yours over it.`,
    current,
    changedBy,
  })

/** The same where it is known who; one's own save may have been stored though its answer was lost. */
export const conflictWith = (
  current: unknown,
  by: { id: string; name: string } | null | undefined,
  userId: string,
): Refusal =>
  by?.id === userId
    ? conflict(
        current,
        'You yourself',
        'You yourself changed this in the meantime: in another window, or by a save whose answer was lost. Nothing is lost: keep what is stored, or save yours over it.',
      )
    : conflict(current, by?.name)
