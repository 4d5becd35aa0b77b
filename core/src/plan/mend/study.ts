import type { PlanSession, RetestSession } from '@climber/contract'
import { retestDaysOf } from '../../sessions/ways'
import {
  byTime,
  isStudy,
  longestWait,
  ofKind,
  reviewsOf,
  startOf,
  topicsOf,
  yieldIn,
} from '../../sessions/session'
import { dateOf, dayNumber, type DayNumber, minuteOf } from '../../time/day'
import { yieldOf } from '../../hours/allocate'
import { TopicOrder } from '../board/order'
import { setIn } from '../fill/timed'
import { Mending, movedTo, nearDays, shortestPiece } from './mending'
import { givenUp } from './shift'

/** How far, in days, study may move. */
const studyReach = 21
/** A displaced session takes another's place only if an hour of it is worth so many times as much. */
const worthBumping = 1.3
/** It may be cut to so much of its length. */
const leastShare = 0.6

/** A neighbour in time treats the same single topic. */
function beside(mending: Mending, session: PlanSession, day: DayNumber, from: number): boolean {
  const [topic, ...more] = topicsOf(session)
  if (topic === undefined || more.length) return false
  const here = [...mending.placed.values()].filter(({ date }) => date === dateOf(day)).sort(byTime)
  const after = here.findIndex((other) => minuteOf(other.start) > from)
  const around = after < 0 ? [here[here.length - 1]] : [here[after - 1], here[after]]
  return around.some((other) => {
    const theirs = other ? topicsOf(other) : []
    return theirs.length === 1 && theirs[0] === topic
  })
}

/** The first day on which a retest may stand. */
function retestFrom(mending: Mending, { of }: RetestSession): number {
  const wait = retestDaysOf(mending.input.settings)
  if (wait === null) return -Infinity
  const reviews = reviewsOf(of ?? '', mending.active())
  return Math.max(-Infinity, ...reviews.map(({ date }) => dayNumber(date) + wait))
}

/**
 * Points an hour of a session now: what it was placed for, or less where a topic of it has come to be known since, so that what a
 * test has shown as known does not keep its place for what was thought of it before.
 */
function worthOf({ input }: Mending, session: PlanSession): number {
  const own = topicsOf(session)
  const now = input.topics.filter(({ id }) => own.includes(id)).map((topic) => yieldOf(topic))
  const placedFor = yieldIn(session)
  return now.length ? Math.min(placedFor, now.reduce((sum, one) => sum + one, 0) / now.length) : placedFor
}

/** The session worth least that `session` may take the place of. */
function victimOf(
  mending: Mending,
  session: PlanSession,
  { least, earliest, fittingAt }: Wanted,
): PlanSession | undefined {
  const { placed, today, order } = mending
  const latest = Math.max(today, dayNumber(session.date)) + longestWait
  return [...placed.values()]
    .filter(
      (other) =>
        isStudy(other) &&
        !other.pinned &&
        dayNumber(other.date) > today + nearDays &&
        dayNumber(other.date) <= latest &&
        dayNumber(other.date) >= earliest &&
        other.minutes >= least &&
        worthOf(mending, session) > worthBumping * worthOf(mending, other) &&
        fittingAt(startOf(other)),
    )
    .sort((a, b) => worthOf(mending, a) - worthOf(mending, b) || byTime(a, b))
    .find(
      (other) =>
        !order.faults(TopicOrder.firsts(mending.active().filter(({ id }) => id !== other.id))).length,
    )
}

/** A session in so many minutes; a timed set has as many items as these hold. */
function inMinutes({ input }: Mending, session: PlanSession, minutes: number): PlanSession {
  if (!isStudy(session) || !session.timed || minutes >= session.minutes) return session
  return { ...session, timed: setIn(input.exam, session.topics, minutes, input.settings.timeFactor) }
}

/** To the nearest free time, shortened if need be; false where there is none. */
function placeNear(mending: Mending, session: PlanSession, { earliest, least, fittingAt }: Wanted): boolean {
  const { calendar } = mending.ground
  const choice = mending.near(dayNumber(session.date), studyReach).filter((day) => day >= earliest)
  for (const [minutes, strict] of [
    [session.minutes, true],
    [Math.min(session.minutes, least), true],
    [Math.min(session.minutes, least), false],
  ] as const)
    for (const day of choice)
      for (const { from, to } of mending.gaps(day, minutes)) {
        const fitting = fittingAt(day * 1440 + from)
        if (!fitting || (strict && beside(mending, session, day, from))) continue
        const long = Math.min(session.minutes, to - from, calendar.dayRoom(day))
        mending.take(movedTo(inMinutes(mending, fitting, long), day, from, long))
        return true
      }
  return false
}

/** What a place has to be for a session. */
interface Wanted {
  earliest: number
  least: number
  /** The session as it may stand at a minute; undefined where it may not. */
  fittingAt: (minute: number) => PlanSession | undefined
}
function wantedBy(mending: Mending, session: PlanSession): Wanted {
  const met = TopicOrder.firsts(mending.active())
  const begun = new Set(mending.input.topics.flatMap(({ id, touches }) => (touches.length ? [id] : [])))
  /** A mixed set goes on with what was met by then. */
  const ofMet = (minute: number): PlanSession | undefined => {
    if (session.kind !== 'mixed' || session.timed || session.remedy) return undefined
    const topics = session.topics.filter((id) => begun.has(id) || (met.get(id) ?? Infinity) < minute)
    return topics.length ? { ...session, topics } : undefined
  }
  return {
    earliest: session.kind === 'retest' ? retestFrom(mending, session) : -Infinity,
    least: Math.max(shortestPiece, Math.ceil((leastShare * session.minutes) / 5) * 5),
    fittingAt: (minute) => (mending.order.broken(topicsOf(session), minute, met) ? ofMet(minute) : session),
  }
}

/** To the nearest free time; else in the place of what is worth clearly less, which looks for another itself; else dropped. */
function placeStudy(mending: Mending, session: PlanSession): void {
  const wanted = wantedBy(mending, session)
  if (placeNear(mending, session, wanted)) return
  const victim = victimOf(mending, session, wanted)
  if (!victim)
    return mending.drop(session, 'No free time near it is left, and nothing that stands there is worth less.')
  mending.lift(victim)
  const long = Math.min(session.minutes, victim.minutes)
  const fitted = inMinutes(mending, wanted.fittingAt(startOf(victim)) ?? session, long)
  mending.take(movedTo(fitted, dayNumber(victim.date), minuteOf(victim.start), long))
  if (!placeNear(mending, victim, wantedBy(mending, victim)))
    mending.drop(victim, `${mending.words.title(session)} takes its time: an hour of it is worth more.`)
}

/** What is begun before what it builds on loses its place, unless it was pinned there. */
function keepOrder(mending: Mending): void {
  for (;;) {
    const first = TopicOrder.firsts(mending.active())
    const early = mending.order
      .faults(first)
      .map(([topic]) =>
        [...mending.placed.values()].find(
          (one) => topicsOf(one).includes(topic) && startOf(one) === first.get(topic),
        ),
      )
      .find((one) => one !== undefined)
    if (!early) return
    mending.lift(early)
    mending.drop(early, 'What it builds on lost its place.')
  }
}

/** Study and retests that wait for a place, in order of time, so that what others build on is placed first; how many there were. */
export function placeAllStudy(mending: Mending): number {
  // A retest that now comes too soon after its review waits its days again.
  for (const retest of ofKind([...mending.placed.values()], 'retest'))
    if (dayNumber(retest.date) < retestFrom(mending, retest)) {
      mending.lift(retest)
      mending.displaced.push(retest)
    }
  const waiting = [...mending.displaced, ...mending.slipped].filter(
    (session) =>
      (isStudy(session) || session.kind === 'retest') &&
      !mending.placed.has(session.id) &&
      !mending.settled.has(session.id) &&
      !mending.reasons.has(session.id),
  )
  const once = [...new Map(waiting.map((session) => [session.id, session])).values()]
  for (const session of once.sort(byTime)) placeStudy(mending, session)
  keepOrder(mending)
  secondChance(mending)
  return once.length
}

/** Where what stood in the way has moved or lost its place, what found none may find one now; each once more, in order of time. */
function secondChance(mending: Mending): void {
  const { dropped, reasons, placed, settled } = mending
  const again = [...dropped.values()].filter(
    (one) => isStudy(one) && !placed.has(one.id) && !settled.has(one.id),
  )
  for (const session of again.sort(byTime)) {
    dropped.delete(session.id)
    reasons.delete(session.id)
    placeStudy(mending, session)
  }
  keepOrder(mending)
}

/**
 * Study that was left out, once the whole plan stands: what moved last may have opened a place near it. Answers those that find free time,
 * at their place; nothing else moves.
 */
export function lastChance(mending: Mending, sessions: PlanSession[]): PlanSession[] {
  const { dropped, reasons, input, previous } = mending
  const out = [...dropped.values()].filter(
    (one) => isStudy(one) && !one.timed && reasons.get(one.id) !== givenUp,
  )
  if (!out.length) return []
  const standing = new Mending(input, { ...previous, sessions })
  // What slipped and was placed anew, and what would look for another place: all of it stands here.
  const stood = new Set(standing.active().map(({ id }) => id))
  for (const one of sessions)
    if (one.status === 'planned' && one.date >= input.today && !stood.has(one.id)) standing.take(one)
  const before = new Map(previous.sessions.map((session) => [session.id, session]))
  return out.sort(byTime).flatMap((one) => {
    // Near where it stood before the mending, wherever it stood on the way.
    const session = { ...one, date: before.get(one.id)?.date ?? one.date }
    if (!placeNear(standing, session, wantedBy(standing, session))) return []
    dropped.delete(session.id)
    reasons.delete(session.id)
    return standing.placed.get(session.id) ?? []
  })
}
