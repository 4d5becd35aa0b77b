import { z } from 'zod'
import { Conditions, Confidence } from './attempt'
import { open, PlainDate, SessionId, Slug, TimeOfDay, Title, Uuid } from './shared'

const item = z.number().int().min(1).max(100_000)
/** Milliseconds, of a clock or since something. */
const milliseconds = z.number().int().min(0).max(9_000_000_000_000)

/** Items that are no section of the exam: so many, of these topics, at the pace of the exam. */
export const ItemSet = open({
  items: z.number().int().min(5, 'at least 5 items').max(60, 'at most 60 items'),
  topics: z.array(Slug).min(1, 'choose a topic').max(500),
})

/** A stretch of a test with a bell of its own, as it is granted: a section of the exam, or the set. */
export const RoomPart = open({
  id: Slug.describe("the section's, or `set`"),
  seconds: z
    .number()
    .int()
    .min(1)
    .max(200_000)
    .describe('from its beginning to its bell; suggested where untimed'),
  timed: z.boolean(),
  breakSeconds: z.number().int().min(0).max(40_000).describe('after it'),
})

/**
 * How a test is to be sat, settled before it begins: which form, what of it, on paper or on screen, with which time. Its id is
 * that of the attempt that it becomes.
 */
export const RoomSetup = open({
  id: Uuid,
  date: PlainDate.describe('the day on which it was opened, where the candidate lives'),
  start: TimeOfDay,
  session: SessionId.optional().describe('the session of the plan that it is'),
  form: Slug.optional(),
  title: Title.optional().describe('for what is not one of the forms'),
  whole: z.boolean().describe('all sections of the exam: a paper'),
  set: ItemSet.optional().describe('instead of sections'),
  medium: z.enum(['paper', 'screen']),
  pressing: z
    .enum(['items', 'checkpoints'])
    .default('items')
    .describe('on paper: a press for each item, or only at checkpoints'),
  strict: z.boolean().default(true).describe('as in the exam: the clock cannot be stopped'),
  parts: z.array(RoomPart).min(1).max(12),
  accommodation: Slug.optional().describe('the one that the minutes hold'),
  sound: z.boolean().default(false),
  seen: z.boolean().default(false),
  conditions: Conditions.optional(),
})

/** What was pressed, or happened, in a test room. */
const deeds = {
  /** A page was opened on it, by a device of this name. */
  enter: { device: z.string().max(60) },
  /** What the server's clock said; it may have been so many milliseconds older. */
  clock: { server: milliseconds, within: milliseconds },
  /** The page's clock stood still while the device slept. */
  slept: { milliseconds, sure: z.boolean() },
  /** A section is begun: the first, or one before the end of its break. */
  begin: {},
  /** An item is taken up. */
  go: { item },
  /** An answer is given, changed, or taken away where empty. */
  answer: { item, answer: z.string().max(40) },
  /** How sure one is of it. */
  doubt: { item, confidence: Confidence.nullable() },
  /** An option is struck out, or not any more. */
  strike: { item, option: z.string().min(1).max(2), struck: z.boolean() },
  /** An item is left, to come back to or not. */
  leave: { item },
  /** On paper: an item is done with, its answer written there. */
  done: { item },
  /** On paper: so many items are done. */
  checkpoint: { item },
  /** The first stage of an adaptive section is handed in; where no key says which second stage follows, the person does. */
  stage: { to: Slug.optional() },
  /** A section is handed in before its bell. */
  close: {},
  pause: {},
  resume: {},
  /** The room is left for now; whoever comes back within the day goes on. */
  away: {},
  /** The test is over. */
  finish: {},
  /** It is thrown away: nothing of it is kept as sat. */
  drop: {},
  /** It is kept after all: a throwing away is taken back, and the clock went on meanwhile. */
  keep: {},
} as const

const stamp = {
  n: z.number().int().min(0).max(1_000_000).describe('in its life: each one more than the one before'),
  life: Uuid.describe('of the page on which it happened'),
  at: milliseconds.describe('since that page was opened, by a clock that nobody sets'),
  wall: milliseconds.describe("by the device's own clock, since 1970"),
}
const deed = <K extends keyof typeof deeds>(kind: K) =>
  open({ kind: z.literal(kind), ...stamp, ...(deeds[kind] as (typeof deeds)[K]) })

/** One event of a test room, as it was stamped where it happened. */
export const RoomEvent = z.discriminatedUnion('kind', [
  deed('enter'),
  deed('clock'),
  deed('slept'),
  deed('begin'),
  deed('go'),
  deed('answer'),
  deed('doubt'),
  deed('strike'),
  deed('leave'),
  deed('done'),
  deed('checkpoint'),
  deed('stage'),
  deed('close'),
  deed('pause'),
  deed('resume'),
  deed('away'),
  deed('finish'),
  deed('drop'),
  deed('keep'),
])

/** What is known of a room apart from what was pressed in it. */
export const RoomHeard = z.object({
  holder: Uuid.nullable().describe('the page that carries the test on'),
  device: z.string().describe('its device'),
  heardAgo: z.number().describe('milliseconds since that page was last heard'),
  stands: z.enum(['open', 'over', 'dropped']),
  server: z.number().describe("milliseconds since 1970 by the server's clock; pages measure their own by it"),
})
export const RoomRecord = RoomHeard.extend({ setup: RoomSetup, events: z.array(RoomEvent) })

/** Whether a test is thrown away: as often as it was, less as often as that was taken back. */
export const isDropped = (events: readonly { kind: RoomEvent['kind'] }[]): boolean =>
  events.reduce((sum, { kind }) => sum + (kind === 'drop' ? 1 : kind === 'keep' ? -1 : 0), 0) > 0

/** Events of one page, as they are sent: the page is said once. */
export const NotedEvents = z
  .object({
    life: Uuid,
    device: z.string().max(60),
    take: z.boolean().default(false).describe('this page carries the test on from here'),
    events: z.array(RoomEvent).min(1).max(250),
  })
  .superRefine(({ life, events }, context) => {
    const seen = new Set<number>()
    const say = (path: (string | number)[], message: string) =>
      context.addIssue({ code: 'custom', path: ['events', ...path], message })
    events.forEach((event, row) => {
      if (event.life !== life) say([row, 'life'], 'this event is of another page')
      if (seen.size === seen.add(event.n).size) say([row, 'n'], `event ${event.n} stands here twice`)
    })
  })

export type ItemSet = z.infer<typeof ItemSet>
export type RoomPart = z.infer<typeof RoomPart>
export type RoomSetup = z.infer<typeof RoomSetup>
export type RoomEvent = z.infer<typeof RoomEvent>
export type RoomDeed = {
  [K in RoomEvent['kind']]: Omit<Extract<RoomEvent, { kind: K }>, 'n' | 'life' | 'at' | 'wall'>
}[RoomEvent['kind']]
export type RoomHeard = z.infer<typeof RoomHeard>
export type RoomRecord = z.infer<typeof RoomRecord>
