import type { PlanInput, PlanTopic } from '../input'
import { type FixedStudy, Standing } from './fixed'
import { mixedSet, timedSet } from './mixed'
import { Progress } from './progress'
import type { Filled, StudyKind } from './slots'

/** Knowledge from which a topic is drilled rather than learnt. */
const drillFrom = 0.6

/** What is done with a topic in a session: learnt while it is new, drilled from then on. */
export const studyKind = (topic: PlanTopic, known: number, started: boolean): StudyKind =>
  !started && topic.known < drillFrom
    ? 'learn'
    : known < drillFrom && known - topic.known < 0.15
      ? 'learn'
      : 'drill'

/**
 * Goes through sessions whose topics have changed places, in order of time: what each mixed set takes up is chosen anew from what was met
 * by then, and the kind of each is worked out again. Changes `filled` in place.
 */
export function retell(input: PlanInput, filled: Filled[], fixed: FixedStudy[]): void {
  const { topics } = input
  const place = new Map(topics.map(({ id }, at) => [id, at]))
  const hours = filled.reduce((sum, { minutes }) => sum + minutes / 60, 0)
  const progress = new Progress(input, place, hours, fixed)
  const standing = new Standing(fixed)
  for (const session of filled) {
    for (const one of standing.upTo(session)) progress.pass(one)
    const set = session.timed
      ? timedSet(progress, session.day)
      : session.kind === 'mixed'
        ? mixedSet(progress, session.day, session.topics.length)
        : undefined
    if (set) session.topics = set
    const [lead = 0] = session.topics
    if (session.kind !== 'mixed' && !session.timed)
      session.kind = studyKind(topics[lead]!, progress.known[lead]!, progress.started[lead]!)
    for (const at of session.topics)
      progress.touch(at, session.minutes / 60 / session.topics.length, session.day)
  }
}
