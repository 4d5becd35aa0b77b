import type { PlanSession } from '@climber/contract'
import { quotaMinutes } from '../../hours/shelf'
import { startOf, topicsOf } from '../../sessions/session'
import { dateOf, dayNumber, type DayNumber, mondayOf } from '../../time/day'
import { TopicOrder } from '../board/order'
import { fillSlots } from '../fill/fillSlots'
import { fixedOf } from '../fill/fixed'
import { studySlots, testStartsOf } from '../fill/slots'
import { studySessions } from '../study'
import type { Mending } from './mending'

/** Free minutes by which a week must have grown before work is added to it. */
const grownBy = 20

/** Weeks that gained free time take more work, up to their slack. */
export function growWeeks(mending: Mending): PlanSession[] {
  const { input, previous, today, ground, order, name, placed } = mending
  const { calendar, stages } = ground
  const before = new Map(previous.weeks.map(({ from, freeMinutes }) => [from, freeMinutes]))
  const grown = (day: DayNumber): boolean => {
    const monday = mondayOf(day)
    const old = before.get(dateOf(monday))
    return monday > today && old !== undefined && (calendar.weekFree.get(monday) ?? 0) > old + grownBy
  }
  const anywhere = stages.some(({ from, to }) =>
    mending.days.some((day) => day >= from && day < to && grown(day)),
  )
  if (!anywhere || !input.topics.length) return []
  const { sessionMinutes, breakMinutes } = input.settings
  const slots = studySlots(calendar, stages, {
    sessionMinutes,
    breakMinutes,
    quotaMinutes: quotaMinutes(input.shelf),
    testStarts: testStartsOf(mending.active()),
    wanted: grown,
  })
  const standing = mending
    .active()
    .filter((session) => topicsOf(session).length && dayNumber(session.date) >= today)
  const fixed = fixedOf(input, standing)
  const kept = [...input.kept, ...placed.values()]
  const found = studySessions({ ...input, kept }, fillSlots(input, slots, fixed), name)
  // Filled slots see what stands before them; what stands after may build on them and be begun already.
  const added: PlanSession[] = []
  for (const session of found) {
    const met = TopicOrder.firsts([...mending.active(), ...added])
    if (!order.broken(topicsOf(session), startOf(session), met)) added.push(session)
  }
  return added
}
