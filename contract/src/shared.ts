import { z } from 'zod'

/**
 * An object of the open file format: keys that this version does not know are kept and come out again, at every depth. The
 * type does not show them, so that a mistyped name is still found.
 */
export const open = <S extends z.core.$ZodLooseShape>(shape: S): z.ZodObject<S> =>
  z.looseObject(shape) as unknown as z.ZodObject<S>

/** Values by key, at most so many: no list that comes in is without an end. */
export const table = <K extends z.core.$ZodRecordKey, V extends z.core.SomeType>(
  key: K,
  value: V,
  most: number,
) => z.record(key, value).refine((found) => Object.keys(found).length <= most, `at most ${most}`)

/** A score, or marks: any number a scale could have. */
export const Score = z.number().min(-1_000_000, 'at least -1 000 000').max(1_000_000, 'at most 1 000 000')

/** A figure that was worked out and is kept to be shown. */
export const Figure = z.number().min(-1e9).max(1e9)

/** What draws random numbers the same way again. */
export const Seed = z.number().int().min(-2_147_483_648).max(4_294_967_295)

/** A short name that other parts of a file refer to, such as `streams` or `spring-2031`. */
export const Slug = z
  .string()
  .regex(/^[a-z0-9][a-z0-9-]{0,59}$/, 'use small letters, digits and hyphens, at most 60')
  // The one such word that every object has a property of.
  .refine((slug) => slug !== 'constructor', 'this word cannot be used; choose another')

export const Uuid = z.uuid('an id of the form 00000000-0000-4000-8000-000000000000')

const isRealDate = (text: string): boolean => {
  const time = Date.parse(`${text}T00:00:00Z`)
  return Number.isFinite(time) && new Date(time).toISOString().startsWith(text)
}

/** A day without a time, `YYYY-MM-DD`. */
export const PlainDate = z
  .string()
  .regex(/^(19|2\d)\d{2}-\d{2}-\d{2}$/, 'write the date as YYYY-MM-DD, from 1900 to 2999')
  .refine(isRealDate, 'there is no such day; write the date as YYYY-MM-DD')

/** A time of day in the candidate's zone, `HH:MM`; `24:00` ends a day. */
export const TimeOfDay = z
  .string()
  .regex(/^(([01]\d|2[0-3]):[0-5]\d|24:00)$/, 'write the time as HH:MM, between 00:00 and 24:00')

const isZone = (zone: string): boolean => {
  try {
    new Intl.DateTimeFormat('en', { timeZone: zone })
    return true
  } catch {
    return false
  }
}

/** An IANA time zone. */
export const Zone = z.string().refine(isZone, 'name a time zone such as Etc/UTC')

/** A window of one day, `from` before `to`. */
export const Window = open({ from: TimeOfDay, to: TimeOfDay }).refine((window) => window.from < window.to, {
  message: 'the window must end after it starts',
  path: ['to'],
})

export const Weekday = z.number().int().min(1).max(7).describe('1 Monday to 7 Sunday')

/** Who wrote a test: the body that sets the exam, or somebody else. */
export const Source = z.enum(['publisher', 'other'])

/** Of a session in a plan, such as `study.tide-heights.3`: stable when the plan is made again. */
export const SessionId = z
  .string()
  .regex(/^[a-z0-9][a-z0-9.-]{0,119}$/, 'use small letters, digits, dots and hyphens')

/** What every stored thing that two people can edit carries; 0 is "not stored yet". */
export const Version = z.number().int().min(0).max(2_147_483_647)

export const Title = z.string().trim().min(1, 'write a name').max(200, 'at most 200 characters')

export type PlainDate = z.infer<typeof PlainDate>
export type TimeOfDay = z.infer<typeof TimeOfDay>
export type Source = z.infer<typeof Source>
export type Window = z.infer<typeof Window>
