import { ApiFailure } from '../api'

/** Something that stands against what was typed: where, and what would be right. */
export interface Problem {
  field: string
  message: string
}

/** What the server, or anything else, has against a form. */
export function problemsOf(error: unknown): Problem[] {
  if (error instanceof ApiFailure)
    return error.failure?.issues ?? [{ field: error.failure?.field ?? '', message: error.message }]
  return [{ field: '', message: error instanceof Error ? error.message : String(error) }]
}

const isAt = (field: string, path: string): boolean => field === path || field.startsWith(`${path}.`)

/**
 * Problems by the fields of a form. `inside` is the path of the form's document in what was sent: a server that was sent
 * `{attempt: {date}}` names `attempt.date`, and the form's field is `date`.
 */
export function byField(problems: readonly Problem[], inside = '') {
  const own = problems.map(({ field, message }) => ({
    field: inside && isAt(field, inside) ? field.slice(inside.length + 1) : field,
    message,
  }))
  return {
    /** What is wrong with a field, or anywhere in it. */
    at: (path: string): string[] =>
      own.filter(({ field }) => isAt(field, path)).map(({ message }) => message),
    /** What is wrong with none of these fields: it stands above the form. */
    besides: (...paths: string[]): Problem[] =>
      own.filter(({ field }) => !paths.some((path) => isAt(field, path))),
  }
}

/** What is wrong inside a part of a document, whichever of these paths it was sent at, by the path within that part. */
export const within = (problems: readonly Problem[], ...parts: string[]): Problem[] =>
  problems.flatMap(({ field, message }) => {
    const part = parts.find((one) => field.startsWith(`${one}.`))
    return part === undefined ? [] : [{ field: field.slice(part.length + 1), message }]
  })
