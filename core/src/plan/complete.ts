import type { Plan, PlanNotice, PlanSession } from '@climber/contract'
import { isActive, isStudy } from '../sessions/session'
import { dayNumber, type DayNumber } from '../time/day'
import { lightWork } from './around/lightWork'
import { fillSlots } from './fill/fillSlots'
import { fixedOf } from './fill/fixed'
import { improve } from './fill/improve'
import { leftOut } from './fill/left'
import { retell } from './fill/retell'
import { slotsAt } from './fill/slots'
import { withTimed } from './fill/timed'
import { type Frame, freshFrame, slotsOf } from './frame'
import type { PlanInput } from './input'
import { phasesOf } from './phases'
import { withRemedies } from './remedies'
import { daysOf, filledDays, mayImprove, studySessions } from './study'
import { cautions } from './weeks'

export interface Completed extends Pick<Plan, 'phases' | 'notices'> {
  /** What was added to what stands, the frame's own in it. */
  made: PlanSession[]
}

export interface Completing {
  /** Days on which free time is filled with study; all where absent. */
  wanted?: (day: DayNumber) => boolean
  /** Places of study that was given up, to be taken by other topics. */
  places?: PlanSession[]
  /** What was said of the plan before, so that a change that was tried out for the same notice is not tried out again. */
  said?: PlanNotice[]
}

/**
 * Completes a plan: beside what stands (`input.kept`) and the tests of its frame the hours that remain, topic by topic with spacing and
 * improved by local search, then light work. A plan that is made has little that stands; one that is mended has nearly all.
 */
export function complete(
  input: PlanInput,
  frame: Frame,
  name: (key: string) => string,
  { wanted, places = [], said }: Completing = {},
): Completed {
  const { first, taper, exam, stages, calendar, tests, around, remedial, notices } = frame
  const cut = [...slotsOf(input, frame, wanted), ...slotsAt(places, stages)]
  if (places.length) cut.sort((a, b) => a.day - b.day || a.from - b.from)
  const slots = withTimed(cut, [...tests.sessions, ...input.kept], first, taper)
  const ahead = input.kept
    .filter(isStudy)
    .filter((session) => isActive(session) && session.status !== 'done' && dayNumber(session.date) >= first)
  const fixed = fixedOf(input, [...remedial, ...ahead])
  const filled = input.topics.length ? fillSlots(input, slots, fixed) : []
  if (mayImprove(input)) {
    improve(input, filled, exam, fixed)
    retell(input, filled, fixed)
  }
  const study = [...remedial, ...studySessions(input, filled, name)]
  const light = lightWork(
    input,
    calendar,
    [...daysOf([...remedial, ...ahead]), ...filledDays(input, filled)],
    taper,
    name,
  )
  const made = [...tests.sessions, ...around, ...study, ...light]
  const standing = input.kept.filter(({ id }) => !input.owed.some((one) => one.id === id))
  const hours = [...filled, ...fixed].reduce((sum, { minutes }) => sum + minutes / 60, 0)
  return {
    made,
    phases: phasesOf(stages, taper, exam),
    notices: [
      ...withRemedies(input, notices, (changed) => freshFrame(changed).notices, said),
      ...leftOut(input, [...standing, ...made]),
      ...cautions(input, [...standing.filter(({ date }) => dayNumber(date) >= first), ...made], hours),
    ],
  }
}
