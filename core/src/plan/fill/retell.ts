import { knownAfter } from '../../hours/allocate'
import { type Memory, retention, touched } from '../../learner/retention'
import type { PlanInput, PlanTopic } from '../input'
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

/** Works the kind and the figures of each session out again, after topics have changed places. */
export function retell(input: PlanInput, filled: Filled[]): void {
  const { topics } = input
  const known = topics.map((topic) => topic.known)
  const memory = topics.map((topic) => topic.touches.reduce<Memory | undefined>(touched, undefined))
  const started = topics.map((topic) => topic.touches.length > 0)
  for (const session of filled) {
    const lead = session.topics[0]!
    const before = memory[lead]
    if (session.kind !== 'mixed' && !session.timed)
      session.kind = studyKind(topics[lead]!, known[lead]!, started[lead]!)
    const yields = topics.map((one, at) => (one.value * (1 - known[at]!)) / one.tau)
    const other = yields.reduce<number | undefined>(
      (most, own, at) =>
        !session.topics.includes(at) && (most === undefined || own > yields[most]!) ? at : most,
      undefined,
    )
    session.figures = {
      ...(other !== undefined && { instead: { topic: other, yield: yields[other]! } }),
      known: known[lead]!,
      yield: yields[lead]!,
      daysSince: before ? session.day - before.lastDay : -1,
      kept: before ? retention(before, session.day) : 1,
    }
    for (const at of session.topics) {
      known[at] = knownAfter(
        { ...topics[at]!, known: known[at]! },
        session.minutes / 60 / session.topics.length,
      )
      memory[at] = touched(memory[at], session.day)
      started[at] = true
    }
  }
}
