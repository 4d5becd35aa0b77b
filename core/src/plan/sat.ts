import type { Attempt, Plan, PlanSession, TestSession } from '@climber/contract'
import { isActive, isTest, otherPartOf } from '../sessions/session'
import { dayNumber } from '../time/day'

/** A whole paper only is a planned test; a drill or a single section is none. */
const isWhole = ({ kind, scope }: Attempt): boolean =>
  (kind === 'practice' || kind === 'diagnostic') && !scope

/** Another day than planned by so many days is another test. */
const mostDaysApart = 60

const done = (session: TestSession, date: string, minutesDone: number | undefined): TestSession => ({
  ...session,
  date,
  status: 'done',
  ...(minutesDone !== undefined && { minutesDone }),
})

/**
 * The sessions of a plan that an attempt was, done on the day on which it was sat: the planned test of the same form that is
 * nearest in time, both of its parts where it was split; or else the one that it says it was. None where no such test stands.
 */
export function sessionsSat(plan: Plan, attempt: Attempt): PlanSession[] {
  const { form, date, minutes, start, session } = attempt
  if (date === undefined) return []
  if (session !== undefined) {
    const named = plan.sessions.filter(isTest).find(({ id }) => id === session)
    return named && named.status !== 'done'
      ? [done({ ...named, ...(start !== undefined && { start }) }, date, minutes)]
      : []
  }
  if (!isWhole(attempt) || form === undefined) return []
  const day = dayNumber(date)
  const apart = (test: TestSession) => Math.abs(dayNumber(test.date) - day)
  const [test] = plan.sessions
    .filter(isTest)
    .filter(
      (one) =>
        one.form === form &&
        (one.status === 'planned' || one.status === 'slipped' || one.status === 'running'),
    )
    .filter((one) => apart(one) <= mostDaysApart)
    .sort((a, b) => apart(a) - apart(b))
  if (!test) return []
  const other = otherPartOf(test, plan.sessions)
  const sat = done({ ...test, ...(start !== undefined && { start }) }, date, minutes)
  return other && isActive(other) && other.status !== 'done' ? [sat, done(other, date, undefined)] : [sat]
}

/** The sessions that an attempt was, open again once it is taken back. */
export function sessionsAfter(plan: Plan, { session }: Attempt): PlanSession[] {
  const test = plan.sessions.filter(isTest).find(({ id }) => id === session)
  if (!test) return []
  const parts = [test, ...(otherPartOf(test, plan.sessions) ? [otherPartOf(test, plan.sessions)] : [])]
  return parts.flatMap((part): PlanSession[] => {
    if (part?.status !== 'done') return []
    const { minutesDone: _, ...open } = part
    return [{ ...open, status: 'planned' }]
  })
}
