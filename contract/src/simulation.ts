import { z } from 'zod'
import { Slug, Uuid } from './shared'

/** What a section is sat for: a score of its own, or the whole exam's target with the other sections as forecast. */
export const AimChoice = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('score'), scaled: z.number('write a score').min(-100_000).max(100_000) }),
  z.object({ kind: z.literal('whole') }),
])

/** What to simulate; equal requests on equal records give equal results, in the browser and on the server. */
export const SimulationRequest = z.object({
  section: Slug,
  sittings: z
    .number('write how many sittings')
    .int('a whole number of sittings')
    .min(100, 'at least 100')
    .max(100_000, 'at most 100 000'),
  seed: z.number('write a seed').int('a whole number').min(0, 'not less than 0').max(2_147_483_647),
  asOf: z.enum(['today', 'exam']).describe("with today's knowledge, or exam day's if the plan is kept"),
  aim: AimChoice.optional().describe('what the target asks of the section when absent'),
})

const ApproachShape = z.object({
  passes: z.union([z.literal(1), z.literal(2), z.literal(3)]),
  haste: z.number().describe('the first pass leaves as if a second were worth so many times mu'),
  deferred: z.number().int().describe('item classes, poorest first, that the first pass goes past'),
})

export const ApproachResult = z.object({
  id: z.enum(['straight', 'even', 'fixed', 'leave', 'two', 'three', 'best']),
  title: z.string(),
  limit: z.number().optional().describe('seconds, of a single limit'),
  shape: ApproachShape.optional(),
  marks: z.number(),
  sd: z.number(),
  scaled: z.number().describe('mean scaled score'),
  scores: z
    .array(z.tuple([z.number(), z.number()]))
    .describe('[scaled score, share of the sittings], ascending'),
  odds: z.number().describe('P(aim reached)'),
  oddsError: z.number().describe('its standard error'),
  whole: z.number().optional().describe("chance of the whole exam's target, other sections as forecast"),
  notReached: z.number(),
  leftOver: z.number().describe('items looked at and not solved'),
  used: z.number().describe('seconds'),
  passEnds: z.array(z.array(z.number())).describe('seconds, by leg and pass'),
  against: z
    .object({ marks: z.number(), marksError: z.number(), odds: z.number(), oddsError: z.number() })
    .describe('the first approach, on the same sittings'),
})

export const OrderResult = z.object({
  order: z.array(Slug),
  marks: z.number(),
  against: z.number().describe('marks over the order as it is'),
  error: z.number(),
})

export const SimulationResult = z.object({
  request: SimulationRequest,
  aim: AimChoice,
  items: z.number(),
  seconds: z.number(),
  approaches: z.array(ApproachResult),
  orders: z.array(OrderResult),
})

/** A comparison that was kept, with the day on which it was made. */
export const StoredSimulation = z.object({ id: Uuid, madeAt: z.string(), result: SimulationResult })

export type AimChoice = z.infer<typeof AimChoice>
export type SimulationRequest = z.infer<typeof SimulationRequest>
export type ApproachShape = z.infer<typeof ApproachShape>
export type ApproachResult = z.infer<typeof ApproachResult>
export type OrderResult = z.infer<typeof OrderResult>
export type SimulationResult = z.infer<typeof SimulationResult>
export type StoredSimulation = z.infer<typeof StoredSimulation>
