import type { PlanSession, Sitting } from '@climber/contract'
import { formsSat } from '../attempts/sat'
import { asSat } from '../exam/accommodation'
import { examShares } from '../exam/coverage'
import { allocate } from '../hours/allocate'
import { formsWith, inChapterOrder } from '../hours/shelf'
import { busyOf, daysOffOf } from '../plan/calendar/engaged'
import type { PlanInput } from '../plan/input'
import { studyHours } from '../plan/frame'
import { owedReviews } from '../plan/owed'
import { minutesADay, recallMinutes } from '../recall/load'
import { statusOn } from '../sessions/session'
import { dayNumber } from '../time/day'
import type { Assessment } from './assessment'
import { type CandidateRecord, livedOf } from './moment'
import { fromReviews } from './review'
import { countedBy, valuesOf } from './values'

/** Minutes a day that the cards ask for until the sitting; nothing where there are none. */
function recallOf(
  { recalled: { load }, settings }: CandidateRecord,
  left: number,
): Pick<PlanInput, 'recallMinutes'> {
  if (!load.begun && !load.unbegun) return {}
  return { recallMinutes: minutesADay(load, left, recallMinutes(settings)) }
}

/** What the planner needs, for a sitting: sessions before today that were not done have slipped. */
export function planInput(assessment: Assessment, sitting: Sitting, seed: number): PlanInput {
  const { record, landscape, touches, today, now, known } = assessment
  const { exam } = record
  const { remedies, reviewRatio = record.settings.reviewRatio } = fromReviews(assessment)
  const shares = examShares(exam)
  const listed = exam.topics.map((topic, at) => ({
    id: topic.id,
    title: topic.title,
    section: topic.section,
    share: shares[at]!,
    value: landscape.topics[at]!.value,
    known: known[at]!,
    tau: landscape.topics[at]!.tau,
    prerequisites: topic.prerequisites,
    touches: touches[at]!,
  }))
  const topics = inChapterOrder(listed, assessment.shelf)
  const standing = (record.plan?.sessions ?? []).map((session): PlanSession => ({
    ...session,
    status: statusOn(session, now.date),
  }))
  const same = record.plan?.sitting === sitting.id
  const sat = asSat(exam, record.settings)
  const points: PlanInput = {
    exam: { ...sat.exam, forms: formsWith(sat.exam, assessment.shelf) },
    sitting,
    today: now.date,
    nowMinute: now.minute,
    availability: { ...record.availability, daysOff: daysOffOf(record.availability) },
    busy: busyOf(record.commitments, today, dayNumber(sitting.date)),
    shelf: assessment.shelf,
    travelMinutes: record.examDay.travelMinutes,
    settings: { ...record.settings, reviewRatio, timeFactor: sat.timeFactor },
    topics,
    by: 'points',
    split: (hours) => landscape.allocate(hours).hours,
    sat: formsSat(record.attempts, now.date),
    measured: assessment.learner.measured,
    // What was lived under a plan for another sitting stays with that; what was pinned by hand comes along.
    kept: standing.filter(({ status, pinned }) =>
      same ? status !== 'planned' || pinned : status === 'planned' && pinned,
    ),
    lived: same ? record.before : [...record.before, ...livedOf(standing)],
    owed: same ? owedReviews(standing, now.date, record.taken) : [],
    remedies,
    ...recallOf(record, dayNumber(sitting.date) - today),
    taken: same ? record.taken : [...record.taken, ...standing.map(({ id }) => id)],
    seed,
  }
  const by = countedBy(assessment)
  if (by === 'points') return points
  const { values } = valuesOf(assessment, studyHours(points), dayNumber(sitting.date))
  const valued = topics.map((topic, at) => ({ ...topic, value: values[at]! }))
  return { ...points, by, topics: valued, split: (hours) => allocate(valued, hours).hours }
}
