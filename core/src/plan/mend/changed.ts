import type { Plan, PlanSession } from '@climber/contract'
import { dayNumber } from '../../time/day'
import { diffPlans } from './diff'

/** Days for which a change of the plan is news. */
const newsFor = 7

/** Whether a change of that day is news. */
export const isNews = (on: string, today: string): boolean => dayNumber(today) - dayNumber(on) < newsFor

/** Whether a change of the plan touched a session within the week that ends today. */
export const changedLately = (
  { changed }: Pick<PlanSession, 'changed'>,
  today: string,
): PlanSession['changed'] => (changed && isNews(changed.on, today) ? changed : undefined)

function marked(session: PlanSession, changed: PlanSession['changed']): PlanSession {
  if (changed) return { ...session, changed }
  if (!session.changed) return session
  const { changed: _changed, ...rest } = session
  return rest as PlanSession
}

/** Sessions that a plan notes as dropped. */
const mostDropped = 200
type Dropped = NonNullable<Plan['dropped']>[number]

/** What changes of the last week, this one too, took out and nothing has brought back. */
function droppedLately(
  before: Pick<Plan, 'dropped'>,
  gone: PlanSession[],
  after: Plan,
  today: string,
): Dropped[] {
  const there = new Set(after.sessions.map(({ id }) => id))
  const now = gone
    .filter(({ status, date }) => status === 'planned' && date >= today)
    .filter((session) => changedLately(session, today)?.how !== 'new')
    .map((session) => ({ on: today, session }))
  const all = [...(before.dropped ?? []), ...now]
  return all.filter(({ on, session }) => isNews(on, today) && !there.has(session.id)).slice(-mostDropped)
}

/**
 * The plan after a change, each session that it touched marked with the day of the change, and those noted that it took out. Of
 * several changes within a week the marks tell the whole: a session that is moved twice stood first where it stood a week ago, one
 * that is moved back was not moved, one that came and went never was.
 */
export function withChanges(before: Pick<Plan, 'dropped' | 'sessions'>, after: Plan, today: string): Plan {
  const diff = diffPlans(before.sessions, after.sessions)
  const stood = new Map(before.sessions.map((session) => [session.id, session]))
  const moved = new Map(diff.moved.map((pair) => [pair.after, pair.before]))
  const other = new Map(diff.changed.map((pair) => [pair.after, pair.before]))
  const added = new Set(diff.added)
  const mark = (session: PlanSession): PlanSession['changed'] => {
    if (added.has(session)) return { on: today, how: 'new' }
    const old = moved.get(session) ?? other.get(session)
    if (!old) return stood.get(session.id)?.changed
    const news = changedLately(old, today)
    if (news?.how === 'new') return news
    if (other.has(session)) return { on: today, how: 'other work' }
    const { date = old.date, start = old.start } = news ?? {}
    const isBack = date === session.date && start === session.start && old.minutes === session.minutes
    return isBack ? undefined : { on: today, how: 'moved', date, start }
  }
  const { dropped: _dropped, ...rest } = after
  const dropped = droppedLately(
    before,
    diff.dropped.map(({ session }) => session),
    after,
    today,
  )
  return {
    ...rest,
    ...(dropped.length && { dropped }),
    sessions: after.sessions.map((session) => marked(session, mark(session))),
  }
}
