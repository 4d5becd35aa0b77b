import type { ReviewSession } from '@climber/contract'
import type { Span } from '../calendar/calendar'
import { type Mending, movedTo, shortestPiece } from './mending'

interface Job {
  piece: ReviewSession
  rest: number
  /** A part of the piece has its place; the rest is a session of its own. */
  fresh: boolean
}

/** The first stretch of a day between two moments that holds `least` minutes. */
function gapOn(
  mending: Mending,
  day: number,
  after: number,
  before: number,
  least: number,
): Span | undefined {
  const { calendar } = mending.ground
  return calendar
    .free(day)
    .map(({ from, to }) => ({
      from: Math.max(from, Math.ceil((after - day * 1440) / 5) * 5),
      to: Math.min(to, before - day * 1440),
    }))
    .find(({ from, to }) => Math.min(to - from, calendar.dayRoom(day)) >= least)
}

/** As much of the first job as a day holds; undefined where it holds none of it. */
function pieceOn(
  mending: Mending,
  day: number,
  after: number,
  before: number,
  job: Job,
): ReviewSession | undefined {
  const least = Math.min(job.rest, shortestPiece)
  const gap = gapOn(mending, day, after, before, least)
  if (!gap) return undefined
  let minutes = Math.min(job.rest, gap.to - gap.from, mending.ground.calendar.dayRoom(day))
  if (job.rest - minutes > 0 && job.rest - minutes < shortestPiece) minutes = job.rest - shortestPiece
  if (minutes < least) return undefined
  const session = job.fresh ? { ...job.piece, id: mending.name(`review.${job.piece.form}`) } : job.piece
  return movedTo(session, day, gap.from, minutes)
}

/** Places minutes of review in pieces between two moments; true if all found room. */
export function placeReview(
  mending: Mending,
  pieces: ReviewSession[],
  after: number,
  before: number,
): boolean {
  const { days, today, ground } = mending
  const taken: ReviewSession[] = []
  const queue = pieces.map((piece): Job => ({ piece, rest: piece.minutes, fresh: false }))
  for (const day of days) {
    if (day * 1440 + 1440 <= after || day < today || day >= ground.taper) continue
    if (day * 1440 >= before) break
    for (let job = queue[0]; job; job = queue[0]) {
      const session = pieceOn(mending, day, after, before, job)
      if (!session) break
      mending.take(session)
      taken.push(session)
      job.rest -= session.minutes
      job.fresh = true
      if (job.rest <= 0) queue.shift()
    }
  }
  if (!queue.length) return true
  taken.forEach((session) => mending.lift(session))
  return false
}
