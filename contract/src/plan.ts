import { z } from 'zod'
import { PlanSession, SessionMinutes, Unplaced } from './session'
import { Figure, open, PlainDate, Seed, SessionId, Slug, table, TimeOfDay } from './shared'

export const Phase = open({
  name: z.string().max(200),
  from: PlainDate,
  to: PlainDate,
  about: z.string().max(2000),
  rehearsal: z.boolean().optional().describe("the publisher's tests may be used here"),
})
export const PlanWeek = open({
  from: PlainDate.describe('its Monday'),
  freeMinutes: Figure,
  plannedMinutes: Figure,
  testMinutes: Figure,
  reviewMinutes: Figure,
})
export const PlanNotice = open({
  code: z.string().max(60),
  message: z.string().max(2000),
  remedy: z.string().max(2000).optional().describe('the single change that would make it fit, tried out'),
})

/** What a plan rests on, so that a later look can say what has moved since. */
export const PlanBeliefs = open({
  on: PlainDate,
  topics: table(Slug, z.tuple([Figure, Figure, Figure]), 500).describe(
    'by topic: points if it were fully known, share known, hours that close 63% of the rest',
  ),
})

/** A session that a change took out of the plan. */
export const DroppedSession = open({
  on: PlainDate.describe('the day of the change'),
  session: PlanSession.describe('as it stood before'),
})

/** The plan for one sitting. */
export const Plan = open({
  madeOn: PlainDate,
  sitting: Slug,
  seed: Seed,
  leadTime: z.enum(['sprint', 'short', 'standard', 'two-phase', 'long']),
  phases: z.array(Phase).max(100),
  weeks: z.array(PlanWeek).max(1100),
  notices: z.array(PlanNotice).max(1000),
  unplaced: z.array(Unplaced).max(500).optional(),
  beliefs: PlanBeliefs.optional(),
  dropped: z
    .array(DroppedSession)
    .max(200)
    .optional()
    .describe('what changes took out while that is news: a week'),
  sessions: z.array(PlanSession).max(5000),
})

/** A plan without its sessions, which are stored by themselves. */
export const PlanHead = Plan.omit({ sessions: true })

/** One thing done to the calendar by hand: a session, or a piece from the tray, put somewhere, pinned, or lifted out. */
export const Move = z.object({
  id: SessionId,
  date: PlainDate.optional(),
  start: TimeOfDay.optional(),
  minutes: SessionMinutes.optional(),
  pinned: z.boolean().optional(),
  lifted: z.literal(true).optional().describe('out of the calendar, into the tray'),
})

/** What fell through or came up: days that are called off, both ends included. */
export const PlanChange = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('none') }),
  z
    .object({ kind: z.literal('off'), from: PlainDate, to: PlainDate })
    .refine(({ from, to }) => from <= to, { message: 'the last day comes before the first', path: ['to'] }),
])

export type Phase = z.infer<typeof Phase>
export type PlanWeek = z.infer<typeof PlanWeek>
export type PlanNotice = z.infer<typeof PlanNotice>
export type Plan = z.infer<typeof Plan>
export type PlanHead = z.infer<typeof PlanHead>
export type Move = z.infer<typeof Move>
export type PlanChange = z.infer<typeof PlanChange>
