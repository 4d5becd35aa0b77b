import { partFrom } from '@climber/contract'
import { commitmentDays, dateOf, dayNumber } from '@climber/core'
import type { CalendarResult, CalendarTask } from '../aside/task'
import type { CandidateRow } from '../models'
import { invalid } from '../refusal'
import type { Context } from './context'
import { fetchCalendar } from './fetchCalendar'

/**
 * Reads a calendar of commitments at its private address; `read` does so in a thread of its own, which can be ended. Stores
 * nothing; anything broken in it refuses the whole.
 */
export async function readCommitments(
  context: Context,
  candidate: CandidateRow,
  address: string,
  read: (task: CalendarTask) => Promise<CalendarResult>,
) {
  const row = await context.models.parts.findOne({
    where: { candidateId: candidate.id, part: 'availability' },
  })
  const { zone } = partFrom('availability', row?.document)
  const text = await fetchCalendar(address, context.demo || context.readsInside === true)
  const { date } = context.clock.at(zone)
  const { busy, events, problems } = await read({
    text,
    zone,
    firstDate: date,
    lastDate: dateOf(dayNumber(date) + commitmentDays),
  })
  if (problems.length)
    throw invalid(
      problems
        .slice(0, 20)
        .map(({ line, event, message }) => ({ field: `line ${line}`, message: `${event}: ${message}` })),
    )
  return { busy, events, readAt: new Date(context.clock.now()).toISOString() }
}
