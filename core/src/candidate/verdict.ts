import type { PlanNotice, PlanSession } from '@climber/contract'
import { makePlan } from '../plan/makePlan'
import { PlanProblem } from '../plan/ground'
import { isOpen, isStudy } from '../sessions/session'
import { dayNumber } from '../time/day'
import type { Estimate } from '../learner/estimate'
import { type Assessment, assess, expectedOf, scoresOn } from './assessment'
import { type CandidateRecord, type Moment, withPlan } from './moment'
import { type Odds, planOdds } from './odds'
import { paintMore } from './painted'
import { planInput } from './planInput'

export interface Verdict extends Odds {
  /** Composite of a paper sat today. */
  today: Estimate
  /** Hours of study in the plan, tests and reviews and slack taken out. */
  hours: number
  weeks: number
  /** Points of the composite between today and the exam. */
  gain: number
  /** The plan that it speaks of is not kept yet: it would be made so. */
  made: boolean
  /** Sections whose cut is likelier missed than met. */
  missedCuts: string[]
  notices: PlanNotice[]
}

/**
 * Levers moved by hand, without being kept: more minutes a week, another sitting, another target, and how fast the work ahead is learned,
 * as a multiple of what is known of that.
 */
export interface Moved {
  minutesMoreAWeek?: number
  sitting?: string
  scaled?: number
  learns?: number
}

/** A record with its plan, or with the one that would be made: what every figure of the time ahead speaks of. */
export interface Spoken {
  assessment: Assessment
  made: boolean
  /** Why no plan can be made. */
  problem?: string
}

const spokenOf = new WeakMap<Assessment, Spoken>()
/** The seed of plans that are made to speak of them; the plan that is then kept is made with it too. */
export const usualSeed = 1

/** The plan that is kept for the sitting aimed at, where there is one with something to come; else the one that would be made now. */
export function spoken(assessment: Assessment, anew = false): Spoken {
  const { record, sitting, today, now } = assessment
  const stands = record.plan?.sitting === sitting?.id && assessment.ahead.length > 0
  if (!sitting || dayNumber(sitting.date) <= today || (stands && !anew)) return { assessment, made: false }
  const known = spokenOf.get(assessment)
  if (known) return known
  let found: Spoken
  try {
    const plan = makePlan(planInput(assessment, sitting, record.plan?.seed ?? usualSeed))
    found = { assessment: assess(withPlan(record, plan), now), made: true }
  } catch (problem) {
    if (!(problem instanceof PlanProblem)) throw problem
    found = { assessment, made: false, problem: problem.message }
  }
  spokenOf.set(assessment, found)
  return found
}

/** Hours of study that are still to come. */
export const hoursAhead = ({ record, now }: Assessment): number =>
  (record.plan?.sessions ?? [])
    .filter(
      (session: PlanSession) =>
        isStudy(session) && (isOpen(session, now.date) || session.status === 'running'),
    )
    .reduce((sum, { minutes }) => sum + minutes / 60, 0)

/** A record with levers moved. */
export function withMoved(
  record: CandidateRecord,
  { minutesMoreAWeek = 0, sitting, scaled }: Moved,
): CandidateRecord {
  const target = { ...record.target, sitting: sitting ?? record.target.sitting }
  if (scaled !== undefined) Object.assign(target, { kind: 'number', scaled })
  const moved = { ...record, target }
  return minutesMoreAWeek
    ? { ...moved, availability: paintMore(record.availability, minutesMoreAWeek) }
    : moved
}

/** The verdict with levers moved; nothing of it is stored. */
export const explore = (record: CandidateRecord, now: Moment, moved: Moved): Verdict | undefined =>
  verdict(assess(withMoved(record, moved), now), Boolean(moved.minutesMoreAWeek), moved.learns)

/**
 * What it takes: the odds with the plan that is kept, or else with the one that would be made; always that one where it is asked for
 * `anew`. Undefined where there is no sitting to aim at.
 */
export function verdict(before: Assessment, anew = false, learns = 1): Verdict | undefined {
  const { sitting, today } = before
  if (!sitting || dayNumber(sitting.date) <= today) return undefined
  const { assessment: plain, made, problem } = spoken(before, anew)
  const assessment = learns === 1 ? plain : { ...plain, learns }
  const odds = planOdds(assessment)!
  const now = expectedOf(assessment, scoresOn(assessment, today))
  const hours = hoursAhead(assessment)
  const notices: PlanNotice[] = []
  if (problem !== undefined) notices.push({ code: 'no-time', message: problem })
  else if (hours === 0)
    notices.push({
      code: 'no-time',
      message: 'No hour is free before this sitting. Say when you are free in a usual week.',
    })
  return {
    ...odds,
    today: now,
    hours,
    weeks: Math.max(1, (dayNumber(sitting.date) - today) / 7),
    gain: odds.forecast.mean - now.mean,
    made,
    missedCuts: odds.cuts.filter((cut) => cut.odds < 0.5).map(({ section }) => section),
    notices,
  }
}
