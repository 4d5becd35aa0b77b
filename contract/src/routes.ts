import { z } from 'zod'
import { Attempt } from './attempt'
import { Basis } from './basis'
import { ClimberFileShape, WrittenFile } from './climberFile'
import { Busy } from './commitments'
import { Holiday } from './availability'
import { ExamFormat } from './exam'
import { PartName } from './parts'
import { Move, Plan, PlanChange } from './plan'
import { type Right, Role } from './rights'
import { Card, CardHistory, cardsAtOnce, RecallAnswer, Recalled } from './recall'
import { CommentText, NoteChanges, ReviewNote, SharedReview, ShareMode } from './review'
import { NotedEvents, RoomHeard, RoomRecord, RoomSetup } from './room'
import { PlanSession, SessionReport } from './session'
import { Settings } from './settings'
import { PlainDate, Seed, SessionId, table, Title, Uuid, Version, Weekday } from './shared'
import { SimulationRequest, StoredSimulation } from './simulation'

export interface Route<
  R extends Right = Right,
  P extends z.ZodType = z.ZodType,
  B extends z.ZodType = z.ZodType,
  A extends z.ZodType = z.ZodType,
> {
  method: 'GET' | 'PUT' | 'POST' | 'DELETE'
  path: string
  right: R
  /** What it does, in a sentence; shown in the reference. */
  about: string
  params: P
  body: B
  answer: A
}
export const nothing = z.undefined().or(z.object({}))
const route = <R extends Right, P extends z.ZodType, B extends z.ZodType, A extends z.ZodType>(
  method: Route['method'],
  path: string,
  right: R,
  told: { about: string; params: P; body: B; answer: A },
): Route<R, P, B, A> => ({ method, path, right, ...told })

const none = z.object({})
const candidate = z.object({ candidateId: Uuid })
const ItemNumber = z.coerce.number<number>().int().min(1).max(100_000)
const reviewedItem = candidate.extend({ attemptId: Uuid, item: ItemNumber })
const shared = z.object({ token: z.string().min(20).max(60) })
const exam = z.object({ examId: Uuid })
const ok = z.object({ ok: z.literal(true) })

export const Email = z
  .email('write an e-mail address')
  .max(254)
  .transform((text) => text.toLowerCase())
export const Password = z.string().min(10, 'at least 10 characters').max(200, 'at most 200 characters')

/** How an account writes days: `9 Mar` and 3/9 the third of September, or `Mar 9` and 3/9 the ninth of March. */
export const Locale = z.enum(['en-GB', 'en-US'])
export const User = z.object({
  id: Uuid,
  name: z.string(),
  email: z.string(),
  locale: Locale.describe('of the days that are shown and typed; the page itself is English'),
})
export const SessionAnswer = z.object({
  user: User.nullable(),
  csrf: z.string(),
  now: z.string().describe('instant, ISO 8601; the browser keeps time by it'),
  frozen: z.boolean().describe('the time stands still, for tests and pictures'),
  demoAccounts: z.array(z.object({ email: z.string(), name: z.string(), about: z.string() })),
})

/** A saved part with its version. */
export const StoredPart = z.object({
  document: z.unknown(),
  version: Version,
  changedBy: z.string().nullable(),
  changedAt: z.string().nullable(),
})
export const StoredSession = PlanSession.and(z.object({ version: Version }))
export const StoredAttempt = Attempt.and(z.object({ version: Version }))
export const StoredNote = ReviewNote.and(z.object({ version: Version }))
export const StoredCard = Card.and(z.object({ version: Version }))
/** What was sat, and the sessions of the plan that it changed: the planned test that it was is done. */
export const SavedAttempt = z.object({ attempt: StoredAttempt, sessions: z.array(StoredSession) })
export const StoredPlan = Plan.extend({
  version: Version,
  sessions: z.array(StoredSession),
  /** What undo would take back and redo would do again, in words. */
  steps: z.object({ undo: z.string().nullable(), redo: z.string().nullable() }).optional(),
})
/** A changed plan, and the free time where that was changed with it. */
export const ChangedPlan = z.object({ plan: StoredPlan, availability: StoredPart.nullable() })

/** A change made on `version`, 0 where there was nothing. Sent again under the same `request` it is done once. */
const Requested = z.object({ version: Version, request: Uuid.optional() })
/**
 * A preview that is accepted. With its `basis` the same is worked out again and stored, or refused where the basis does not
 * hold any more; without, the plan is made of what is stored, now.
 */
const Acceptance = Requested.extend({ basis: Basis.optional() })

export const Candidate = z.object({
  id: Uuid,
  examId: Uuid,
  exam: ExamFormat,
  parts: z.partialRecord(PartName, StoredPart),
  plan: StoredPlan.nullable(),
  attempts: z.array(StoredAttempt),
  review: z.array(StoredNote),
  recalled: Recalled,
  before: z.array(PlanSession).describe('what was done under plans for other sittings'),
  taken: z.array(SessionId).describe('ids of all sessions of those plans'),
  mine: z.boolean().describe('the signed-in user is the candidate'),
  role: Role,
})

/** What has happened lately, as facts; `before` is the whole test before the last. */
export const Lately = z.object({
  lastWork: PlainDate.nullable(),
  week: z
    .object({ planned: z.number(), done: z.number() })
    .describe('minutes of the seven days before today'),
  weekday: z
    .object({ weekday: Weekday, slipped: z.number(), of: z.number() })
    .nullable()
    .describe('on which most slipped of four weeks, and so at least half'),
  before: z.object({ date: PlainDate, scaled: z.number() }).nullable(),
  topic: z
    .object({ title: z.string(), minutes: z.number() })
    .nullable()
    .describe('most worked on between the last two tests'),
})
export type Lately = z.infer<typeof Lately>

/** One row of the roster: what is needed to draw it and no more. */
export const CandidateRow = z.object({
  id: Uuid,
  name: z.string(),
  examTitle: z.string(),
  mine: z.boolean(),
  examDate: PlainDate.nullable(),
  target: z.number().nullable(),
  odds: z.number().nullable().describe('if the plan is kept'),
  oddsAtRate: z.number().nullable().describe('at the rate it is kept'),
  forecast: z.object({ mean: z.number(), low: z.number(), high: z.number() }).nullable(),
  slippedMinutes: z.number(),
  nextTest: PlainDate.nullable(),
  lastScore: z.object({ date: PlainDate, scaled: z.number() }).nullable(),
  lately: Lately,
})

export const ExamRow = z.object({
  id: Uuid,
  title: z.string(),
  field: z.string(),
  candidates: z.number(),
  edition: z.number(),
  lineage: Uuid.describe('the same for all editions of one exam'),
})
export const StoredExam = z.object({
  id: Uuid,
  format: ExamFormat,
  edition: z.number(),
  version: Version,
  candidates: z.number(),
  editions: z.array(z.object({ id: Uuid, edition: z.number() })),
})

/** Settings under a name, for every plan of the workspace. */
export const Template = z.object({ id: Uuid, title: Title, version: Version, settings: Settings })

const Outlook = z.object({
  target: z.number().nullable(),
  forecast: z.number().nullable(),
  odds: z.number().nullable(),
})
/** What a changed format means for one candidate; `after` is null where the record does not fit it. */
export const ExamEffect = z.object({
  candidateId: Uuid,
  name: z.string(),
  edition: z.number(),
  before: Outlook,
  after: Outlook.nullable(),
  issues: z.array(z.object({ field: z.string(), message: z.string() })),
})

/** What somebody who holds an invitation may know before it is used. */
export const Invitation = z.object({
  from: z.string().describe('who works with the record'),
  to: z.string().describe('whose record it is'),
  exam: z.string(),
  examDate: PlainDate.nullable(),
  expires: z.string(),
})
export type Invitation = z.infer<typeof Invitation>

export const routes = {
  health: route('GET', '/api/health', 'anyone', {
    about: 'Whether the server and its database answer.',
    params: none,
    body: nothing,
    answer: z.object({ ok: z.boolean(), database: z.boolean(), version: z.string() }),
  }),
  session: route('GET', '/api/session', 'anyone', {
    about: 'Who is signed in, the token that changes ask for, and the time that the browser keeps by.',
    params: none,
    body: nothing,
    answer: SessionAnswer,
  }),
  signUp: route('POST', '/api/sign-up', 'anyone', {
    about: 'Opens an account, and signs in.',
    params: none,
    body: z.object({ email: Email, password: Password, name: Title }),
    answer: SessionAnswer,
  }),
  signIn: route('POST', '/api/sign-in', 'anyone', {
    about: 'Signs in with address and password; ten tries in a quarter of an hour.',
    params: none,
    body: z.object({ email: Email, password: z.string().min(1, 'write your password').max(200) }),
    answer: SessionAnswer,
  }),
  demoSignIn: route('POST', '/api/demo-sign-in', 'anyone', {
    about: 'Signs in as one of the people of the demo; only there.',
    params: none,
    body: z.object({ email: Email }),
    answer: SessionAnswer,
  }),
  signOut: route('POST', '/api/sign-out', 'signed-in', {
    about: 'Ends this session.',
    params: none,
    body: nothing,
    answer: SessionAnswer,
  }),
  signOutEverywhere: route('POST', '/api/sign-out-everywhere', 'signed-in', {
    about: 'Ends every session of the account.',
    params: none,
    body: nothing,
    answer: SessionAnswer,
  }),
  saveLocale: route('PUT', '/api/account/locale', 'signed-in', {
    about: 'How this account writes days.',
    params: none,
    body: z.object({ locale: Locale }),
    answer: SessionAnswer,
  }),

  listExams: route('GET', '/api/exams', 'signed-in', {
    about: 'The exams of the workspace, newest editions.',
    params: none,
    body: nothing,
    answer: z.array(ExamRow),
  }),
  readExam: route('GET', '/api/exams/:examId', 'exam:read', {
    about: 'An exam format, and the other editions of it.',
    params: exam,
    body: nothing,
    answer: StoredExam,
  }),
  createExam: route('PUT', '/api/exams/:examId', 'signed-in', {
    about: 'Creates an exam under an id that the client chose; sent twice it is stored once.',
    params: exam,
    body: z.object({ file: WrittenFile }),
    answer: StoredExam,
  }),
  saveFormat: route('PUT', '/api/exams/:examId/format', 'exam:edit', {
    about: 'Keeps a changed format: in place while nobody is on it, else as a new edition under `newId`.',
    params: exam,
    body: z.object({ version: Version, newId: Uuid, format: ExamFormat }),
    answer: StoredExam,
  }),
  deleteExam: route('DELETE', '/api/exams/:examId', 'exam:delete', {
    about: 'Deletes an exam that no candidate is on.',
    params: exam,
    body: nothing,
    answer: ok,
  }),
  examEffect: route('POST', '/api/exams/:examId/effect', 'exam:edit', {
    about: 'What a changed format would mean for the candidates on any edition; stores nothing.',
    params: exam,
    body: z.object({ format: ExamFormat }),
    answer: z.array(ExamEffect),
  }),
  moveToEdition: route('PUT', '/api/candidates/:candidateId/exam', 'record:edit', {
    about: 'Moves a candidate to another edition, or says every reason why the record does not fit it.',
    params: candidate,
    body: z.object({ examId: Uuid }),
    answer: Candidate,
  }),

  listSamples: route('GET', '/api/samples', 'signed-in', {
    about:
      'Exam formats that ship with Climber, their dates moved ahead by whole weeks so that no sitting is over.',
    params: none,
    body: nothing,
    answer: z.array(
      z.object({ id: z.string(), title: z.string(), about: z.string(), file: ClimberFileShape }),
    ),
  }),

  listCountries: route('GET', '/api/holidays', 'signed-in', {
    about: 'Countries whose public holidays are known, with their regions and time zones.',
    params: none,
    body: nothing,
    answer: z.array(
      z.object({
        id: z.string(),
        title: z.string(),
        regions: z.array(z.object({ id: z.string(), title: z.string() })),
        zones: z.array(z.string()),
      }),
    ),
  }),
  listHolidays: route('GET', '/api/holidays/:region/:from/:to', 'signed-in', {
    about:
      'Public holidays of a country, or of a region such as `XX-Y`, from a day to a day; at most three years.',
    params: z.object({
      region: z.string().regex(/^[\w-]{2,24}$/, 'a country, or a region such as `XX-Y`'),
      from: PlainDate,
      to: PlainDate,
    }),
    body: nothing,
    answer: z.array(Holiday),
  }),

  listTemplates: route('GET', '/api/templates', 'signed-in', {
    about: 'Settings kept under a name.',
    params: none,
    body: nothing,
    answer: z.array(Template),
  }),
  saveTemplate: route('PUT', '/api/templates/:templateId', 'signed-in', {
    about: 'Keeps settings under a name.',
    params: z.object({ templateId: Uuid }),
    body: z.object({
      title: Title,
      settings: Settings,
      version: Version.optional().describe('of what is kept under this id, to change it'),
    }),
    answer: Template,
  }),
  deleteTemplate: route('DELETE', '/api/templates/:templateId', 'signed-in', {
    about: 'Forgets settings that were kept; plans made with them stay.',
    params: z.object({ templateId: Uuid }),
    body: nothing,
    answer: ok,
  }),
  listCandidates: route('GET', '/api/candidates', 'signed-in', {
    about: 'The roster: a row for each candidate whose record one may read.',
    params: none,
    body: nothing,
    answer: z.array(CandidateRow),
  }),
  createCandidate: route('PUT', '/api/candidates/:candidateId', 'signed-in', {
    about: 'Begins a record under an id that the client chose; sent twice it is begun once.',
    params: candidate,
    body: z.object({ name: Title, examId: Uuid, self: z.boolean() }),
    answer: Candidate,
  }),
  readCandidate: route('GET', '/api/candidates/:candidateId', 'record:read', {
    about: 'A whole record: parts, what was sat, the plan, and the exam.',
    params: candidate,
    body: nothing,
    answer: Candidate,
  }),
  deleteCandidate: route('DELETE', '/api/candidates/:candidateId', 'record:delete', {
    about: 'Deletes a record and all that belongs to it.',
    params: candidate,
    body: nothing,
    answer: ok,
  }),
  savePart: route('PUT', '/api/candidates/:candidateId/parts/:part', 'record:edit', {
    about: 'Keeps one part of a record as it was written, if nobody changed it since `version`.',
    params: candidate.extend({ part: PartName }),
    body: Requested.extend({ document: table(z.string().max(200), z.unknown(), 2000) }),
    answer: StoredPart,
  }),

  invite: route('POST', '/api/candidates/:candidateId/invitation', 'record:share', {
    about: 'A code that the candidate enters once, to open the record with an account of their own.',
    params: candidate,
    body: nothing,
    answer: z.object({ code: z.string(), expires: z.string() }),
  }),
  readInvitation: route('POST', '/api/invitation', 'anyone', {
    about: 'Who invites with a code, whom, and to what; it is not used up by that.',
    params: none,
    body: z.object({ code: z.string().min(1, 'write the code').max(100) }),
    answer: Invitation,
  }),
  join: route('POST', '/api/join', 'signed-in', {
    about: 'Opens a record with the code of an invitation.',
    params: none,
    body: z.object({ code: z.string().min(1, 'write the code').max(100) }),
    answer: z.object({ candidateId: Uuid }),
  }),

  makePlan: route('PUT', '/api/candidates/:candidateId/plan', 'record:edit', {
    about: 'Makes the plan as it was previewed, and keeps it.',
    params: candidate,
    body: Acceptance.extend({ seed: Seed }),
    answer: StoredPlan,
  }),
  arrangePlan: route('PUT', '/api/candidates/:candidateId/plan/arrangement', 'record:edit', {
    about: 'Moves sessions by hand; refused with the rule that stands against it.',
    params: candidate,
    body: Requested.extend({ moves: z.array(Move).min(1).max(200) }),
    answer: ChangedPlan,
  }),
  replan: route('PUT', '/api/candidates/:candidateId/plan/replan', 'record:edit', {
    about:
      'Mends the plan after a change, or makes it anew, and keeps both. The browser shows the same before.',
    params: candidate,
    body: Acceptance.extend({
      seed: Seed,
      change: PlanChange,
      mode: z.enum(['mend', 'anew']),
    }),
    answer: ChangedPlan,
  }),
  undoPlan: route('POST', '/api/candidates/:candidateId/plan/undo', 'record:edit', {
    about: 'Takes back the last change of the plan, or does it again.',
    params: candidate,
    body: Requested.extend({ redo: z.boolean() }),
    answer: ChangedPlan,
  }),
  readCommitments: route('POST', '/api/candidates/:candidateId/commitments/read', 'record:edit', {
    about: 'Reads a calendar of commitments at an address; stores nothing.',
    params: candidate,
    body: z.object({
      address: z.url({ protocol: /^https?$/, error: 'an address that begins with https://' }).max(2000),
    }),
    answer: z.object({ busy: z.array(Busy), events: z.number(), readAt: z.string() }),
  }),
  saveSession: route('PUT', '/api/candidates/:candidateId/sessions/:sessionId', 'record:work', {
    about: 'Says what became of a session: running, done, skipped, moved.',
    params: candidate.extend({ sessionId: SessionId }),
    body: SessionReport.extend(Requested.shape),
    answer: StoredSession,
  }),

  saveAttempt: route('PUT', '/api/candidates/:candidateId/attempts/:attemptId', 'record:work', {
    about: 'Keeps something that was sat, under an id that the client chose; sent twice it is stored once.',
    params: candidate.extend({ attemptId: Uuid }),
    body: Requested.extend({ attempt: Attempt }),
    answer: SavedAttempt,
  }),
  noteItem: route('PUT', '/api/candidates/:candidateId/review/:attemptId/:item', 'record:work', {
    about: 'Writes what is named into the note on one item; what is not named stays as it is.',
    params: reviewedItem,
    body: z.object({ changes: NoteChanges, request: Uuid.optional() }),
    answer: StoredNote,
  }),

  commentItem: route(
    'PUT',
    '/api/candidates/:candidateId/review/:attemptId/:item/comments/:commentId',
    'record:work',
    {
      about:
        'Says something of one item in its review, under an id that the client chose; null takes it away.',
      params: reviewedItem.extend({ commentId: Uuid }),
      body: z.object({ text: CommentText.nullable(), request: Uuid.optional() }),
      answer: StoredNote,
    },
  ),
  shareReview: route('POST', '/api/candidates/:candidateId/review/:attemptId/share', 'record:share', {
    about:
      'An address at which people of the workspace read one review. Asked for again, the one before ends.',
    params: candidate.extend({ attemptId: Uuid }),
    body: z.object({ mode: ShareMode }),
    answer: z.object({ token: z.string() }),
  }),
  closeReview: route('DELETE', '/api/candidates/:candidateId/review/:attemptId/share', 'record:share', {
    about: 'Ends the address of a shared review.',
    params: candidate.extend({ attemptId: Uuid }),
    body: nothing,
    answer: ok,
  }),
  reviewShared: route('GET', '/api/candidates/:candidateId/review/:attemptId/share', 'record:read', {
    about: 'Whether a review is shared, how, and since when.',
    params: candidate.extend({ attemptId: Uuid }),
    body: nothing,
    answer: z.object({ mode: ShareMode.nullable(), since: z.string().nullable() }),
  }),
  readShared: route('GET', '/api/shared/:token', 'signed-in', {
    about: 'A review that was shared, for people of its workspace.',
    params: shared,
    body: nothing,
    answer: SharedReview,
  }),
  commentShared: route('PUT', '/api/shared/:token/items/:item/comments/:commentId', 'signed-in', {
    about:
      'Says something of an item of a review that was shared for comments; null takes back what one said.',
    params: shared.extend({ item: ItemNumber, commentId: Uuid }),
    body: z.object({ text: CommentText.nullable() }),
    answer: SharedReview,
  }),
  readRecall: route('GET', '/api/candidates/:candidateId/recall', 'record:read', {
    about: 'Cards and questions, and what was answered to each.',
    params: candidate,
    body: nothing,
    answer: z.object({
      cards: z.array(StoredCard),
      histories: z.array(CardHistory),
      recent: z.array(Uuid).describe('ids of the answers of the last 30 days, which the histories hold'),
    }),
  }),
  saveCards: route('PUT', '/api/candidates/:candidateId/recall/cards', 'record:work', {
    about:
      'Keeps cards that nobody changed since their version, 0 of a new one, and deletes others. Of one that was changed, what is stored is answered.',
    params: candidate,
    body: z.object({
      cards: z.array(z.object({ card: Card, version: Version })).max(cardsAtOnce),
      gone: z.array(z.object({ id: Uuid, version: Version })).max(cardsAtOnce),
    }),
    answer: z.object({
      saved: z.array(StoredCard),
      gone: z.array(Uuid),
      conflicts: z.array(StoredCard),
      recalled: Recalled.describe('what changed of it: what is empty now is gone'),
    }),
  }),
  answerCards: route('POST', '/api/candidates/:candidateId/recall/answers', 'record:work', {
    about:
      'Keeps answers, each once by its id however often and from wherever it is sent; one that was taken back stays so.',
    params: candidate,
    body: z.object({ answers: z.array(RecallAnswer).min(1).max(cardsAtOnce) }),
    answer: z.object({
      histories: z.array(CardHistory),
      recalled: Recalled.describe('what changed of it: what is empty now is gone'),
    }),
  }),
  deleteAttempt: route('DELETE', '/api/candidates/:candidateId/attempts/:attemptId', 'record:work', {
    about: 'Deletes something that was sat, and answers the sessions of the plan that this changed.',
    params: candidate.extend({ attemptId: Uuid }),
    body: Requested.pick({ request: true }),
    answer: SavedAttempt.pick({ sessions: true }),
  }),

  listRooms: route('GET', '/api/candidates/:candidateId/rooms', 'record:read', {
    about: 'Tests that are being sat, newest first.',
    params: candidate,
    body: nothing,
    answer: z.array(RoomHeard.extend({ setup: RoomSetup })),
  }),
  readRoom: route('GET', '/api/candidates/:candidateId/rooms/:roomId', 'record:read', {
    about: 'A test that is being sat, or was, with everything that was pressed in it.',
    params: candidate.extend({ roomId: Uuid }),
    body: nothing,
    answer: RoomRecord,
  }),
  hearRoom: route('GET', '/api/candidates/:candidateId/rooms/:roomId/heard', 'record:read', {
    about:
      'Who carries a test on, how much was pressed in it, and what time it is by the clock of the server.',
    params: candidate.extend({ roomId: Uuid }),
    body: nothing,
    answer: RoomHeard.extend({ events: z.number() }),
  }),
  openRoom: route('PUT', '/api/candidates/:candidateId/rooms/:roomId', 'record:work', {
    about: 'Opens a test room as it was set up; sent twice it is opened once.',
    params: candidate.extend({ roomId: Uuid }),
    body: z.object({ setup: RoomSetup, request: Uuid.optional() }),
    answer: RoomHeard,
  }),
  noteRoom: route('POST', '/api/candidates/:candidateId/rooms/:roomId/events', 'record:work', {
    about: 'Keeps what was pressed in a test room, each event once however often it is sent.',
    params: candidate.extend({ roomId: Uuid }),
    body: NotedEvents,
    answer: RoomHeard,
  }),

  listSimulations: route('GET', '/api/candidates/:candidateId/simulations', 'record:read', {
    about: 'Comparisons of ways through a section that were kept, newest first; at most 20.',
    params: candidate,
    body: nothing,
    answer: z.array(StoredSimulation),
  }),
  saveSimulation: route('PUT', '/api/candidates/:candidateId/simulations/:simulationId', 'record:work', {
    about:
      'Simulates sittings of a section from the stored record, and keeps the result; sent twice it is kept once.',
    params: candidate.extend({ simulationId: Uuid }),
    body: SimulationRequest,
    answer: StoredSimulation,
  }),
  deleteSimulation: route('DELETE', '/api/candidates/:candidateId/simulations/:simulationId', 'record:work', {
    about: 'Forgets a comparison that was kept.',
    params: candidate.extend({ simulationId: Uuid }),
    body: nothing,
    answer: ok,
  }),

  exportFile: route('GET', '/api/candidates/:candidateId/file', 'record:read', {
    about: 'The whole record as a Climber file.',
    params: candidate,
    body: nothing,
    answer: ClimberFileShape,
  }),
  importFile: route('PUT', '/api/candidates/:candidateId/file', 'signed-in', {
    about: 'Creates a candidate, and the exam where the workspace has no equal one, from a Climber file.',
    params: candidate,
    body: z.object({
      file: WrittenFile,
      self: z.boolean().default(false),
      again: z.boolean().default(false).describe('puts back under its id what one deleted oneself'),
    }),
    answer: Candidate,
  }),
  openFeed: route('POST', '/api/candidates/:candidateId/feed', 'record:share', {
    about:
      'A private address at which calendar programs read the plan. Asked for again, the one before ends.',
    params: candidate,
    body: nothing,
    answer: z.object({ token: z.string() }),
  }),
  closeFeed: route('DELETE', '/api/candidates/:candidateId/feed', 'record:share', {
    about: 'Ends the private address of the calendar.',
    params: candidate,
    body: nothing,
    answer: ok,
  }),
  feedState: route('GET', '/api/candidates/:candidateId/feed', 'record:read', {
    about: 'Since when the calendar has an address, and when it was last read.',
    params: candidate,
    body: nothing,
    answer: z.object({ since: z.string().nullable(), read: z.string().nullable() }),
  }),
  readFeed: route('GET', '/api/feeds/:token/plan.ics', 'anyone', {
    about: 'The calendar itself; whoever has the address may read it.',
    params: z.object({ token: z.string().min(20).max(60) }),
    body: nothing,
    answer: z.string(),
  }),
  exportCalendar: route('GET', '/api/candidates/:candidateId/plan.ics', 'record:read', {
    about: 'The plan as a calendar file.',
    params: candidate,
    body: nothing,
    answer: z.string(),
  }),
} as const

export type RouteName = keyof typeof routes
export type Params<N extends RouteName> = z.input<(typeof routes)[N]['params']>
export type Body<N extends RouteName> = z.input<(typeof routes)[N]['body']>
export type ParsedBody<N extends RouteName> = z.output<(typeof routes)[N]['body']>
export type ParsedParams<N extends RouteName> = z.output<(typeof routes)[N]['params']>
export type Answer<N extends RouteName> = z.output<(typeof routes)[N]['answer']>

export type Template = z.infer<typeof Template>
export type User = z.infer<typeof User>
export type SessionAnswer = z.infer<typeof SessionAnswer>
export type StoredPart = z.infer<typeof StoredPart>
export type StoredSession = z.infer<typeof StoredSession>
export type StoredAttempt = z.infer<typeof StoredAttempt>
export type StoredNote = z.infer<typeof StoredNote>
export type StoredCard = z.infer<typeof StoredCard>
export type SavedAttempt = z.infer<typeof SavedAttempt>
export type ChangedPlan = z.infer<typeof ChangedPlan>
export type StoredPlan = z.infer<typeof StoredPlan>
export type Candidate = z.infer<typeof Candidate>
export type CandidateRow = z.infer<typeof CandidateRow>
export type ExamRow = z.infer<typeof ExamRow>
export type StoredExam = z.infer<typeof StoredExam>
export type ExamEffect = z.infer<typeof ExamEffect>
