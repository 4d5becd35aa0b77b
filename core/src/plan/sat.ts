import type { Attempt, Plan, PlanSession, TestSession } from '@climber/contract'
import { isActive, isTest, isTimed, otherPartsOf } from '../sessions/session'
import { dayNumber } from '../time/day'

/** The sections that an attempt sat, undefined where it was the whole paper; null for what is no planned test, as a drill is. */
function sectionsSat({ kind, scope }: Attempt): string[] | undefined | null {
  if (kind === 'section') return scope?.sections ?? null
  return (kind === 'practice' || kind === 'diagnostic') && !scope ? undefined : null
}
const sameSections = (one: string[] | undefined, other: string[] | undefined): boolean =>
  [...(one ?? [])].sort().join() === [...(other ?? [])].sort().join()

/** Another day than planned by so many days is another test. */
const mostDaysApart = 60

const done = <S extends PlanSession>(session: S, date: string, minutesDone: number | undefined): S => ({
  ...session,
  date,
  status: 'done',
  ...(minutesDone !== undefined && { minutesDone }),
})

/**
 * The sessions of a plan that an attempt was, done on the day on which it was sat: the planned test of the same form that is
 * nearest in time, all its parts where it was split; or else the one that it says it was. None where no such test stands.
 */
export function sessionsSat(plan: Plan, attempt: Attempt): PlanSession[] {
  const { form, date, minutes, start, session } = attempt
  if (date === undefined) return []
  if (session !== undefined) {
    const named = plan.sessions.filter(isTimed).find(({ id }) => id === session)
    return named && named.status !== 'done'
      ? [done({ ...named, ...(start !== undefined && { start }) }, date, minutes)]
      : []
  }
  const sections = sectionsSat(attempt)
  if (sections === null || form === undefined) return []
  const day = dayNumber(date)
  const apart = (test: TestSession) => Math.abs(dayNumber(test.date) - day)
  const [test] = plan.sessions
    .filter(isTest)
    .filter(
      (one) =>
        one.form === form &&
        sameSections(sections, one.sections) &&
        (one.status === 'planned' || one.status === 'slipped' || one.status === 'running'),
    )
    .filter((one) => apart(one) <= mostDaysApart)
    .sort((a, b) => apart(a) - apart(b))
  if (!test) return []
  const others = otherPartsOf(test, plan.sessions).filter((one) => isActive(one) && one.status !== 'done')
  const sat = done({ ...test, ...(start !== undefined && { start }) }, date, minutes)
  return [sat, ...others.map((one) => done(one, date, undefined))]
}

/** The sessions that an attempt was, open again once it is taken back. */
export function sessionsAfter(plan: Plan, { session }: Attempt): PlanSession[] {
  const test = plan.sessions.filter(isTimed).find(({ id }) => id === session)
  if (!test) return []
  return [test, ...(isTest(test) ? otherPartsOf(test, plan.sessions) : [])].flatMap((part): PlanSession[] => {
    if (part.status !== 'done') return []
    const { minutesDone: _, ...open } = part
    return [{ ...open, status: 'planned' }]
  })
}
