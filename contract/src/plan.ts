import { z } from 'zod'
import { PlainDate, Slug, TimeOfDay } from './shared'

export const SessionKind = z.enum(['learn', 'drill', 'mixed', 'test', 'review', 'retest', 'light', 'errand'])
export const SessionStatus = z.enum(['planned', 'running', 'done', 'slipped', 'skipped'])

/** The reason a session stands where it does: one or two sentences and the numbers they quote. */
export const Why = z.object({
  text: z.string().max(1000),
  figures: z.record(z.string(), z.number()).default({}),
})

export const PlanSession = z.object({
  id: z
    .string()
    .regex(/^[a-z0-9][a-z0-9.-]{0,119}$/)
    .describe('stable when the plan is made again'),
  date: PlainDate,
  start: TimeOfDay,
  minutes: z.number().int().min(1).max(1440),
  kind: SessionKind,
  title: z.string().min(1).max(300),
  topics: z.array(Slug).default([]),
  form: Slug.optional(),
  sections: z.array(Slug).optional().describe('of a test that is split over two days: the sections sat here'),
  seen: z.boolean().default(false),
  of: z.string().optional().describe('the test that a review belongs to'),
  material: z
    .object({
      id: Slug,
      text: z.string().max(300),
      pages: z.number().optional(),
      questions: z.number().optional(),
    })
    .optional()
    .describe('what of the shelf is worked through'),
  why: Why,
  pinned: z.boolean().default(false),
  status: SessionStatus.default('planned'),
  minutesDone: z.number().min(0).max(1440).optional(),
  feeling: z.enum(['easy', 'right', 'hard', 'lost']).optional().describe('how it went'),
  startedAt: z.iso.datetime().optional(),
})

export const Phase = z.object({ name: z.string(), from: PlainDate, to: PlainDate, about: z.string() })
export const PlanWeek = z.object({
  from: PlainDate.describe('its Monday'),
  freeMinutes: z.number(),
  plannedMinutes: z.number(),
  testMinutes: z.number(),
  reviewMinutes: z.number(),
})
export const PlanNotice = z.object({
  code: z.string(),
  message: z.string(),
  remedy: z.string().optional().describe('the single change that would make it fit, tried out'),
})
/** Work that found no place and waits in the tray. */
export const Unplaced = PlanSession.omit({ date: true, start: true })

export const Plan = z.looseObject({
  madeOn: PlainDate,
  sitting: Slug,
  seed: z.number().int(),
  leadTime: z.enum(['sprint', 'short', 'standard', 'two-phase', 'long']),
  phases: z.array(Phase),
  weeks: z.array(PlanWeek),
  notices: z.array(PlanNotice),
  unplaced: z.array(Unplaced).max(500).optional(),
  sessions: z.array(PlanSession).max(5000),
})

/** A plan without its sessions, which are stored by themselves. */
export const PlanHead = Plan.omit({ sessions: true })

/** One thing done to the calendar by hand: a session, or a piece from the tray, put somewhere, pinned, or lifted out. */
export const Move = z.object({
  id: PlanSession.shape.id,
  date: PlainDate.optional(),
  start: TimeOfDay.optional(),
  minutes: PlanSession.shape.minutes.optional(),
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

export type Move = z.infer<typeof Move>
export type PlanChange = z.infer<typeof PlanChange>
export type PlanHead = z.infer<typeof PlanHead>
export type SessionKind = z.infer<typeof SessionKind>
export type SessionStatus = z.infer<typeof SessionStatus>
export type PlanSession = z.infer<typeof PlanSession>
export type Phase = z.infer<typeof Phase>
export type PlanWeek = z.infer<typeof PlanWeek>
export type PlanNotice = z.infer<typeof PlanNotice>
export type Unplaced = z.infer<typeof Unplaced>
export type Plan = z.infer<typeof Plan>
