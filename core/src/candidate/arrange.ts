import type { Move, Plan, PlanSession, Unplaced } from '@climber/contract'
import { asSat } from '../exam/accommodation'
import { formsWith, identified } from '../hours/shelf'
import { Board, rehearsalsOf, type Spot } from '../plan/board/board'
import { asItStands } from '../plan/asItStands'
import { PlanProblem } from '../plan/ground'
import { numbering } from '../plan/numbering'
import { byTime } from '../sessions/session'
import { type Words, wordsFor } from '../sessions/words'
import { assess } from './assessment'
import { type CandidateRecord, type Moment, sittingOf } from './moment'
import { planInput } from './planInput'

export interface Arranged {
  plan: Plan
  /** Moves that a rule stands against, by their place in the list. */
  refusals: { at: number; message: string }[]
  /** What was done, in words. */
  what: string
}

/** The board of a candidate's plan: what may be put where by hand. Throws `PlanProblem` where there is no sitting. */
export function boardOf(record: CandidateRecord & { plan: Plan }, now: Moment): Board {
  const assessment = assess(record, now)
  if (!assessment.sitting) throw new PlanProblem('target.sitting', 'no sitting of this exam is still to come')
  const input = planInput(assessment, assessment.sitting, record.plan.seed)
  const { sessions, phases } = record.plan
  return new Board(input, sessions, rehearsalsOf(phases))
}

/** The words of a candidate's plan: titles and reasons of its sessions. */
export function wordsOf(record: CandidateRecord, today: string): Words {
  const sat = asSat(record.exam, record.settings)
  return wordsFor({
    exam: record.exam,
    forms: formsWith(sat.exam, identified(record.materials.items)),
    settings: record.settings,
    sitting: sittingOf(record, today),
    travelMinutes: record.examDay.travelMinutes,
  })
}

/** What one move came to: the plan after it and what was done in words, or the rule that stands against it. */
type Moved = { plan: Plan; words?: string } | { refusal: string }

/** A plan with one session put in place of that with its id. */
const withSession = (plan: Plan, next: PlanSession): Plan => ({
  ...plan,
  sessions: [...plan.sessions.filter(({ id }) => id !== next.id), next].sort(byTime),
})

function lift(plan: Plan, session: PlanSession | undefined, words: Words): Moved {
  if (!session) return { refusal: 'It is in the tray already.' }
  return {
    plan: withSession(plan, { ...session, status: 'slipped', pinned: false }),
    words: `${words.title(session)} to the tray`,
  }
}

/** A piece from the tray becomes a session under a number of its own. */
function placed(plan: Plan, piece: Unplaced, taken: string[], spot: Spot, pinned: boolean): Plan {
  const id = numbering(plan.sessions, taken)(piece.id.replace(/\.tray$/, ''))
  const next: PlanSession = { ...piece, ...spot, id, status: 'planned', pinned }
  return {
    ...withSession(plan, next),
    unplaced: (plan.unplaced ?? []).filter(({ id: other }) => other !== piece.id),
  }
}

function moveOne(record: CandidateRecord & { plan: Plan }, now: Moment, move: Move, words: Words): Moved {
  const { plan } = record
  const session = plan.sessions.find(({ id }) => id === move.id)
  const waiting = session ? undefined : plan.unplaced?.find(({ id }) => id === move.id)
  const piece = session ?? waiting
  if (!piece) return { refusal: 'There is no such session in the plan any more.' }
  if (piece.status === 'done' || piece.status === 'running')
    return { refusal: 'What is done or running stays where it is.' }
  if (move.lifted) return lift(plan, session, words)
  const date = move.date ?? session?.date
  const start = move.start ?? session?.start
  if (date === undefined || start === undefined) return { refusal: 'Say the day and the time.' }
  const spot = { date, start, minutes: move.minutes ?? piece.minutes }
  const stays =
    session?.status === 'planned' &&
    date === session.date &&
    start === session.start &&
    spot.minutes === session.minutes
  if (stays) {
    const { pinned } = move
    if (pinned === undefined) return { plan }
    return {
      plan: withSession(plan, { ...session, pinned }),
      words: `${words.title(session)} ${pinned ? 'pinned' : 'unpinned'}`,
    }
  }
  const refusal = boardOf(record, now).refusal(piece, spot)
  if (refusal) return { refusal }
  const pinned = move.pinned ?? true
  return {
    plan: session
      ? withSession(plan, { ...session, ...spot, status: 'planned', pinned })
      : placed(plan, piece, record.taken, spot, pinned),
    words: `${words.title(piece)} moved to ${date}, ${start}`,
  }
}

/** The plan with what its sessions tell of themselves, now that some have moved. */
function reasoned(record: CandidateRecord & { plan: Plan }, now: Moment): Plan {
  const { plan } = record
  const assessment = assess(record, now)
  if (!assessment.sitting) return plan
  const input = planInput(assessment, assessment.sitting, plan.seed)
  return { ...plan, sessions: asItStands(input, plan.sessions) }
}

/** Moves done to a plan one after the other. What is moved by hand is pinned, so that no re-plan moves it again. */
export function arrange(record: CandidateRecord & { plan: Plan }, now: Moment, moves: Move[]): Arranged {
  const words = wordsOf(record, now.date)
  const refusals: Arranged['refusals'] = []
  const said: string[] = []
  let { plan } = record
  moves.forEach((move, at) => {
    const moved = moveOne({ ...record, plan }, now, move, words)
    if ('refusal' in moved) return void refusals.push({ at, message: moved.refusal })
    plan = moved.plan
    if (moved.words) said.push(moved.words)
  })
  if (said.length) plan = reasoned({ ...record, plan }, now)
  const [only] = said
  return { plan, refusals, what: said.length === 1 && only ? only : `${said.length} sessions moved` }
}
