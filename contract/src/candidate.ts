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
      .array(
        z.intersection(
          z.object({
            weekday: Weekday,
            light: z.boolean().optional().describe('a commute or the like: only light work'),
          }),
          Window,
        ),
      )
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
    minutesPerWeek: z
      .number()
      .int()
      .min(15, 'at least 15 minutes')
      .max(6300, 'at most 6300 minutes')
      .optional()
      .describe('no cap on the week when absent'),
    nights: z.boolean().default(false).describe('sessions between 23:00 and 06:00 are allowed'),
    keepWarm: z
      .boolean()
      .optional()
      .describe('a quarter of an hour on days that hold nothing else and have the time'),
    best: Window.optional().describe('the hours of the day in which new and hard work goes best'),
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

/** When something else is on: dated, in the candidate's zone, an all-day event as 00:00 to 24:00. */
export const Busy = z.intersection(z.object({ date: PlainDate }), Window)

/** A calendar of commitments. Only when one is busy is kept, never with what. */
export const BusyCalendar = z.looseObject({
  id: Uuid,
  title: Title,
  address: z
    .url({ protocol: /^https?$/, error: 'an address that begins with https://' })
    .max(2000)
    .optional()
    .describe('where it is read again; it stays on this server and is left out of Climber files'),
  readAt: z.iso.datetime(),
  events: z.number().int().min(0),
  busy: z.array(Busy).max(20_000, 'at most 20 000 busy spans'),
})

export const Commitments = z.looseObject({ calendars: z.array(BusyCalendar).max(20).default([]) })

/** A stretch of the plan with its own rhythm; shares are of the days before the taper. */
export const StageSetting = z.object({
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
export const Schools = z.object({
  firstTest: z.enum(['at once', 'after the first read']).optional(),
  order: z.enum(['yield', 'weakest', 'easiest section', 'book']).optional(),
  tests: z.enum(['by lead time', 'weekly', 'few, then often', 'near the end']).optional(),
  review: z.enum(['misses, doubtful and lucky', 'misses', 'every question']).optional(),
  mistakes: z.enum(['cause', 'full note']).optional(),
  lastDays: z.enum(['stop', 'light work to the eve']).optional(),
  subjects: z.enum(['mixed', 'a section a week']).optional(),
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
  visit: z.boolean().optional().describe('a trip to see the place of the exam'),
})

const goalItems = z
  .number('write how many items')
  .int('a whole number of items')
  .min(1, 'at least one')
  .max(1000)
const goalMinutes = z.number('write minutes').positive('more than 0 minutes').max(2400)

/** A goal of pace as people say it; items are counted in the order in which they are taken. */
export const PaceGoal = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('by'), items: goalItems, minutes: goalMinutes }),
  z.object({ kind: z.literal('each'), items: goalItems, seconds: z.number().positive().max(36_000) }),
  z.object({ kind: z.literal('sets'), sets: goalItems, minutesEach: goalMinutes }),
  z.object({ kind: z.literal('last'), items: goalItems, minutes: goalMinutes }),
])

export const SectionPacing = z.object({
  reserveMinutes: z.number('write minutes').min(0, 'not less than 0').max(300, 'at most 300').default(0),
  goal: z
    .object({ items: z.number().int().min(1), byMinutes: z.number().positive() })
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
  pauses: z
    .object({
      everyMinutes: z.number('write minutes').min(5, 'at least 5').max(240),
      minutes: z.number('write minutes').min(0.5, 'at least half a minute').max(60),
    })
    .nullable()
    .optional()
    .describe('in an untimed section; 2 minutes after every 20 when absent'),
})

export const Pacing = z.looseObject({
  sections: z.record(Slug, SectionPacing).default({}),
  order: z.array(Slug).max(12).optional().describe('sections, where the exam leaves their order free'),
})

/** One short set against the clock. */
export const DrillRound = z.object({
  id: Uuid,
  date: PlainDate,
  section: Slug,
  group: Slug,
  budgetSeconds: z.number().positive().max(36_000).describe('for each item'),
  items: z
    .array(
      z.object({
        seconds: z.number().min(0).max(36_000),
        right: z.boolean().nullable().describe('null where left'),
        topic: Slug.optional(),
      }),
    )
    .min(1)
    .max(60),
})

/** Pace drills that were done. */
export const Drills = z.looseObject({ rounds: z.array(DrillRound).max(500).default([]) })

const rate = z.number('write a per cent').min(0, 'not less than 0').max(1, 'not more than 100%')

/** How far the candidate's own feeling of certainty can be trusted, and what the trainer saw. */
export const Guessing = z.looseObject({
  sure: rate.optional().describe('share right of answers thought sure; measured when absent'),
  betweenTwo: rate.optional(),
  rounds: z
    .array(
      z.object({
        id: Uuid,
        date: PlainDate,
        seed: z.number().int().min(0),
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

/** A stretch of a book. */
export const ShelfChapter = z.object({
  title: z.string().max(200),
  pages: z.number('write pages').min(0).max(5000),
  topics: z.array(Slug).max(60).default([]),
})

/**
 * Something to learn from. What is counted depends on the kind: chapters with pages for a book, questions for a bank,
 * minutes for a recording; a test is a form of the exam format, or one that it does not know.
 */
export const ShelfItem = z.looseObject({
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
  source: z.enum(['publisher', 'other']).optional(),
  form: Slug.optional().describe("the exam format's form that this test is"),
  offset: z.number().min(-1000).max(1000).optional().describe('points it runs above the exam'),
  reserved: z.boolean().optional().describe('kept for rehearsal'),
  errors: z.string().max(2000).optional().describe('known errors in it'),
})

export const Materials = z.looseObject({ items: z.array(ShelfItem).max(500).default([]) })

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
  commitments: Commitments,
  drills: Drills,
  guessing: Guessing,
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
export type PaceGoal = z.infer<typeof PaceGoal>
export type Pacing = z.infer<typeof Pacing>
export type DrillRound = z.infer<typeof DrillRound>
export type Drills = z.infer<typeof Drills>
export type Guessing = z.infer<typeof Guessing>
export type Busy = z.infer<typeof Busy>
export type BusyCalendar = z.infer<typeof BusyCalendar>
export type Commitments = z.infer<typeof Commitments>
export type StageSetting = z.infer<typeof StageSetting>
export type Schools = z.infer<typeof Schools>
export type ShelfChapter = z.infer<typeof ShelfChapter>
export type ShelfItem = z.infer<typeof ShelfItem>
export type Materials = z.infer<typeof Materials>
export type ExamDay = z.infer<typeof ExamDay>
