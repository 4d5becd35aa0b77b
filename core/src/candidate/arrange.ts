import type { Move, Plan, PlanSession } from '@climber/contract'
import { Board, rehearsalsOf } from '../plan/board'
import { numbering, PlanProblem } from '../plan/makePlan'
import { byTime } from '../plan/session'
import { assess, planInput } from './assess'
import type { CandidateRecord, Moment } from './record'

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
  return new Board(input, sessions, rehearsalsOf(phases, record.settings.stages))
}

/** Moves done to a plan one after the other. What is moved by hand is pinned, so that no re-plan moves it again. */
export function arrange(record: CandidateRecord & { plan: Plan }, now: Moment, moves: Move[]): Arranged {
  const refusals: Arranged['refusals'] = []
  let { plan } = record
  const words: string[] = []
  moves.forEach((move, at) => {
    const refuse = (message: string) => void refusals.push({ at, message })
    const session = plan.sessions.find(({ id }) => id === move.id)
    const waiting = plan.unplaced?.find(({ id }) => id === move.id)
    if (!session && !waiting) return refuse('There is no such session in the plan any more.')
    const changed = (next: PlanSession): PlanSession[] =>
      [...plan.sessions.filter(({ id }) => id !== move.id), next].sort(byTime)
    if (session && (session.status === 'done' || session.status === 'running'))
      return refuse('What is done or running stays where it is.')
    if (move.lifted) {
      if (!session) return refuse('It is in the tray already.')
      plan = { ...plan, sessions: changed({ ...session, status: 'slipped', pinned: false }) }
      words.push(`${session.title} to the tray`)
      return
    }
    const date = move.date ?? session?.date
    const start = move.start ?? session?.start
    const minutes = move.minutes ?? (session ?? waiting!).minutes
    if (date === undefined || start === undefined) return refuse('Say the day and the time.')
    const still =
      session &&
      session.status === 'planned' &&
      date === session.date &&
      start === session.start &&
      minutes === session.minutes
    if (still) {
      if (move.pinned === undefined) return
      plan = { ...plan, sessions: changed({ ...session, pinned: move.pinned }) }
      words.push(`${session.title} ${move.pinned ? 'pinned' : 'unpinned'}`)
      return
    }
    const piece = session ?? waiting!
    const refusal = boardOf({ ...record, plan }, now).refusal(piece, { date, start, minutes })
    if (refusal) return refuse(refusal)
    const id = session ? session.id : numbering(plan.sessions)(waiting!.id.replace(/\.tray$/, ''))
    const next: PlanSession = {
      ...piece,
      id,
      date,
      start,
      minutes,
      status: 'planned',
      pinned: move.pinned ?? true,
    }
    plan = {
      ...plan,
      sessions: changed(next),
      ...(waiting && { unplaced: plan.unplaced!.filter(({ id: other }) => other !== waiting.id) }),
    }
    words.push(`${next.title} moved to ${date}, ${start}`)
  })
  return { plan, refusals, what: words.length === 1 ? words[0]! : `${words.length} sessions moved` }
}
