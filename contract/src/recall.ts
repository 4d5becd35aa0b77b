import { z } from 'zod'
import { open, PlainDate, Seed, Slug, Uuid, Version } from './shared'

const Value = z.number('write a number').min(-1e12, 'at least -1e12').max(1e12, 'at most 1e12')
const FormulaText = z.string().trim().min(1, 'write a formula').max(500, 'at most 500 characters')

/** What a number of a question is called in its text and formulas. */
const NumberName = z
  .string()
  .regex(/^[a-z][a-z0-9_]{0,19}$/i, 'begin with a letter; letters, digits and _ only, at most 20')

/** A number that is drawn anew each time: from low to high in steps. */
const DrawnNumber = open({
  name: NumberName,
  low: Value,
  high: Value,
  step: z.number('write a number').gt(0, 'more than 0').max(1e12, 'at most 1e12'),
}).refine(({ low, high }) => low <= high, { path: ['high'], message: 'not less than the lowest' })

/** How far an answer may be off and still be right. */
const Tolerance = z.discriminatedUnion('kind', [
  open({ kind: z.literal('absolute'), within: z.number().min(0, 'not negative').max(1e12) }),
  open({
    kind: z.literal('relative'),
    within: z.number().min(0, 'not negative').max(1, 'at most 1, which is 100%'),
  }),
  open({
    kind: z.literal('figures'),
    figures: z.number().int('a whole number').min(1, 'at least 1').max(12, 'at most 12'),
  }),
])

/** A wrong formula that stands for a common slip, whose value names it. */
const Slip = open({
  formula: FormulaText,
  name: z.string().trim().min(1, 'name the slip').max(120, 'at most 120 characters'),
})

/** A question whose numbers change: the text names them in braces, and may show what a formula comes to as `{= p * h}`. */
export const NumbersQuestion = open({
  text: z.string().trim().min(1, 'write the question').max(4000, 'at most 4000 characters'),
  numbers: z
    .array(DrawnNumber)
    .min(1, 'name a number that changes')
    .max(20, 'at most 20 numbers')
    .refine((numbers) => new Set(numbers.map(({ name }) => name)).size === numbers.length, {
      message: 'two numbers have the same name',
    }),
  formula: FormulaText,
  unit: z.string().trim().max(20, 'at most 20 characters').optional(),
  tolerance: Tolerance,
  slips: z.array(Slip).max(10, 'at most 10 slips').optional(),
  worked: z.string().max(4000, 'at most 4000 characters').optional().describe('shown after the answer'),
})

/** So many cards, and answers to them, are kept of one candidate. */
export const mostCards = 20_000
export const mostAnswers = 400_000
/** So many go in one request. */
export const cardsAtOnce = 500

/** Why a card does not stay, as whoever looks at it says. */
export const notStaying = [
  'too much at once',
  'never understood',
  'mixed up with another',
  'not needed',
] as const

const side = (what: string) => z.string().trim().min(1, `write ${what}`).max(4000, 'at most 4000 characters')
const ofCard = {
  id: Uuid,
  topic: Slug.optional(),
  added: PlainDate.optional(),
  row: z.number().int().min(0).max(1_000_000).optional().describe('place among the cards of its day'),
  suspended: z.boolean().optional().describe('kept, and not asked'),
  rests: PlainDate.optional().describe('not asked before this day'),
  of: open({ attempt: Uuid, item: z.number().int().min(1).max(100_000) })
    .optional()
    .describe('the missed item of which it was made'),
  looked: open({
    on: PlainDate,
    lapses: z.number().int().min(0).max(1_000_000).describe('as often it had been forgotten by then'),
    why: z.enum(notStaying).optional(),
  })
    .optional()
    .describe('when it was last looked at because it does not stay'),
}
/** A small picture in the card itself, so that it is there without a network. */
const Picture = z
  .string()
  .regex(/^data:image\/(png|jpeg|webp);base64,[A-Za-z0-9+/]+=*$/, 'a PNG, JPEG or WebP picture')
  .max(200_000, 'at most 150 kB; make the picture smaller')

/** Something to bring back from memory. Formulas stand between dollar signs. */
export const Card = z.discriminatedUnion('kind', [
  open({
    ...ofCard,
    kind: z.literal('card'),
    front: side('the front'),
    back: side('the back'),
    picture: Picture.optional().describe('shown with the front'),
  }),
  open({
    ...ofCard,
    kind: z.literal('place'),
    front: side('what is to be found'),
    section: z.string().trim().min(1, 'write the chapter or section').max(200, 'at most 200 characters'),
    exact: z.string().trim().max(200, 'at most 200 characters').optional().describe('table, figure or page'),
    seconds: z.number().int().min(1).max(3600).optional().describe('within which it is found'),
  }),
  open({ ...ofCard, kind: z.literal('numbers'), question: NumbersQuestion }),
])

/** What an answer is to: a card, or an item that was missed, as `item:ATTEMPT:NUMBER`. */
const Asked = z
  .string()
  .regex(
    /^(item:)?[0-9a-f]{8}(-[0-9a-f]{4}){3}-[0-9a-f]{12}(:\d{1,6})?$/,
    'an id of a card, or item:ATTEMPT:NUMBER',
  )

/** One answer from memory. Each is made once on one device, and never changes but for being taken back. */
export const RecallAnswer = open({
  id: Uuid,
  card: Asked,
  on: PlainDate.describe("the candidate's day"),
  at: z.iso.datetime(),
  grade: z.union(
    [z.literal(1), z.literal(2), z.literal(3), z.literal(4)],
    'from 1, not known, to 4, at once',
  ),
  seconds: z.number().min(0).max(3600),
  topic: Slug.optional().describe('of an item that was missed; a card has its own'),
  seed: Seed.optional().describe('of the numbers that were drawn'),
  given: z.string().max(100).optional(),
  slip: z.string().max(120).optional(),
  undone: z.boolean().optional(),
})

/** What was answered to one card, oldest first: the day as days since 1 January 1970, the grade, and seconds. */
export const CardHistory = z.object({
  card: Asked,
  answers: z.array(z.tuple([z.number(), z.number(), z.number()])),
})

/** How many more came back, or less, of how many more. */
const CameBack = z.tuple([z.number(), z.number()])

/** What was brought back of one topic on one day, by what it was; what is not there is nothing. */
export const RecalledDay = z.object({
  topic: Slug,
  day: z.number().int().describe('days since 1 January 1970'),
  answers: z.number().int(),
  seconds: z.number(),
  cards: CameBack.optional(),
  numbers: CameBack.optional(),
  items: CameBack.optional(),
})

/**
 * What answers from memory say of the candidate, in short: of each topic and day what changed in how many of its cards come
 * back, the first answer of a day deciding; of missed items every answer; and what the deck asks for.
 */
export const Recalled = z.object({
  version: Version,
  days: z.array(RecalledDay),
  items: z.array(CardHistory.extend({ topic: Slug.optional() })),
  load: z.object({
    daily: z.number().describe('seconds a day that all that was begun takes, as often as it is due now'),
    begun: z.number().describe('seconds that one answer to each of those takes'),
    unbegun: z.number().describe('the same of all others'),
  }),
})
export const nothingRecalled: Recalled = {
  version: 0,
  days: [],
  items: [],
  load: { daily: 0, begun: 0, unbegun: 0 },
}

/** Answers in the order in which they were given, wherever they were; those that were taken back left out. */
export const inRecallOrder = <A extends Pick<RecallAnswer, 'id' | 'at' | 'on' | 'undone'>>(
  answers: A[],
): A[] =>
  answers
    .filter(({ undone }) => !undone)
    .sort((a, b) => a.on.localeCompare(b.on) || a.at.localeCompare(b.at) || a.id.localeCompare(b.id))

export type Card = z.infer<typeof Card>
export type RecallAnswer = z.infer<typeof RecallAnswer>
export type CardHistory = z.infer<typeof CardHistory>
export type RecalledDay = z.infer<typeof RecalledDay>
export type Recalled = z.infer<typeof Recalled>
export type DrawnNumber = z.infer<typeof DrawnNumber>
export type Tolerance = z.infer<typeof Tolerance>
export type Slip = z.infer<typeof Slip>
export type NumbersQuestion = z.infer<typeof NumbersQuestion>
