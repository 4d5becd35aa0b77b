import { z } from 'zod'
import { open, Slug, table } from './shared'

/** A place one applies to; `composite` where it weighs the sections in a way of its own. */
export const Place = open({
  id: Slug,
  title: z.string().max(200),
  asks: z.number('write the score it asks for').min(-1_000_000).max(1_000_000),
  weights: table(Slug, z.number().min(0).max(1000), 12)
    .optional()
    .describe('by section; the exam format’s when absent'),
})

export const Target = open({
  kind: z
    .enum(['number', 'cut', 'places', 'percentile', 'moving'])
    .optional()
    .describe('where the target comes from; a number, or else the cut, when absent'),
  scaled: z.number('write the scaled score you need').min(-1_000_000).max(1_000_000).optional(),
  percentile: z.number('write a per cent').gt(0, 'more than 0').lt(100, 'less than 100').optional(),
  places: z.array(Place).max(60).optional(),
  open: z
    .number()
    .int()
    .min(1)
    .max(60)
    .optional()
    .describe('how many of the places should open; 1 when absent'),
  sitting: Slug.optional(),
})

export type Place = z.infer<typeof Place>
export type Target = z.infer<typeof Target>
