import { z } from 'zod'
import { open, Slug, table } from './shared'

/** A stretch of the plan with its own rhythm; shares are of the days before the taper. */
export const StageSetting = open({
  name: z.string().trim().min(1, 'write a name').max(40),
  share: z.number('write a share').gt(0, 'more than 0').max(1),
  testEvery: z
    .number('write days')
    .int()
    .min(0)
    .max(120)
    .describe('days from one test to the next; 0 for no tests'),
  rehearsal: z.boolean().describe("the publisher's tests may be used here"),
  mixedEvery: z.number().int().min(2).max(50).optional().describe('one study session in so many is mixed'),
})

/** The schools of preparation that can be chosen between; absent, the first of each is meant. */
export const Schools = open({
  firstTest: z.enum(['at once', 'after the first read']).optional(),
  order: z.enum(['yield', 'weakest', 'easiest section', 'book']).optional(),
  counts: z
    .enum(['odds', 'points'])
    .optional()
    .describe('what an hour counts by: the odds of the target and every cut, or points of the whole score'),
  tests: z.enum(['by lead time', 'weekly', 'few, then often', 'near the end']).optional(),
  review: z.enum(['misses, doubtful and lucky', 'misses', 'every question']).optional(),
  mistakes: z.enum(['cause', 'three causes', 'full note']).optional(),
  lastDays: z.enum(['stop', 'light work to the eve']).optional(),
  subjects: z.enum(['mixed', 'a section a week']).optional(),
})

/** How the plan is made; every default is the stated one of docs/models.md. */
export const Settings = open({
  sessionMinutes: z.number().int().min(20, 'at least 20').max(180, 'at most 180').default(50),
  breakMinutes: z.number().int().min(0).max(60).default(10),
  reviewRatio: z.number().min(0.25, 'at least a quarter').max(4, 'at most four times').default(1.5),
  slackShare: z.number().min(0).max(0.5).default(0.125),
  taperDays: z.number().int().min(0).max(7).default(2),
  testEveryDays: z.number().int().min(2).max(60).nullable().default(null).describe('null: by lead time'),
  timeFactor: z
    .number()
    .min(1, 'not less than 1')
    .max(4)
    .default(1)
    .describe('extra time granted, 1.25 is a quarter more'),
  accommodation: Slug.optional().describe("one of the exam format's; it takes the place of timeFactor"),
  topicHours: table(Slug, z.number().positive().max(500), 500).default({}),
  schools: Schools.optional(),
  stages: z
    .array(StageSetting)
    .min(1)
    .max(8)
    .refine((stages) => stages.reduce((sum, { share }) => sum + share, 0) <= 1.0001, {
      message: 'the shares of the stages add up to more than the whole',
    })
    .optional()
    .describe('in place of the stages that the lead time gives'),
  rehearsals: z
    .array(z.number().int().min(1).max(400))
    .max(10)
    .optional()
    .describe('days before the exam at which a full rehearsal is wished for'),
  resitFirst: z.boolean().optional().describe('the first test sat again near the end'),
  retestDays: z
    .number()
    .int()
    .min(2)
    .max(60)
    .nullable()
    .optional()
    .describe(
      'days after a review until what was missed is tried again; 7 when absent, no retests when null',
    ),
  recall: open({
    minutes: z
      .number('write minutes')
      .int('a whole number')
      .min(1, 'at least 1')
      .max(180, 'at most 180')
      .optional()
      .describe('a day for what must come back from memory; 15 when absent'),
    fresh: z
      .number('write a number')
      .int('a whole number')
      .min(0, 'not negative')
      .max(200, 'at most 200')
      .optional()
      .describe('new cards a day; as many as the minutes carry to the exam when absent'),
  }).optional(),
  visit: z.boolean().optional().describe('a trip to see the place of the exam'),
})

export type StageSetting = z.infer<typeof StageSetting>
export type Schools = z.infer<typeof Schools>
export type Settings = z.infer<typeof Settings>
