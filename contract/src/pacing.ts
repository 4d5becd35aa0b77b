import { z } from 'zod'
import { open, Slug, table } from './shared'

const goalItems = z
  .number('write how many items')
  .int('a whole number of items')
  .min(1, 'at least one')
  .max(1000)

const goalMinutes = z.number('write minutes').positive('more than 0 minutes').max(2400)

/** A goal of pace as people say it; items are counted in the order in which they are taken. */
export const PaceGoal = z.discriminatedUnion('kind', [
  open({ kind: z.literal('by'), items: goalItems, minutes: goalMinutes }),
  open({ kind: z.literal('each'), items: goalItems, seconds: z.number().positive().max(36_000) }),
  open({ kind: z.literal('sets'), sets: goalItems, minutesEach: goalMinutes }),
  open({ kind: z.literal('last'), items: goalItems, minutes: goalMinutes }),
])

export const SectionPacing = open({
  reserveMinutes: z.number('write minutes').min(0, 'not less than 0').max(300, 'at most 300').default(0),
  goal: open({ items: z.number().int().min(1).max(1000), byMinutes: z.number().positive().max(2400) })
    .nullable()
    .default(null)
    .describe('one goal, as older files have it; `goals` takes its place'),
  goals: z.array(PaceGoal).max(12, 'at most 12 goals').optional(),
  every: z.number().int().min(1).max(100).nullable().default(null).describe('items between checkpoints'),
  rise: z
    .number('write a number')
    .min(1, 'not less than 1')
    .max(5, 'at most 5')
    .optional()
    .describe('where items get harder: the time of the last against the first; 2 when absent'),
  passes: z.number().int().min(1).max(3).optional().describe('times through the section'),
  order: z.array(Slug).max(60).optional().describe('item groups in the order in which they are taken'),
  pauses: open({
    everyMinutes: z.number('write minutes').min(5, 'at least 5').max(240),
    minutes: z.number('write minutes').min(0.5, 'at least half a minute').max(60),
  })
    .nullable()
    .optional()
    .describe('in an untimed section; 2 minutes after every 20 when absent'),
})

export const Pacing = open({
  sections: table(Slug, SectionPacing, 12).default({}),
  order: z.array(Slug).max(12).optional().describe('sections, where the exam leaves their order free'),
})

export type PaceGoal = z.infer<typeof PaceGoal>
export type SectionPacing = z.infer<typeof SectionPacing>
export type Pacing = z.infer<typeof Pacing>
