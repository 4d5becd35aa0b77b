import type { ExamFormat, PlanNotice } from '@climber/contract'
import { norm } from '../exact/functions'
import { knownAfter } from '../hours/allocate'
import { studyHours } from '../plan/makePlan'
import { roundToStep } from '../scoring/conversion'
import { compositeRange } from '../scoring/composite'
import { dayNumber } from '../time/day'
import { type Assessment, assess } from './assessment'
import { type Odds, oddsFor } from './odds'
import { planInput } from './planInput'
import type { CandidateRecord, Moment } from './moment'
import { hoursTo, strong } from './gap'
import type { Levels } from '../hours/landscape'

export interface Verdict extends Odds {
  /** Composite level today, with its standard deviation. */
  today: { mean: number; sd: number }
  /** Study hours between now and the sitting, tests and reviews and slack taken out. */
  hours: number
  weeks: number
  gain: number
  /** Hours that reach the target with the wanted chance; undefined where no number of hours does. */
  hoursNeeded: { chance: number; hours?: number }[]
  levers: Lever[]
  /** Sections whose cut is out of reach in expectation with these hours. */
  missedCuts: string[]
  notices: PlanNotice[]
}

/** One thing to change, the rest left as it is, that brings the chance to `wantedChance`. */
export type Lever =
  | { kind: 'time'; minutesMoreAWeek?: number }
  | { kind: 'sitting'; sitting: string; date: string; hours: number; odds: number }
  | { kind: 'target'; target?: number }
  | { kind: 'topics'; topics: string[]; hours: number; reached: boolean }

export const wantedChance = 0.8
const mostHours = 3000
/** Precision of hours found by bisection. */
const hourPrecision = 0.1

/** Composite and section gains over the diagnostic's level after the best use of `hours` from today on. */
function gainAfter(assessment: Assessment, hours: number): Levels & { missed: string[] } {
  const { landscape } = assessment
  const later = landscape.startingFrom(assessment.known)
  const allocation = later.allocate(hours)
  const then = later.topics.map((topic, at) => later.atExam(at, knownAfter(topic, allocation.hours[at]!)))
  return { ...landscape.gains(then), missed: allocation.missedSections }
}

/** Least hours whose forecast reaches the target with at least `chance`. */
export function hoursNeeded(assessment: Assessment, chance: number, examDay: number): number | undefined {
  const reaches = (hours: number) =>
    (oddsFor(assessment, examDay, gainAfter(assessment, hours)).odds ?? 0) >= chance
  if (reaches(0)) return 0
  let high = 8
  while (!reaches(high)) {
    high *= 2
    if (high > mostHours) return undefined
  }
  let low = high === 8 ? 0 : high / 2
  while (high - low > hourPrecision) {
    const middle = (low + high) / 2
    if (reaches(middle)) high = middle
    else low = middle
  }
  return high
}

/** z of the wanted chance: the standard normal distribution holds 80% below it. */
const wantedZ = 0.8416212335729143

/** The highest target that the forecast reaches with the wanted chance: P(score >= t) with half a step of correction. */
function targetWithin({ forecast, targetSd }: Odds, exam: ExamFormat): number | undefined {
  const { step } = exam.composite
  const { low, high } = compositeRange(exam)
  const steps = Math.floor((forecast.mean + step / 2 - wantedZ * norm(forecast.sd, targetSd)) / step)
  const target = Math.min(high, roundToStep(steps * step, step))
  return target < low ? undefined : target
}

/** Topics to bring to "strong", best value first, until the target is reached with the wanted chance. */
function topicsToStrong(assessment: Assessment, examDay: number): Lever {
  const { landscape, known } = assessment
  const order = landscape.topics
    .map((topic, at) => ({ at, gap: Math.max(0, strong - known[at]!), value: topic.value, tau: topic.tau }))
    .filter(({ gap, value }) => gap > 0 && value > 0)
    .map((entry) => ({ ...entry, hours: hoursTo(known[entry.at]!, strong, entry.tau) }))
    .sort((a, b) => (b.value * b.gap) / b.hours - (a.value * a.gap) / a.hours)
  const then = [...known]
  const topics: string[] = []
  let hours = 0
  for (const { at, hours: own } of [undefined, ...order].map((entry) => entry ?? { at: -1, hours: 0 })) {
    if (at >= 0) {
      then[at] = strong
      hours += own
      topics.push(landscape.exam.topics[at]!.id)
    }
    if ((oddsFor(assessment, examDay, landscape.gains(then)).odds ?? 0) >= wantedChance)
      return { kind: 'topics', topics, hours, reached: true }
  }
  return { kind: 'topics', topics, hours, reached: false }
}

/** Levers moved by hand, without being kept: more minutes a week, another sitting, another target. */
export interface Moved {
  minutesMoreAWeek?: number
  sitting?: string
  scaled?: number
}

/** The verdict with levers moved; nothing of it is stored. */
export function explore(record: CandidateRecord, now: Moment, moved: Moved): Verdict | undefined {
  const target = { ...record.target, sitting: moved.sitting ?? record.target.sitting }
  if (moved.scaled !== undefined) Object.assign(target, { kind: 'number', scaled: moved.scaled })
  return verdict(assess({ ...record, target }, now), moved.minutesMoreAWeek)
}

/** What it takes, and what would change it. Undefined where there is no sitting to aim at. */
export function verdict(assessment: Assessment, minutesMoreAWeek = 0): Verdict | undefined {
  const { sitting, landscape, today } = assessment
  if (!sitting || dayNumber(sitting.date) <= today) return undefined
  const examDay = dayNumber(sitting.date)
  const weeks = Math.max(1, (examDay - today) / 7)
  const more = (days: number) => (minutesMoreAWeek * Math.max(1, days / 7)) / 60
  const hours = studyHours(planInput(assessment, sitting, 0)) + more(examDay - today)
  const gain = gainAfter(assessment, hours)
  const odds = oddsFor(assessment, examDay, gain)
  const hasTarget = odds.target !== undefined
  const needed = hasTarget
    ? [0.5, 0.8, 0.9].map((chance) => ({ chance, hours: hoursNeeded(assessment, chance, examDay) }))
    : []
  const levers: Lever[] = []
  if (hasTarget) {
    const enough = needed.find(({ chance }) => chance === wantedChance)!.hours
    levers.push({
      kind: 'time',
      minutesMoreAWeek:
        enough === undefined ? undefined : Math.max(0, Math.ceil(((enough - hours) * 60) / weeks / 5) * 5),
    })
    for (const other of assessment.record.exam.sittings) {
      if (dayNumber(other.date) <= today || other.id === sitting.id) continue
      const thereHours = studyHours(planInput(assessment, other, 0)) + more(dayNumber(other.date) - today)
      const there = oddsFor(assessment, dayNumber(other.date), gainAfter(assessment, thereHours))
      levers.push({
        kind: 'sitting',
        sitting: other.id,
        date: other.date,
        hours: thereHours,
        odds: there.odds!,
      })
    }
    levers.push({ kind: 'target', target: targetWithin(odds, assessment.record.exam) })
    levers.push(topicsToStrong(assessment, examDay))
  }
  const notices: PlanNotice[] = []
  if (hours === 0)
    notices.push({
      code: 'no-time',
      message: 'No free hour is painted before this sitting. Paint some free time in the week.',
    })
  return {
    ...odds,
    today: { mean: landscape.now.composite, sd: landscape.spread().composite },
    hours,
    weeks,
    gain: gain.composite,
    hoursNeeded: needed,
    levers,
    missedCuts: gain.missed,
    notices,
  }
}
