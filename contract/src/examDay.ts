import { z } from 'zod'
import { open, Slug } from './shared'

export const ExamDay = open({
  travelMinutes: z.number('write minutes').int().min(0).max(1440).default(45),
  earlyMinutes: z
    .number('write minutes')
    .int()
    .min(0)
    .max(240)
    .default(30)
    .describe('to be there before the start'),
  readyMinutes: z
    .number('write minutes')
    .int()
    .min(0)
    .max(600)
    .default(75)
    .describe('from getting up to leaving'),
  packed: z.array(Slug).max(400).default([]),
})

export type ExamDay = z.infer<typeof ExamDay>
