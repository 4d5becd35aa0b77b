import { z } from 'zod'
import { open, PlainDate, Seed, Slug, Uuid } from './shared'

const rate = z.number('write a per cent').min(0, 'not less than 0').max(1, 'not more than 100%')

/** How far the candidate's own feeling of certainty can be trusted, and what the trainer saw. */
export const Guessing = open({
  sure: rate.optional().describe('share right of answers thought sure; measured when absent'),
  betweenTwo: rate.optional(),
  rounds: z
    .array(
      open({
        id: Uuid,
        date: PlainDate,
        seed: Seed,
        section: Slug,
        decided: z.number().int().min(1).max(100),
        best: z.number().int().min(0).max(100).describe('decisions that were the better ones'),
        cost: z.number().min(0).max(100).describe('chance of the target given away, added up'),
        answeredTooOften: z.number().int().min(0).max(100),
        leftTooOften: z.number().int().min(0).max(100),
      }),
    )
    .max(500)
    .default([]),
})

export type Guessing = z.infer<typeof Guessing>
