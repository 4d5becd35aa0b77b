import { z } from 'zod'
import { open, PlainDate, SessionId, Slug, Source, table, TimeOfDay, Uuid } from './shared'

const count = z.number('write a whole number').int('write a whole number').min(0, 'not less than 0').max(1000)

/** Right, wrong and left blank; `notReached` are those of the blanks that stand in one run at the end. */
export const Counts = open({
  right: count,
  wrong: count,
  blank: count,
  notReached: count.default(0),
  marks: z.number().min(0, 'not less than 0').max(100_000).optional().describe('of written answers'),
}).refine((counts) => counts.notReached <= counts.blank, {
  message: 'not reached are some of the blank ones, so not more than those',
  path: ['notReached'],
})

/** How sure of an answer one was as it was given: the doubt that is marked on the paper. */
export const Confidence = z.enum(['sure', 'between two', 'no idea'])

const seconds = z
  .number('write a number of seconds')
  .min(0, 'seconds are 0 or more')
  .max(86_400, 'at most 86,400 seconds, a day')

/**
 * One item of an attempt as it was answered; items are numbered from 1 through the whole paper, or through the set. Judged by
 * answer and key, or by `right` where only that is known.
 */
export const ItemResponse = open({
  item: z.number().int().min(1).max(100_000),
  id: z.string().min(1).max(120).optional().describe('of the item itself, wherever it is met again'),
  answer: z.string().max(40).optional().describe('empty where left blank; marks earned, where written'),
  key: z.string().max(40).optional(),
  right: z.boolean().nullable().optional().describe('null where left; for what has no answer and key'),
  marks: z.number().min(0).max(1000).optional(),
  criteria: z
    .array(z.number().min(0).max(1000).nullable())
    .max(20)
    .optional()
    .describe("marks by what earns them, in the form's order; null where not looked at yet"),
  topic: Slug.optional(),
  seconds: seconds.optional().describe('over all visits'),
  visits: z.array(seconds).max(200).optional().describe('seconds of each visit'),
  confidence: Confidence.optional(),
  changedFrom: z.string().max(40).optional().describe('the answer before the last change'),
  changes: z.array(z.string().max(40)).max(100).optional().describe('every answer given, oldest first'),
  order: z.number().int().min(1).max(100_000).optional().describe('the how-manieth item taken up'),
  late: open({ answer: z.string().max(40), seconds: seconds.optional() })
    .optional()
    .describe('what was answered after the bell, and how long after if known: it does not count'),
})

export const AttemptKind = z.enum([
  'diagnostic',
  'earlier',
  'practice',
  'section',
  'set',
  'drill',
  'retest',
  'exam',
])

/** Counts at whatever grain is known, each grain by itself: they say the same items, more or less finely. */
export const AttemptCounts = open({
  total: Counts.optional(),
  sections: table(Slug, Counts, 12).optional(),
  groups: table(Slug, Counts, 800).default({}).describe('by item group'),
  topics: table(Slug, Counts, 500).default({}),
})

/** Under what conditions it was sat. */
export const Conditions = open({
  examHour: z.boolean().optional().describe('at the time of day of the exam'),
  alone: z.boolean().optional(),
  noise: z.boolean().optional(),
  tired: z.boolean().optional(),
  untimed: z.boolean().optional(),
  note: z.string().max(2000).optional(),
})

/**
 * Anything that was sat: the diagnostic, tests before it, practice tests, sections, sets, drills, retests, the exam itself.
 * Scaled scores are derived, never stored.
 */
export const Attempt = open({
  id: Uuid,
  kind: AttemptKind,
  date: PlainDate.optional().describe('only a diagnostic may lack it'),
  start: TimeOfDay.optional(),
  minutes: z.number().min(0).max(1440).optional(),
  form: Slug.optional().describe("one of the exam format's forms, or a test of the shelf"),
  title: z.string().max(200).optional().describe('for what is not one of the forms'),
  material: Slug.optional().describe('what of the shelf it was taken from'),
  source: Source.optional().describe("the form's when absent"),
  maker: z.string().max(200).optional().describe('by name'),
  scope: open({
    sections: z.array(Slug).max(12).optional(),
    groups: z.array(Slug).max(60).optional(),
    topics: z.array(Slug).max(500).optional(),
  })
    .optional()
    .describe('what of the exam was sat; the whole when absent'),
  medium: z.enum(['paper', 'screen']).optional(),
  session: SessionId.optional().describe('the session of the plan that it was'),
  of: Uuid.optional().describe('the attempt whose misses a retest takes up'),
  seen: z.boolean().default(false).describe('the form had been sat before; kept out of the forecast'),
  conditions: Conditions.optional(),
  budgetSeconds: z.number().positive().max(36_000).optional().describe('for each item, of a pace drill'),
  counts: AttemptCounts.default({ groups: {}, topics: {} }),
  items: z
    .array(ItemResponse)
    .max(60_000)
    .superRefine((items, context) => {
      const seen = new Set<number>()
      items.forEach(({ item }, row) => {
        if (seen.size === seen.add(item).size)
          context.addIssue({ code: 'custom', path: [row, 'item'], message: `item ${item} stands here twice` })
      })
    })
    .optional()
    .describe('item by item; the counts are then what these come to'),
  note: z.string().max(4000).optional(),
}).refine(({ kind, date }) => kind === 'diagnostic' || date !== undefined, {
  message: 'say the day on which it was sat',
  path: ['date'],
})

/** The diagnostic has one id in every record, so that two people who begin to write it down at once meet in it. */
export const diagnosticId = '00000000-0000-4000-8000-00000000d1a9'

export type Counts = z.infer<typeof Counts>
export type Confidence = z.infer<typeof Confidence>
export type ItemResponse = z.infer<typeof ItemResponse>
export type AttemptKind = z.infer<typeof AttemptKind>
export type AttemptCounts = z.infer<typeof AttemptCounts>
export type Conditions = z.infer<typeof Conditions>
export type Attempt = z.infer<typeof Attempt>
