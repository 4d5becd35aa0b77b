import { z } from 'zod'
import { Availability } from './availability'
import { Profile } from './candidate'
import { Commitments } from './commitments'
import { ExamDay } from './examDay'
import { Guessing } from './guessing'
import { Materials } from './materials'
import { Pacing } from './pacing'
import { Ratings } from './ratings'
import { Settings } from './settings'
import { Target } from './target'

/**
 * The registry: the separately saved parts of a candidate's record, in the order of the Climber file. What is listed here is
 * stored, saved by itself, read by the core, in the file and in its JSON Schema; nothing else lists them.
 */
export const parts = {
  candidate: Profile,
  availability: Availability,
  materials: Materials,
  ratings: Ratings,
  target: Target,
  settings: Settings,
  pacing: Pacing,
  examDay: ExamDay,
  commitments: Commitments,
  guessing: Guessing,
} as const

export const PartName = z.enum(Object.keys(parts) as [keyof typeof parts, ...(keyof typeof parts)[]])
export const partNames = PartName.options

export type PartName = z.infer<typeof PartName>
export type PartDocument<P extends PartName> = z.infer<(typeof parts)[P]>
export type PartDocuments = { [P in PartName]: PartDocument<P> }

/** What a part is before anybody wrote it; the rest comes from the defaults of its schema. */
const blank: Partial<Record<PartName, unknown>> = { candidate: { name: 'Candidate' } }

/** One part with its defaults filled in, checked where it was stored or read. Throws Zod's error where it is not one. */
export const partFrom = <P extends PartName>(part: P, document?: unknown): PartDocument<P> =>
  parts[part].parse(document ?? blank[part] ?? {}) as PartDocument<P>
