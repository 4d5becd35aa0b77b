import type { StudySession } from '@climber/contract'
import { byTime } from '../../sessions/session'
import { dayNumber } from '../../time/day'
import { TopicOrder } from '../board/order'
import { budgets } from '../fill/budgets'
import { budgetsMoved } from './beliefs'
import { type Mending, nearDays } from './mending'

/** What a topic may have over its budget before it gives up a session: a part of it, and hours. Less where its budget has moved. */
const leeway = { moved: { part: 0.1, hours: 0.25 }, other: { part: 0.25, hours: 0.5 } }

/** Why a session gave up its place to other topics. */
export const givenUp = 'Other topics are further behind what they are to have.'

/** Hours of study ahead that stand, by topic. */
function hoursAhead(ahead: StudySession[]): Map<string, number> {
  const hours = new Map<string, number>()
  for (const { topics, minutes } of ahead)
    for (const id of topics) hours.set(id, (hours.get(id) ?? 0) + minutes / 60 / topics.length)
  return hours
}

/** Whether a session may take another topic: its own alone, beyond the next days, nobody has fixed it. */
const mayChange = ({ today }: Mending, session: StudySession): boolean =>
  !session.pinned &&
  !session.remedy &&
  !session.timed &&
  session.topics.length === 1 &&
  dayNumber(session.date) > today + nearDays

/** Of a topic's sessions, the one that is missed least: drills before readings, of two close together the second. */
function leastMissed(mending: Mending, own: StudySession[]): StudySession | undefined {
  const gap = (at: number) => (at ? dayNumber(own[at]!.date) - dayNumber(own[at - 1]!.date) : Infinity)
  return own
    .map((session, at) => ({ session, reads: Number(session.kind === 'learn'), gap: gap(at) }))
    .filter(({ session }) => mayChange(mending, session))
    .sort((a, b) => a.reads - b.reads || a.gap - b.gap || byTime(b.session, a.session))[0]?.session
}

/** Gives up one session of a topic, whose place stays taken; undefined, and nothing changed, where none may go. */
function giveUp(mending: Mending, id: string): StudySession | undefined {
  const one = leastMissed(
    mending,
    mending.ahead().filter(({ topics }) => topics.join() === id),
  )
  if (!one) return undefined
  mending.placed.delete(one.id)
  if (!mending.order.faults(TopicOrder.firsts(mending.active())).length) return one
  mending.placed.set(one.id, one)
  return undefined
}

/**
 * Topics that have more hours ahead than their budgets give up sessions beyond the next days, and their time is free for others: those whose
 * budgets have moved by a tenth, since something came to light; of the others no more sessions than fell through. Where nothing did, nothing
 * is given up. The sessions that were, and whether any budget moved.
 */
export function shiftBudgets(
  mending: Mending,
  fellThrough: number,
): { freed: StudySession[]; moved: boolean } {
  const { input, previous } = mending
  const freed: StudySession[] = []
  const hours = hoursAhead(mending.ahead())
  const all = [...hours.values()].reduce((sum, own) => sum + own, 0)
  const moved = budgetsMoved(input, previous)
  if (!moved.size && !fellThrough) return { freed, moved: false }
  const given = budgets(input, all)
  const wanted = new Map(input.topics.map(({ id }, at) => [id, given[at]!]))
  const settled = new Set<string>()
  let others = fellThrough
  for (;;) {
    let most: { id: string; over: number } | undefined
    for (const [id, own] of hours) {
      if (settled.has(id) || (!moved.has(id) && !others)) continue
      const due = wanted.get(id) ?? 0
      const { part, hours: some } = leeway[moved.has(id) ? 'moved' : 'other']
      const over = own - due
      if (over > Math.max(part * due, some) && over > (most?.over ?? 0)) most = { id, over }
    }
    if (!most) return { freed, moved: moved.size > 0 }
    const { id } = most
    const one = giveUp(mending, id)
    if (!one) {
      settled.add(id)
      continue
    }
    hours.set(id, (hours.get(id) ?? 0) - one.minutes / 60)
    if (!moved.has(id)) others--
    freed.push(one)
    mending.drop(one, givenUp)
  }
}
