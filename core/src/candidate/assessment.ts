import type { PlanSession, Sitting } from '@climber/contract'
import { type ScoredTest, scoredTests } from '../attempts/scored'
import { yieldOf } from '../hours/allocate'
import { Landscape } from '../hours/landscape'
import { paced, type Shelved, shelfHours } from '../hours/shelf'
import { type HoursFrom, type TopicHours, topicHours } from '../hours/taus'
import { type Estimate, estimateOf, weightedMean } from '../learner/estimate'
import { keptShares, Learner } from '../learner/learner'
import type { Scores } from '../learner/paper'
import { type Exposure, touchesOf, type Work, workOf } from '../learner/work'
import { compositeExactly, compositeRange } from '../scoring/composite'
import { scaledAt } from '../scoring/expected'
import { logistic } from '../exact/functions'
import { dayNumber, type DayNumber } from '../time/day'
import { type Goal, goalOf } from './goal'
import { type CandidateRecord, type Moment, sessionsOf, sittingOf, startDate } from './moment'
import { remembered, rememberedButFirst, rememberedFor } from './remembered'

/** Hours assumed ahead when the slopes of conversion tables are taken. */
const slopeHours = 60

/** What work ahead is thought of: all that is planned, as much of it as this candidate keeps, or none. */
export type Keeping = 'kept' | 'rate'

/** A record worked through: what every screen shows comes from here. */
export interface Assessment {
  record: CandidateRecord
  now: Moment
  /** The materials, with the own pace. */
  shelf: Shelved[]
  today: DayNumber
  /** Day from which the outlook is shown. */
  start: DayNumber
  sitting?: Sitting
  /** The possible candidates, from all that was sat, studied and recalled. */
  learner: Learner
  /** What is planned from now on, as work. */
  ahead: Work[]
  /** How fast the work ahead is thought to be learned, against what is known of the candidate; 1 where nobody asks otherwise. */
  learns?: number
  landscape: Landscape
  /** Hours of each topic, in the exam's order. */
  hours: TopicHours[]
  /** Share known of each topic today, on average of the possible candidates, in the exam's order. */
  known: number[]
  /** The same by every possible candidate. */
  knownBy: Float64Array[]
  touches: DayNumber[][]
  scored: ScoredTest[]
  goal: Goal
}

const shelved = remembered(
  (
    materials: CandidateRecord['materials'],
    plan: CandidateRecord['plan'],
    before: CandidateRecord['before'],
  ) => paced(materials, sessionsOf({ plan, before })),
)
const scoredOf = remembered(scoredTests)
const hoursOf = remembered((exam: CandidateRecord['exam'], shelf: Shelved[], own: Record<string, number>) =>
  topicHours(exam, own, shelfHours(exam, shelf)),
)

/** Points of the composite that a shift of all odds by one brings about the middle of its scale. */
function pointsOfShift(exam: CandidateRecord['exam']): number {
  const at = (level: number) =>
    compositeExactly(
      exam,
      exam.sections.map((section) => scaledAt(section, logistic(level))),
    )
  const { low, high } = compositeRange(exam)
  return Math.max(0.01 * (high - low), at(0.8) - at(-0.2))
}

/** How much easier than the exam the shelf says the tests are that it knows of, as logarithms of odds. */
const easierBy = (exam: CandidateRecord['exam'], shelf: Shelved[]): Map<string, number> =>
  new Map(
    shelf.flatMap(({ kind, form, id, offset }) =>
      kind === 'test' && offset ? [[form ?? id, offset / pointsOfShift(exam)]] : [],
    ),
  )

/** Sessions that tell of the candidate, in words that are equal where they say the same. */
const toldBy = ({ id, kind, date, minutes, minutesDone, ...rest }: PlanSession): string =>
  [id, kind, date, minutesDone ?? minutes, 'topics' in rest ? rest.topics.join(' ') : ''].join('|')

/** The learner; remembered by what it rests on, so that another plan ahead leaves it as it is. */
const learnt = rememberedButFirst(
  (
    done: PlanSession[],
    _told: string,
    exam: CandidateRecord['exam'],
    attempts: CandidateRecord['attempts'],
    ratings: CandidateRecord['ratings'],
    recalled: CandidateRecord['recalled'],
    materials: CandidateRecord['materials'],
    taus: string,
    easier: string,
    today: DayNumber,
    size: number | undefined,
  ) =>
    Learner.of(
      {
        exam,
        attempts,
        ratings,
        recalled,
        materials,
        easier: new Map(JSON.parse(easier) as [string, number][]),
        done,
        taus: JSON.parse(taus) as number[],
        today,
      },
      size,
    ),
  6,
)

/** What is known of the candidate of a record by a day. */
export function learnerOf(
  record: CandidateRecord,
  shelf: Shelved[],
  today: DayNumber,
  size?: number,
): Learner {
  const { exam, attempts, ratings, recalled, materials } = record
  const done = sessionsOf(record).filter(({ status, date }) => status === 'done' && dayNumber(date) <= today)
  return learnt(
    done,
    done.map(toldBy).sort().join(),
    exam,
    attempts,
    ratings,
    recalled,
    materials,
    JSON.stringify(hoursOf(exam, shelf, record.settings.topicHours).map(({ tau }) => tau)),
    JSON.stringify([...easierBy(exam, shelf)]),
    today,
    size,
  )
}

/** A record worked through; remembered by what it rests on, so that one screen's questions share it. */
export function assess(record: CandidateRecord, now: Moment): Assessment {
  const keys = Object.keys(record).sort() as (keyof CandidateRecord)[]
  return assessed(record, now.date, now.minute, keys.join(), ...keys.map((key) => record[key]))
}

const assessed = rememberedButFirst(
  (record: CandidateRecord, date: string, minute: number, ..._rests: unknown[]) =>
    workThrough(record, { date, minute }),
)

function workThrough(record: CandidateRecord, now: Moment): Assessment {
  const { exam, attempts } = record
  const shelf = shelved(record.materials, record.plan, record.before)
  const hours = hoursOf(exam, shelf, record.settings.topicHours)
  const today = dayNumber(now.date)
  const sessions = sessionsOf(record)
  const learner = learnerOf(record, shelf, today)
  const [exposure] = learner.exposures([today + 1])
  const knownBy = learner.known(exposure!)
  const known = knownBy.map((own) => weightedMean(own, learner.weights))
  const landscape = new Landscape(
    exam,
    known,
    hours.map(({ tau }) => tau),
    slopeHours,
  )
  return {
    record,
    shelf,
    now,
    today,
    start: dayNumber(startDate(record, now.date)),
    sitting: sittingOf(record, now.date),
    learner,
    ahead: workOf(exam, sessions, today, true).filter(({ ahead }) => ahead),
    landscape,
    hours,
    known,
    knownBy,
    touches: touchesOf(learner.done, exam.topics.length),
    scored: scoredOf(exam, attempts),
    goal: goalOf(exam, record.target, landscape, known),
  }
}

/** What the next hour on a topic brings, with what that is made of. */
export interface NextHour {
  /** Share known today. */
  known: number
  /** Points of all of it known, and those that the next hour brings. */
  value: number
  yield: number
  tau: number
  hoursFrom: HoursFrom
}
export function nextHour({ landscape, hours }: Assessment, topic: number): NextHour {
  const one = landscape.topics[topic]!
  const { known, value, tau } = one
  return { known, value, yield: yieldOf(one), tau, hoursFrom: hours[topic]!.from }
}

/** Share known of a section today, by every possible candidate. */
export function sectionKnownBy({ record: { exam }, knownBy }: Assessment, section: number): Float64Array {
  const { id } = exam.sections[section]!
  const found = new Float64Array(knownBy[0]?.length ?? 0)
  exam.topics.forEach((topic, at) => {
    if (topic.section === id) knownBy[at]!.forEach((known, one) => (found[one]! += topic.share * known))
  })
  return found
}

/** What part of the hours ahead counts: those that are kept, at the speed that is asked about. Undefined where all do. */
export const asLearned = (
  { learns = 1, learner }: Assessment,
  kept?: Float64Array,
): Float64Array | undefined =>
  learns === 1 ? kept : (kept ?? new Float64Array(learner.size).fill(1)).map((share) => share * learns)

/** What work is by a day: done, the work of today in it, and what is planned until then. */
export function exposureOn({ learner, ahead, today }: Assessment, day: DayNumber): Exposure {
  const [exposure] = learner.exposures([Math.max(day, today + 1)], day > today ? ahead : [])
  return { ...exposure!, day }
}

const scoresKnown = rememberedFor<Assessment, Scores>()
/**
 * Scores of every possible candidate on a day: today as things stand, or later if the plan is kept, or at the rate that sessions
 * are kept; on another maker's paper where one is named.
 */
export const scoresOn = (
  assessment: Assessment,
  day: DayNumber,
  keeping: Keeping = 'kept',
  maker?: string,
): Scores =>
  scoresKnown(assessment, JSON.stringify([day, keeping, maker]), () => {
    const { learner, today, record } = assessment
    const shares = keeping === 'rate' ? keptShares(sessionsOf(record), today, learner.size) : undefined
    return learner.scores(exposureOn(assessment, day), { kept: asLearned(assessment, shares), maker })
  })

/** Middle and range of the composite, or of a section, over the possible candidates. */
export const expectedOf = ({ learner }: Assessment, scores: Scores, section?: number): Estimate =>
  estimateOf(section === undefined ? scores.composite : scores.sections[section]!, learner.weights)
