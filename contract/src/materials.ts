import { z } from 'zod'
import { open, Slug, Source, Title } from './shared'

/** A stretch of a book. */
export const ShelfChapter = open({
  title: z.string().max(200),
  pages: z.number('write pages').min(0).max(5000),
  topics: z.array(Slug).max(60).default([]),
})

/**
 * Something to learn from. What is counted depends on the kind: chapters with pages for a book, questions for a bank,
 * minutes for a recording; a test is a form of the exam format, or one that it does not know.
 */
export const ShelfItem = open({
  id: Slug.optional(),
  title: Title,
  kind: z.enum(['book', 'bank', 'recording', 'test']).optional(),
  chapters: z.array(ShelfChapter).max(200).optional(),
  inOrder: z.boolean().optional().describe('its chapters build on each other'),
  questions: z.number().int().min(1).max(100_000).optional(),
  perDay: z.number().int().min(1).max(500).optional().describe('questions wanted each working day'),
  minutes: z.number().int().min(1).max(100_000).optional(),
  topics: z.array(Slug).max(400).optional().describe('of a bank or recording; all when absent'),
  minutesEach: z
    .number()
    .positive()
    .max(600)
    .optional()
    .describe('minutes a page or a question, at the own pace'),
  source: Source.optional(),
  form: Slug.optional().describe("the exam format's form that this test is"),
  offset: z.number().min(-1000).max(1000).optional().describe('points it runs above the exam'),
  reserved: z.boolean().optional().describe('kept for rehearsal'),
  errors: z.string().max(2000).optional().describe('known errors in it'),
})

export const Materials = open({ items: z.array(ShelfItem).max(500).default([]) })

export type ShelfChapter = z.infer<typeof ShelfChapter>
export type ShelfItem = z.infer<typeof ShelfItem>
export type Materials = z.infer<typeof Materials>
