import { z } from 'zod'
import { open, PlainDate, Title, Uuid, Weekday, Window } from './shared'

/** When something else is on: dated, in the candidate's zone, an all-day event as 00:00 to 24:00. */
export const Busy = z.intersection(open({ date: PlainDate }), Window)

/** A calendar of commitments. Only when one is busy is kept, never with what. */
export const BusyCalendar = open({
  id: Uuid,
  title: Title,
  address: z
    .url({ protocol: /^https?$/, error: 'an address that begins with https://' })
    .max(2000)
    .optional()
    .describe('where it is read again; it stays on this server and is left out of Climber files'),
  readAt: z.iso.datetime(),
  events: z.number().int().min(0).max(1_000_000),
  busy: z.array(Busy).max(20_000, 'at most 20 000 busy spans'),
})

/** Something that is on every week, from a day or to a day where that is said. */
export const WeeklyCommitment = z.intersection(
  open({
    title: Title,
    weekday: Weekday,
    first: PlainDate.optional().describe('the first day on which it may be on'),
    last: PlainDate.optional().describe('the last day on which it may be on'),
  }).refine(({ first, last }) => !first || !last || first <= last, {
    message: 'the last day must not come before the first',
    path: ['last'],
  }),
  Window,
)

export const Commitments = open({
  calendars: z.array(BusyCalendar).max(20).default([]),
  weekly: z.array(WeeklyCommitment).max(100).optional().describe('what was typed: on every week'),
})

export type Busy = z.infer<typeof Busy>
export type BusyCalendar = z.infer<typeof BusyCalendar>
export type WeeklyCommitment = z.infer<typeof WeeklyCommitment>
export type Commitments = z.infer<typeof Commitments>
