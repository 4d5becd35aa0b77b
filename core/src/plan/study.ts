import type { PlanSession, StudySession } from '@climber/contract'
import { chosenWays } from '../sessions/ways'
import { dateOf, dayNumber, type DayNumber, timeOf } from '../time/day'
import { handOut } from './fill/handOut'
import { setIn } from './fill/timed'
import type { Filled } from './fill/slots'
import type { PlanInput } from './input'

/** Local search goes by yield alone, so it would undo an order that was asked for. */
export function mayImprove({ settings }: PlanInput): boolean {
  const { order, subjects } = chosenWays(settings)
  return order === 'yield' && subjects === 'mixed'
}

export const filledDays = (input: PlanInput, filled: Filled[]): { day: DayNumber; topics: string[] }[] =>
  filled.map(({ day, topics }) => ({ day, topics: idsOf(input, topics) }))

/** The same of study that stands already. */
export const daysOf = (sessions: readonly StudySession[]): { day: DayNumber; topics: string[] }[] =>
  sessions.map(({ date, topics }) => ({ day: dayNumber(date), topics }))

const idsOf = ({ topics }: PlanInput, places: number[]): string[] =>
  places.flatMap((at) => topics[at]?.id ?? [])

/** Sessions from filled slots, with what of the shelf they work through. */
export function studySessions(
  input: PlanInput,
  filled: Filled[],
  name: (key: string) => string,
): PlanSession[] {
  const materials = handOut(input.shelf, input.topics, filled, [...input.lived, ...input.kept])
  const staged = new Set(input.exam.sections.flatMap(({ id, stages }) => (stages?.length ? [id] : [])))
  return filled.map((session, index): StudySession => {
    const topics = idsOf(input, session.topics)
    const lead = input.topics[session.topics[0] ?? 0]
    const material = materials[index]
    const timed = session.timed
      ? setIn(input.exam, topics, session.minutes, input.settings.timeFactor)
      : undefined
    const adaptive = session.kind !== 'learn' && lead && staged.has(lead.section)
    return {
      id: name(session.kind === 'mixed' ? 'mixed' : `study.${topics[0]}`),
      date: dateOf(session.day),
      start: timeOf(session.from),
      minutes: session.minutes,
      kind: session.kind,
      topics,
      ...(material && { material }),
      ...(timed && { timed }),
      ...(adaptive && { stage: session.stage.rehearsal ? 'second' : 'first' }),
      pinned: false,
      status: 'planned',
    }
  })
}
