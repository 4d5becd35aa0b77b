import { BaseError, ForeignKeyConstraintError, UniqueConstraintError } from 'sequelize'
import type { Failure } from '@climber/contract'
import { forged } from './csrf'
import { Refusal, statusOf } from './refusal'

const isDatabaseDown = (error: unknown): boolean =>
  error instanceof BaseError && /Connection|Acquire|ECONN|socket/i.test(`${error.name} ${error.message}`)

/** What an error of Express and its parsers is, which they say by a status and a type. */
function ofRequest({ status, type, code }: { status?: number; type?: string; code?: string }) {
  if (code === 'EBADCSRFTOKEN') return forged()
  if (type === 'entity.too.large')
    return new Refusal({ code: 'invalid', message: 'That is more than is taken at once.' })
  return status !== undefined && status >= 400 && status < 500
    ? new Refusal({ code: 'invalid', message: 'This request cannot be read.' })
    : undefined
}

/** MariaDB's number of an error; 0 where it is none of the database's. */
export const errnoOf = (error: unknown): number =>
  (error as { parent?: { errno?: number } } | undefined)?.parent?.errno ?? 0

/** What MariaDB says when its disk is full, or it may only read. */
const noRoom = [3, 28, 1021, 1026, 1030, 1114, 1290, 1836]

/** What the database refused because of what somebody else did at the same moment. */
function ofDatabase(error: unknown): Failure | undefined {
  if (error instanceof UniqueConstraintError)
    return { code: 'conflict', message: 'The same was made by another request at this moment. Look again.' }
  if (error instanceof ForeignKeyConstraintError)
    return { code: 'not-found', message: 'What this belongs to was deleted meanwhile.' }
  const errno = errnoOf(error)
  if (noRoom.includes(errno))
    return {
      code: 'unavailable',
      message: 'The server’s disk is full. What you typed is kept; it is sent again in a moment.',
    }
  return errno === 1213 || errno === 1205
    ? { code: 'busy', message: 'Others are changing the same just now. Try again in a moment.' }
    : undefined
}

/** What an error is to whoever asked; undefined where it is nobody's fault but ours. */
export function failureOf(error: unknown): Failure | undefined {
  if (error instanceof Refusal) return error.failure
  if (isDatabaseDown(error))
    return {
      code: 'unavailable',
      message:
        'The database does not answer. What you typed is kept; it is sent again in a moment, and stored once even if it was stored already.',
    }
  return ofDatabase(error) ?? ofRequest((error ?? {}) as { status?: number })?.failure
}

export const internal: Failure = {
  code: 'internal',
  message: 'Something went wrong on the server. What you typed is kept.',
}
export const statusOfFailure = ({ code }: Failure): number => statusOf[code]

const frames = (stack: string | undefined): string[] =>
  (stack ?? '').split('\n').filter((line) => /^\s+at /.test(line))

/**
 * An error as it may stand in a log. What a database says of one holds the statement with its values: notes, addresses, hashes;
 * of such only the kind, the numbers and where it happened are told.
 */
export function loggable(error: unknown): object {
  if (!(error instanceof Error)) return { type: typeof error }
  const { name, message, stack } = error
  const parent = (error as { parent?: { errno?: number; sqlState?: string; code?: string } }).parent
  const ofDatabase = error instanceof BaseError || 'sql' in error || 'sqlState' in error
  if (!ofDatabase) return { type: name, message: message.slice(0, 500), stack: frames(stack) }
  const told = parent ?? (error as { errno?: number; sqlState?: string; code?: string })
  return {
    type: name,
    ...(told.errno !== undefined && { errno: told.errno }),
    ...(told.sqlState !== undefined && { sqlState: told.sqlState }),
    ...(told.code !== undefined && { code: told.code }),
    stack: frames(stack),
  }
}
