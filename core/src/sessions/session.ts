import type {
  PlanSession,
  SessionKind,
  SessionOf,
  SessionStatus,
  StudySession,
  TestSession,
} from '@climber/contract'
import { dayNumber, minuteOf } from '../time/day'

/** What sessions are asked whatever their kind. A session, or a piece from the tray that has no place yet. */
type AnyKind = { [K in SessionKind]: Omit<SessionOf<K>, 'date' | 'start'> }[SessionKind]

/**
 * What became of a session by `today`: a planned one whose day has gone by has slipped, whether anyone said so or not. The one
 * place where that is decided.
 */
export const statusOn = (
  { status, date }: Pick<PlanSession, 'status' | 'date'>,
  today: string,
): SessionStatus => (status === 'planned' && date < today ? 'slipped' : status)

export const hasSlipped = (session: Pick<PlanSession, 'status' | 'date'>, today: string): boolean =>
  statusOn(session, today) === 'slipped'

/** Days within which slipped work is made up for; what is older is history. */
export const longestWait = 14

export const slippedLately = (session: Pick<PlanSession, 'status' | 'date'>, today: string): boolean =>
  hasSlipped(session, today) && dayNumber(today) - dayNumber(session.date) <= longestWait

/** Slipped work that a mended plan looks for a place for. Light work that slipped is not made up for. */
export const waits = (session: Pick<PlanSession, 'status' | 'date' | 'kind'>, today: string): boolean =>
  slippedLately(session, today) && session.kind !== 'light'

/** Planned, and still to come or due today. */
export const isOpen = (session: Pick<PlanSession, 'status' | 'date'>, today: string): boolean =>
  statusOn(session, today) === 'planned'

/** A session that stands in the calendar, whether done or still to come. */
export const isActive = ({ status }: Pick<PlanSession, 'status'>): boolean =>
  status !== 'slipped' && status !== 'skipped'

/** Work that may stand in windows for light work, and in the taper. */
export const isEasy = ({ kind }: Pick<PlanSession, 'kind'>): boolean => kind === 'light' || kind === 'errand'

export const isTest = <T extends { kind: SessionKind }>(session: T): session is T & { kind: 'test' } =>
  session.kind === 'test'
export const isStudy = (session: PlanSession): session is StudySession =>
  session.kind === 'learn' || session.kind === 'drill' || session.kind === 'mixed'

/** Work under the clock of the exam: a test, a section of one, a timed set. */
export const isTimed = (session: AnyKind): boolean =>
  session.kind === 'test' || timedSeconds(session) !== undefined

/** Topics that a session touches. */
export const topicsOf = (session: AnyKind): string[] => ('topics' in session ? session.topics : [])

/** The form that a session is about: a test's own, or that of the test that it follows. */
export const formOfSession = (session: AnyKind): string | undefined =>
  'form' in session ? session.form : undefined

/** The test session that a review or a retest follows. */
export const followsOf = (session: AnyKind): string | undefined => ('of' in session ? session.of : undefined)

export const materialOf = (session: AnyKind) => ('material' in session ? session.material : undefined)

/** Sections that a test session holds: of one that is sat over several days, or by themselves; undefined where it is whole. */
export const partOf = (session: AnyKind): string[] | undefined =>
  session.kind === 'test' ? (session.split?.sections ?? session.sections) : undefined

/** A whole test, on one day or over several; not a section by itself. */
export const isWhole = (session: AnyKind): boolean => session.kind === 'test' && !session.sections

/** Seconds at the pace of the exam in a session that is not a test: a timed set. */
export const timedSeconds = (session: AnyKind): number | undefined =>
  'timed' in session ? session.timed?.seconds : undefined

export const isSeen = (session: AnyKind): boolean => session.kind === 'test' && session.seen

/** Points an hour that a session was placed for; 0 where nobody worked that out. */
export const yieldIn = (session: AnyKind): number => ('reason' in session ? (session.reason?.yield ?? 0) : 0)

/** The other parts of a test that is sat over several days, among `sessions`: each knows the next one, the last the first. */
export function otherPartsOf(
  test: Pick<TestSession, 'id' | 'split'>,
  sessions: PlanSession[],
): TestSession[] {
  const others: TestSession[] = []
  for (
    let next = nextPart(test, sessions);
    next && next.id !== test.id && !others.includes(next);
    next = nextPart(next, sessions)
  )
    others.push(next)
  return others
}
const nextPart = ({ split }: Pick<TestSession, 'split'>, sessions: PlanSession[]): TestSession | undefined =>
  split && sessions.filter(isTest).find(({ id }) => id === split.other)

/** Sessions of one kind. */
export const ofKind = <K extends SessionKind>(sessions: PlanSession[], kind: K): SessionOf<K>[] =>
  sessions.filter((session): session is SessionOf<K> => session.kind === kind)

/** Reviews of a test among `sessions`. */
export const reviewsOf = (test: string, sessions: PlanSession[]): SessionOf<'review'>[] =>
  ofKind(sessions, 'review').filter(({ of }) => of === test)

/** Minutes since 1970-01-01 on the candidate's clock. */
export const startOf = ({ date, start }: Pick<PlanSession, 'date' | 'start'>): number =>
  dayNumber(date) * 1440 + minuteOf(start)
export const endOf = (session: Pick<PlanSession, 'date' | 'start' | 'minutes'>): number =>
  startOf(session) + session.minutes

export const byTime = (a: PlanSession, b: PlanSession): number =>
  a.date.localeCompare(b.date) || a.start.localeCompare(b.start) || a.id.localeCompare(b.id)
