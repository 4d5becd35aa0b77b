import type { PlanSession, StudyReason, StudySession } from '@climber/contract'
import { byTime, isStudy } from '../../sessions/session'
import { dayNumber, type DayNumber } from '../../time/day'
import type { PlanInput } from '../input'
import { Knowing } from './knowing'

/** The topic besides some that an hour brings most on. */
function besides(knowing: Knowing, own: number[]): { at: number; yield: number } | undefined {
  let best: { at: number; yield: number } | undefined
  knowing.known.forEach((_, at) => {
    const gain = knowing.yieldNow(at)
    if (!own.includes(at) && (!best || gain > best.yield)) best = { at, yield: gain }
  })
  return best
}

/** Why a session stands where it does, by its first topic, as things are when it begins. */
function reasonOf(
  { by }: PlanInput,
  knowing: Knowing,
  own: number[],
  day: DayNumber,
  sessionsOf: ReadonlyMap<string, number>,
): StudyReason | undefined {
  const [lead] = own
  const topic = lead === undefined ? undefined : knowing.topics[lead]
  if (lead === undefined || !topic) return undefined
  const other = besides(knowing, own)
  const instead = other && knowing.topics[other.at]
  return {
    share: topic.share,
    known: knowing.known[lead]!,
    yield: knowing.yieldNow(lead),
    ...(by === 'odds' && { by }),
    ...(knowing.memory[lead] && {
      daysSince: day - knowing.lastDay(lead),
      kept: knowing.kept(lead, day),
    }),
    ...(other &&
      instead && {
        instead: { topic: instead.id, yield: other.yield, sessions: sessionsOf.get(instead.id) ?? 0 },
      }),
  }
}

const isTold = ({ remedy, said }: StudySession): boolean => !remedy && said === undefined

/**
 * The sessions of a plan, those of study still to come each with the figures of why it stands there, as things will be by then if all before
 * it is done. Found anew whenever a plan changes, so that none tells of what was moved.
 */
export function withReasons(input: PlanInput, sessions: PlanSession[]): PlanSession[] {
  const place = new Map(input.topics.map(({ id }, at) => [id, at]))
  const knowing = new Knowing(input.topics)
  const ahead = sessions
    .filter(isStudy)
    .filter(({ status, date }) => status === 'planned' && date >= input.today)
    .sort(byTime)
  const sessionsOf = new Map<string, number>()
  for (const { topics } of ahead) for (const id of topics) sessionsOf.set(id, (sessionsOf.get(id) ?? 0) + 1)
  const reasons = new Map<string, StudyReason>()
  for (const session of ahead) {
    const day = dayNumber(session.date)
    const own = session.topics.flatMap((id) => place.get(id) ?? [])
    const reason = isTold(session) ? reasonOf(input, knowing, own, day, sessionsOf) : undefined
    if (reason) reasons.set(session.id, reason)
    for (const at of own) knowing.meet(at, session.minutes / 60 / own.length, day)
  }
  return sessions.map((session) => {
    const reason = reasons.get(session.id)
    return reason && isStudy(session) ? { ...session, reason } : session
  })
}
