import { z } from 'zod'
import { Counts, ItemResponse } from './candidate'
import { PlainDate, Slug, Title, Uuid } from './shared'

/** A practice test that was sat. Scaled scores are derived, never stored. */
export const PracticeTest = z.looseObject({
  id: Uuid,
  date: PlainDate,
  form: Slug.optional().describe("one of the exam format's forms"),
  title: Title.optional().describe('for a test that is not one of the forms'),
  source: z.enum(['publisher', 'other']),
  seen: z.boolean().default(false).describe('the form had been sat before; kept out of the forecast'),
  counts: z.record(Slug, Counts).describe('by item group'),
  minutes: z.number().min(0).max(1440).optional(),
  responses: z
    .array(ItemResponse)
    .max(2000)
    .optional()
    .describe('item by item; the counts are then what these come to'),
  note: z.string().max(4000).default(''),
})
export type PracticeTest = z.infer<typeof PracticeTest>
