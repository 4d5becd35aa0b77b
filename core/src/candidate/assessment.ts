import type { Sitting } from '@climber/contract'
import { isBaseline } from '../attempts/sat'
import { type ScoredTest, scoredTests } from '../attempts/scored'
import { Landscape } from '../hours/landscape'
import { paced, type Shelved, shelfHours } from '../hours/shelf'
import { knowledgeAfter, type Study, studyOf } from '../hours/study'
import { diagnose, type DiagnosisResult } from '../learner/diagnose'
import { dayNumber, type DayNumber } from '../time/day'
import { type Goal, goalOf, placeWeights } from './goal'
import { type CandidateRecord, type Moment, sessionsOf, sittingOf, startDate } from './moment'
import { type Scale, type ScaleForecast, scaleOf } from './scales'

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
  done: Study[]
  goal: Goal
  /** Prior and observations of the forecast, for the composite and for each section. */
  scales: { composite: ScaleForecast; sections: ScaleForecast[]; places: Map<string, PlaceForecast> }
}

type PlaceForecast = ScaleForecast & { scale: Scale }

type Bare = Omit<Assessment, 'scales'>

export function assess(record: CandidateRecord, now: Moment): Assessment {
  const diagnosis = diagnose(record.exam, record.attempts.filter(isBaseline), record.ratings)
  const shelf = paced(record.materials, sessionsOf(record))
  const topicHours = { ...shelfHours(record.exam, shelf), ...record.settings.topicHours }
  const landscape = new Landscape(record.exam, diagnosis, { topicHours }, slopeHours)
  const today = dayNumber(now.date)
  const done = studyOf(sessionsOf(record), today, false)
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
    scored: scoredTests(record.exam, record.attempts),
    done,
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
