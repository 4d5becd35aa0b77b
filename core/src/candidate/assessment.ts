import type { Sitting } from '@climber/contract'
import { isBaseline } from '../attempts/sat'
import { type ScoredTest, scoredTests } from '../attempts/scored'
import { Landscape } from '../hours/landscape'
import { paced, type Shelved, shelfHours } from '../hours/shelf'
import { answeredIn, recalledIn } from '../hours/evidence'
import { knowledgeAfter, type Study, studyOf } from '../hours/study'
import { diagnose, type DiagnosisResult } from '../learner/diagnose'
import { dayNumber, type DayNumber } from '../time/day'
import { type Goal, goalOf, placeWeights } from './goal'
import { type CandidateRecord, type Moment, sessionsOf, sittingOf, startDate } from './moment'
import { remembered, rememberedButFirst } from './remembered'
import { type Scale, type ScaleForecast, scaleOf } from './scales'

const inTime = (study: Study[]): Study[] => study.sort((a, b) => a.day - b.day)

/** Study done and to come, and what was answered, in order of time. */
export const studyAhead = ({
  record,
  today,
  answered,
}: Pick<Assessment, 'record' | 'today' | 'answered'>): Study[] =>
  inTime([...studyOf(sessionsOf(record), today, true), ...answered])

/** Hours assumed ahead when the slopes of conversion tables are taken. */
const slopeHours = 60

/** A record worked through: what every screen shows comes from here. */
export interface Assessment {
  record: CandidateRecord
  now: Moment
  /** The materials, with the own pace. */
  shelf: Shelved[]
  today: DayNumber
  /** Day from which gains count. */
  start: DayNumber
  sitting?: Sitting
  diagnosis: DiagnosisResult
  landscape: Landscape
  /** Knowledge of each topic today, after the work logged, in the exam's order. */
  known: number[]
  touches: DayNumber[][]
  scored: ScoredTest[]
  /** Study done, and what was answered besides tests, in order of time. */
  done: Study[]
  answered: Study[]
  goal: Goal
  /** Prior and observations of the forecast, for the composite and for each section. */
  scales: { composite: ScaleForecast; sections: ScaleForecast[]; places: Map<string, PlaceForecast> }
}

type PlaceForecast = ScaleForecast & { scale: Scale }

type Bare = Omit<Assessment, 'scales'>

const diagnosed = remembered(
  (
    exam: CandidateRecord['exam'],
    attempts: CandidateRecord['attempts'],
    ratings: CandidateRecord['ratings'],
  ) => diagnose(exam, attempts.filter(isBaseline), ratings),
)
const shelved = remembered(
  (
    materials: CandidateRecord['materials'],
    plan: CandidateRecord['plan'],
    before: CandidateRecord['before'],
  ) => paced(materials, sessionsOf({ plan, before })),
)
const seen = remembered(
  (
    exam: CandidateRecord['exam'],
    diagnosis: DiagnosisResult,
    shelf: Shelved[],
    own: CandidateRecord['settings']['topicHours'],
  ) => new Landscape(exam, diagnosis, { topicHours: { ...shelfHours(exam, shelf), ...own } }, slopeHours),
)
const scoredOf = remembered(scoredTests)

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
  const diagnosis = diagnosed(record.exam, record.attempts, record.ratings)
  const shelf = shelved(record.materials, record.plan, record.before)
  const landscape = seen(record.exam, diagnosis, shelf, record.settings.topicHours)
  const today = dayNumber(now.date)
  const recalled = recalledIn(record.exam, record.recalled)
  // A device whose clock is ahead says nothing of today.
  const answered = [
    ...answeredIn(record.exam, record.attempts),
    ...recalled.filter(({ day }) => day <= today),
  ]
  const done = inTime([...studyOf(sessionsOf(record), today, false), ...answered])
  const { known, touches } = knowledgeAfter(landscape, done)
  const bare: Bare = {
    record,
    shelf,
    now,
    today,
    start: dayNumber(startDate(record, now.date)),
    sitting: sittingOf(record, now.date),
    diagnosis,
    landscape,
    known,
    touches,
    scored: scoredOf(record.exam, record.attempts),
    done,
    answered,
    goal: goalOf(record.exam, record.target, landscape, known),
  }
  return {
    ...bare,
    scales: {
      composite: scaleOf(bare, 'composite'),
      sections: record.exam.sections.map((_, at) => scaleOf(bare, at)),
      places: new Map(
        (record.target.places ?? []).map((place) => {
          const scale: Scale = place.weights ? { weights: placeWeights(record.exam, place) } : 'composite'
          return [place.id, { ...scaleOf(bare, scale), scale }]
        }),
      ),
    },
  }
}
