import { z } from 'zod'
import { PlainDate, Slug, Title, Uuid, Weekday, Window, Zone } from './shared'

export const Profile = z.looseObject({
  name: Title,
  note: z.string().max(4000).default(''),
})

/** When the candidate is free to study. Windows of one day must not overlap. */
export const Availability = z
  .looseObject({
    zone: Zone.default('Etc/UTC'),
    windows: z
      .array(z.intersection(z.object({ weekday: Weekday }), Window))
      .max(200)
      .default([]),
    exceptions: z
      .array(z.object({ date: PlainDate, windows: z.array(Window).max(20) }))
      .max(1000)
      .default([]),
    daysOff: z.array(PlainDate).max(1000).default([]),
    minutesPerDay: z
      .number()
      .int()
      .min(15, 'at least 15 minutes')
      .max(900, 'at most 900 minutes')
      .default(240),
    daysPerWeek: z.number().int().min(1, 'at least one day').max(7, 'a week has 7 days').default(6),
    nights: z.boolean().default(false).describe('sessions between 23:00 and 06:00 are allowed'),
  })
  .superRefine((availability, context) => {
    const overlap = (windows: Window[], path: (string | number)[]) => {
      const sorted = [...windows].sort((a, b) => a.from.localeCompare(b.from))
      sorted.forEach((window, at) => {
        const before = sorted[at - 1]
        if (before && window.from < before.to)
          context.addIssue({
            code: 'custom',
            path,
            message: `${window.from} starts before ${before.to}, where the window before it ends`,
          })
      })
    }
    for (let weekday = 1; weekday <= 7; weekday++)
      overlap(
        availability.windows.filter((window) => window.weekday === weekday),
        ['windows'],
      )
    availability.exceptions.forEach((exception, row) =>
      overlap(exception.windows, ['exceptions', row, 'windows']),
    )
  })

const count = z.number('write a whole number').int('write a whole number').min(0, 'not less than 0').max(1000)

/** Right, wrong and left blank; `notReached` are those of the blanks that stand in one run at the end. */
export const Counts = z
  .object({
    right: count,
    wrong: count,
    blank: count,
    notReached: count.default(0),
    marks: z.number().min(0, 'not less than 0').max(100_000).optional().describe('of written answers'),
  })
  .refine((counts) => counts.notReached <= counts.blank, {
    message: 'not reached are some of the blank ones, so not more than those',
    path: ['notReached'],
  })

/** `covered`: gone through in a course, but never tested. */
export const SelfRating = z.enum(['weak', 'fair', 'strong', 'not-covered', 'covered'])

export const Confidence = z.enum(['sure', 'between two', 'no idea'])

/** One item of a test as it was answered; items are numbered from 1 through the whole test. */
export const ItemResponse = z.object({
  item: z.number().int().min(1).max(100_000),
  answer: z.string().max(40).describe('empty where left blank; marks earned, where written'),
  key: z.string().max(40),
  topic: Slug.optional(),
  seconds: z.number().min(0).max(86_400).optional(),
  confidence: Confidence.optional(),
  changedFrom: z.string().max(40).optional(),
})

/** A test that was sat before the diagnostic. */
export const EarlierTest = z.object({
  id: Uuid,
  date: PlainDate,
  title: z.string().max(200).default(''),
  form: Slug.optional(),
  sections: z.record(Slug, Counts).default({}).describe('by item group'),
  topics: z.record(Slug, Counts).default({}),
  responses: z.array(ItemResponse).max(60_000).optional(),
})

/** What is known of the candidate before any logged practice test. */
export const Diagnosis = z.looseObject({
  date: PlainDate.optional(),
  form: Slug.optional().describe('the form that was sat, if it was a full test'),
  sections: z.record(Slug, Counts).default({}).describe('by item group'),
  topics: z.record(Slug, z.object({ counts: Counts.optional(), rating: SelfRating.optional() })).default({}),
  responses: z.array(ItemResponse).max(60_000).optional(),
  earlier: z.array(EarlierTest).max(50).default([]),
  halfWeightDays: z
    .number('write days')
    .min(1, 'at least a day')
    .max(3650)
    .default(60)
    .describe('a test this much older than the newest counts half'),
})

/** A place one applies to; `composite` where it weighs the sections in a way of its own. */
export const Place = z.object({
  id: Slug,
  title: z.string().max(200),
  asks: z.number('write the score it asks for'),
  weights: z.record(Slug, z.number().min(0)).optional().describe('by section; the exam format’s when absent'),
})

export const Target = z.looseObject({
  kind: z
    .enum(['number', 'cut', 'places', 'percentile', 'moving'])
    .optional()
    .describe('where the target comes from; a number, or else the cut, when absent'),
  scaled: z.number('write the scaled score you need').optional(),
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

/** How the plan is made; every default is the stated one of docs/models.md. */
export const Settings = z.looseObject({
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
  topicHours: z.record(Slug, z.number().positive().max(500)).default({}),
})

export const SectionPacing = z.object({
  reserveMinutes: z.number().min(0, 'not less than 0').max(300).default(0),
  goal: z
    .object({ items: z.number().int().min(1), byMinutes: z.number().positive() })
    .nullable()
    .default(null),
  every: z.number().int().min(1).max(100).nullable().default(null).describe('items between checkpoints'),
})

export const Pacing = z.looseObject({ sections: z.record(Slug, SectionPacing).default({}) })

export const ExamDay = z.looseObject({
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
  packed: z.array(Slug).default([]),
})

export const Materials = z.looseObject({
  items: z
    .array(z.looseObject({ title: Title }))
    .max(500)
    .default([]),
})

/** The separately saved parts of a candidate's record. */
export const parts = {
  candidate: Profile,
  availability: Availability,
  diagnosis: Diagnosis,
  target: Target,
  settings: Settings,
  pacing: Pacing,
  materials: Materials,
  examDay: ExamDay,
} as const

export const PartName = z.enum(Object.keys(parts) as [keyof typeof parts, ...(keyof typeof parts)[]])
export type PartName = z.infer<typeof PartName>
export type PartDocument<P extends PartName> = z.infer<(typeof parts)[P]>

export type Profile = z.infer<typeof Profile>
export type Availability = z.infer<typeof Availability>
export type Counts = z.infer<typeof Counts>
export type SelfRating = z.infer<typeof SelfRating>
export type Confidence = z.infer<typeof Confidence>
export type ItemResponse = z.infer<typeof ItemResponse>
export type EarlierTest = z.infer<typeof EarlierTest>
export type Place = z.infer<typeof Place>
export type Diagnosis = z.infer<typeof Diagnosis>
export type Target = z.infer<typeof Target>
export type Settings = z.infer<typeof Settings>
export type SectionPacing = z.infer<typeof SectionPacing>
export type Pacing = z.infer<typeof Pacing>
export type ExamDay = z.infer<typeof ExamDay>
