import { z } from 'zod'
import { open, Slug, table } from './shared'

/** `covered`: gone through in a course, but never tested. */
export const SelfRating = z.enum(['weak', 'fair', 'strong', 'not-covered', 'covered'])

/** What the candidate says of the topics, and how fast what was sat before the plan grows old. */
export const Ratings = open({
  topics: table(Slug, SelfRating, 500).default({}),
  halfWeightDays: z
    .number('write days')
    .min(1, 'at least a day')
    .max(3650)
    .default(60)
    .describe('a test this much older than the newest of the baseline counts half'),
})

export type SelfRating = z.infer<typeof SelfRating>
export type Ratings = z.infer<typeof Ratings>
