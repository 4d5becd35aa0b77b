import type { PlanSession, StudySession } from '@climber/contract'
import { byTime, isActive, isStudy } from '../../sessions/session'
import { dayNumber } from '../../time/day'
import { TopicOrder } from '../board/order'
import { fixedOf } from '../fill/fixed'
import { mixedSet } from '../fill/mixed'
import { Progress } from '../fill/progress'
import { setIn } from '../fill/timed'
import type { PlanInput } from '../input'

const mayChoose = ({ kind, timed, pinned, remedy }: StudySession): boolean =>
  (kind === 'mixed' || timed !== undefined) && !pinned && !remedy

/** A set with other topics; its items and time are of these. */
function withTopics({ exam, settings }: PlanInput, session: StudySession, topics: string[]): StudySession {
  const timed = session.timed && setIn(exam, topics, session.minutes, settings.timeFactor)
  return { ...session, topics, ...(timed && { timed }) }
}

/** Learning some of its topics, where others build on them. */
const learning = ({ timed: _, ...session }: StudySession, topics: string[]): StudySession => ({
  ...session,
  kind: 'learn',
  topics,
})

/**
 * No mixed set is the first meeting of a topic: where what was to be learned before it has moved, other topics that were met by then take
 * the place of those in it; one that others build on is learned there by itself.
 */
export function mixedAfterMeeting(input: PlanInput, sessions: PlanSession[]): PlanSession[] {
  const place = new Map(input.topics.map(({ id }, at) => [id, at]))
  const ahead = sessions
    .filter(isStudy)
    .filter((session) => isActive(session) && session.status !== 'done' && session.date >= input.today)
    .sort(byTime)
  const fixed = fixedOf(input, ahead)
  let progress: Progress | undefined
  const started = new Set(input.topics.flatMap(({ id, touches }) => (touches.length ? [id] : [])))
  const chosen = new Map<string, StudySession>()
  const order = new TopicOrder(input.topics)
  const active = sessions.filter(isActive)
  // Pinned work may stand out of order: that is no matter here.
  const already = order.faults(TopicOrder.firsts(active)).length
  const inOrder = (other: StudySession) =>
    order.faults(
      TopicOrder.firsts(active.map((one) => (one.id === other.id ? other : (chosen.get(one.id) ?? one)))),
    ).length <= already
  ahead.forEach((session, at) => {
    const unmet = mayChoose(session) ? session.topics.filter((id) => !started.has(id)) : []
    if (unmet.length) {
      if (!progress) {
        progress = new Progress(input, place, 0, fixed)
        for (const one of fixed.slice(0, at)) progress.pass(one)
      }
      const set = mixedSet(progress, dayNumber(session.date), 1)?.slice(0, session.topics.length)
      const ids = set?.flatMap((topic) => input.topics[topic]?.id ?? []) ?? []
      const one = [
        ...(ids.length ? [withTopics(input, session, ids)] : []),
        ...unmet.map((id) => learning(session, [id])),
        learning(session, unmet),
      ].find((other) => inOrder(other))
      if (one) chosen.set(session.id, one)
    }
    const now = chosen.get(session.id) ?? session
    for (const id of now.topics) started.add(id)
    progress?.pass({ ...fixed[at]!, topics: now.topics.flatMap((id) => place.get(id) ?? []) })
  })
  return chosen.size ? sessions.map((session) => chosen.get(session.id) ?? session) : sessions
}
