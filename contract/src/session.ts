import { z } from 'zod'
import { Figure, open, PlainDate, SessionId, Slug, TimeOfDay, Uuid } from './shared'

export const SessionStatus = z.enum(['planned', 'running', 'done', 'slipped', 'skipped'])
export const SessionMinutes = z.number().int().min(1).max(1440)

const place = { date: PlainDate, start: TimeOfDay }

/** What every session has, whatever its kind. */
const common = {
  id: SessionId,
  minutes: SessionMinutes,
  pinned: z.boolean().default(false),
  status: SessionStatus.default('planned'),
  minutesDone: z.number().min(0).max(1440).optional(),
  feeling: z.enum(['easy', 'right', 'hard', 'lost']).optional().describe('how it went'),
  startedAt: z.iso.datetime().optional(),
  restMinutes: z
    .number()
    .int()
    .min(1)
    .max(1440)
    .optional()
    .describe('of a session that was done in part: so many minutes are to be done another time'),
  rest: open({ of: SessionId, on: PlainDate })
    .optional()
    .describe('it is the rest of another, which was done in part that day'),
  changed: open({
    on: PlainDate,
    how: z.enum(['moved', 'new', 'other work']),
    date: PlainDate.optional(),
    start: TimeOfDay.optional(),
  })
    .optional()
    .describe('how a change of the plan last touched it; of one that was moved, where it stood before'),
  label: z.string().max(300).optional().describe('a name of its own, in place of the one its facts make'),
  said: z.string().max(1000).optional().describe('why it stands there, as a file of version 1 worded it'),
}

/** What of the shelf is worked through. */
export const SessionMaterial = open({
  id: Slug,
  text: z.string().max(300),
  pages: Figure.optional().describe('read for the first time'),
  from: Figure.optional().describe('pages of the book before these'),
  questions: Figure.optional(),
  form: Slug.optional().describe('the form of the exam whose questions these are, which no test is sat on'),
})

/** Why a topic stands in a session: figures of its first topic as the plan was made. */
export const StudyReason = open({
  share: Figure.optional().describe('of the whole exam'),
  known: Figure.optional().describe('share known by then'),
  yield: Figure.optional().describe('points that an hour brings'),
  by: z
    .enum(['odds'])
    .optional()
    .describe(
      'points counted by what they add to the odds of the target and every cut; absent where all count alike',
    ),
  daysSince: Figure.optional().describe('days since it was last touched; absent where it never was'),
  kept: Figure.optional().describe('share of what was new that is still at hand'),
  instead: open({ topic: Slug, yield: Figure, sessions: Figure.optional() })
    .optional()
    .describe('what an hour brings most on besides, and how many sessions of its own that has ahead'),
})

/** Work that a cause named in review asks for. */
export const RemedyAim = z.enum(['again', 'reading', 'first instinct', 'checking', 'pace'])
export const SessionRemedy = open({
  aim: RemedyAim,
  attempt: Uuid.describe('the review of which it comes'),
  misses: z.number().int().min(1).max(1000).describe('so many items had this cause'),
  marks: Figure.describe('that these lost'),
})

const study = {
  remedy: SessionRemedy.optional().describe('what of a review it remedies; absent for other study'),
  topics: z.array(Slug).max(60).default([]),
  material: SessionMaterial.optional(),
  timed: open({ items: z.number().int().min(1).max(60), seconds: z.number().positive().max(36_000) })
    .optional()
    .describe('a set at the pace of the exam: so many items in so many seconds, then a look at each'),
  stage: z.enum(['first', 'second']).optional().describe('the stage of an adaptive section it prepares for'),
  reason: StudyReason.optional(),
}
const piece = open({ number: z.number().int().min(1).max(100), of: z.number().int().min(1).max(100) })

const facts = {
  learn: study,
  drill: study,
  mixed: study,
  test: {
    form: Slug.optional(),
    seen: z.boolean().default(false),
    purpose: z
      .enum(['baseline', 'resit', 'seen', 'rehearsal', 'rhythm', 'section', 'tray'])
      .optional()
      .describe('what it is for'),
    everyDays: Figure.optional().describe('of its rhythm'),
    hour: z
      .enum(['late', 'split', 'moved'])
      .optional()
      .describe('why it does not stand whole at the time of the exam; absent where it does'),
    sections: z
      .array(Slug)
      .min(1)
      .max(12)
      .optional()
      .describe(
        'what of the exam is sat, where that is all there is to it; absent where the rest is sat too',
      ),
    split: open({
      number: z.number().int().min(1).max(12),
      of: z.number().int().min(2).max(12),
      other: SessionId.describe('the next part; of the last one, the first'),
      sections: z.array(Slug).min(1).max(12),
      wholeMinutes: z.number().int().min(1).max(10_000),
    })
      .optional()
      .describe('the part of a test that is sat over several days'),
  },
  review: {
    form: Slug.optional(),
    of: z.string().max(120).optional().describe('the test session that it belongs to'),
    attempt: Uuid.optional().describe('what was sat, once it was'),
    piece: piece.optional(),
    wholeMinutes: Figure.optional().describe('of all its pieces'),
    ratio: Figure.optional().describe('of the length of the test'),
  },
  retest: {
    form: Slug.optional(),
    of: z.string().max(120).optional().describe('the test session whose misses it takes up'),
    attempt: Uuid.optional().describe('what was sat, once it was'),
    daysSince: Figure.optional().describe('days after the review'),
  },
  light: {
    topics: z.array(Slug).max(60).default([]),
    purpose: z.enum(['cards', 'warm', 'pace card', 'last days']).optional(),
  },
  errand: {
    purpose: z.enum(['register', 'journey', 'visit', 'kit']).optional(),
  },
}

const named = <K extends string>(kind: K) => ({ kind: z.literal(kind) })
const placed = { ...common, ...place }

/** What is to be done, by kind, each with the facts of its kind. Words are made of them where they are shown. */
export const PlanSession = z.discriminatedUnion('kind', [
  open({ ...named('learn'), ...placed, ...facts.learn }),
  open({ ...named('drill'), ...placed, ...facts.drill }),
  open({ ...named('mixed'), ...placed, ...facts.mixed }),
  open({ ...named('test'), ...placed, ...facts.test }),
  open({ ...named('review'), ...placed, ...facts.review }),
  open({ ...named('retest'), ...placed, ...facts.retest }),
  open({ ...named('light'), ...placed, ...facts.light }),
  open({ ...named('errand'), ...placed, ...facts.errand }),
])

/** Work that found no place and waits in the tray. */
export const Unplaced = z.discriminatedUnion('kind', [
  open({ ...named('learn'), ...common, ...facts.learn }),
  open({ ...named('drill'), ...common, ...facts.drill }),
  open({ ...named('mixed'), ...common, ...facts.mixed }),
  open({ ...named('test'), ...common, ...facts.test }),
  open({ ...named('review'), ...common, ...facts.review }),
  open({ ...named('retest'), ...common, ...facts.retest }),
  open({ ...named('light'), ...common, ...facts.light }),
  open({ ...named('errand'), ...common, ...facts.errand }),
])

/** What a person says of a session: begun, done, skipped, and how it went. */
export const SessionReport = z.object({
  status: SessionStatus,
  minutesDone: common.minutesDone,
  startedAt: common.startedAt,
  feeling: common.feeling,
  restMinutes: common.restMinutes,
})

/** A session after a report: what one says of it takes the place of what was said before. */
export function withReport<S extends PlanSession>(session: S, report: SessionReport): S {
  const { minutesDone: _m, startedAt: _s, feeling: _f, restMinutes: _r, ...rest } = session
  return { ...rest, ...report } as S
}

export type SessionStatus = z.infer<typeof SessionStatus>
export type SessionMaterial = z.infer<typeof SessionMaterial>
export type RemedyAim = z.infer<typeof RemedyAim>
export type SessionRemedy = z.infer<typeof SessionRemedy>
export type StudyReason = z.infer<typeof StudyReason>
export type PlanSession = z.infer<typeof PlanSession>
export type SessionKind = PlanSession['kind']
export type SessionOf<K extends SessionKind> = Extract<PlanSession, { kind: K }>
export type TestSession = SessionOf<'test'>
export type ReviewSession = SessionOf<'review'>
export type RetestSession = SessionOf<'retest'>
export type StudySession = SessionOf<'learn' | 'drill' | 'mixed'>
export type Unplaced = z.infer<typeof Unplaced>
export type SessionReport = z.infer<typeof SessionReport>
