import type { Plan, PlanSession } from '@climber/contract'
import { allocate, knownAfter } from '../../hours/allocate'
import { isOpen, isStudy, topicsOf } from '../../sessions/session'
import { budgets } from '../fill/budgets'
import type { PlanInput, PlanTopic } from '../input'

type Beliefs = NonNullable<Plan['beliefs']>

/** What a plan rests on: of each topic what an hour counts for, what is known and how broad it is. */
export const beliefsOf = ({ today, topics }: PlanInput): Beliefs => ({
  on: today,
  topics: Object.fromEntries(topics.map(({ id, value, known, tau }) => [id, [value, known, tau]])),
})

/** A budget has moved once it differs by this part of itself, and by so many hours. */
const movedBy = 0.1
const leastMove = 0.4
/** Of what an hour brings by the planner's rule so much has come about some weeks later: some of it fades. Measured: docs/measurements.md. */
const comesAbout = 0.6
/** What is known of a topic is a surprise from so much on, and from so much of what work was to bring; a value or a breadth by such a part. */
const surprise = { known: 0.06, ofGrowth: 0.3, part: 0.15 }

interface Expected extends PlanTopic {
  /** What work since was to add to what is known. */
  growth: number
}

/** The topics as they were thought to be by now: what was believed, and the work that was done since. */
function expected({ topics }: PlanInput, { on, topics: then }: Beliefs, sessions: PlanSession[]): Expected[] {
  const hours = new Map<string, number>()
  for (const session of sessions) {
    if (!isStudy(session) || session.status !== 'done' || session.date < on) continue
    const own = topicsOf(session)
    for (const id of own)
      hours.set(id, (hours.get(id) ?? 0) + (session.minutesDone ?? session.minutes) / 60 / own.length)
  }
  return topics.map((topic) => {
    const believed = then[topic.id]
    if (!believed) return { ...topic, growth: 0 }
    const [value, known, tau] = believed
    const growth = comesAbout * (knownAfter({ value, known, tau }, hours.get(topic.id) ?? 0) - known)
    return { ...topic, value, tau, known: known + growth, growth }
  })
}

/** Something came to light: of some topic another share is known, or it counts for more or less beside the others, than was thought. */
function isSurprise(was: Expected[], is: PlanTopic[]): boolean {
  const ratios = was.map(({ value }, at) => (value > 0 ? is[at]!.value / value : 1)).sort((a, b) => a - b)
  const usual = ratios[Math.floor(ratios.length / 2)] || 1
  const differs = (one: number, other: number) => Math.abs(one - other) > surprise.part * other
  return was.some(({ value, known, tau, growth }, at) => {
    const now = is[at]!
    return (
      Math.abs(now.known - known) > surprise.known + surprise.ofGrowth * growth ||
      differs(now.value, value * usual) ||
      differs(now.tau, tau)
    )
  })
}

/**
 * By how much each topic's budget, of the hours of study that a plan has ahead, has moved since that was made, for what was done since
 * accounted: a new test, another level or target. Only those that have moved by a tenth of themselves, as a multiple of what they were; none
 * where nothing came to light, or where the plan does not say what it rests on.
 */
export function budgetsMoved(input: PlanInput, { beliefs, sessions }: Plan): Map<string, number> {
  const ahead = sessions.filter((one) => isStudy(one) && topicsOf(one).length && isOpen(one, input.today))
  const hours = ahead.reduce((sum, { minutes }) => sum + minutes / 60, 0)
  if (!beliefs || hours <= 0) return new Map()
  const then = expected(input, beliefs, [...input.lived, ...sessions])
  if (!isSurprise(then, input.topics)) return new Map()
  const given = (topics: PlanTopic[]) =>
    budgets({ ...input, topics, split: (all) => allocate(topics, all).hours }, hours)
  const [was, is] = [given(then), given(input.topics)]
  return new Map(
    input.topics.flatMap(({ id }, at): [string, number][] => {
      const moved = is[at]! - was[at]!
      return Math.abs(moved) > movedBy * was[at]! && Math.abs(moved) >= leastMove
        ? [[id, was[at]! > 0 ? is[at]! / was[at]! : Infinity]]
        : []
    }),
  )
}
