import {
  attemptIssues,
  type CandidateRecord,
  type ExamEffect,
  type ExamFormat,
  type Incoherence,
  issuesOf,
  partIssues,
  partNames,
} from '@climber/contract'
import { assess, attemptTitle, type Moment, planOdds } from '@climber/core'
import type { CandidateRow, ExamRow } from '../models'
import { invalid, notFound } from '../refusal'
import { openExam } from './access'
import { type Context, together } from './context'
import { documentOf, loadAll, type Loaded, loadLocked, momentOf, recordOf, storedAttempts } from './record'
import { formatOf } from './stored'

/** What of a stored record does not fit another format; dates that are over by now are no hindrance. */
function misfits(loaded: Loaded, format: ExamFormat): Incoherence[] {
  const ofParts = partNames.flatMap((part) =>
    partIssues(format, part, documentOf(loaded, part)).map(({ path, message }) => ({
      path: [part, ...path],
      message,
    })),
  )
  const ofAttempts = storedAttempts(loaded).flatMap((attempt) =>
    attemptIssues(format, attempt, { whole: true }).map(({ path, message }) => ({
      path: ['attempts', attemptTitle(format, attempt), ...(attempt.date ? [attempt.date] : []), ...path],
      message,
    })),
  )
  const planned = loaded.plan?.sitting
  const ofPlan =
    planned === undefined || format.sittings.some(({ id }) => id === planned)
      ? []
      : [{ path: ['plan', 'sitting'], message: `the exam has no sitting ${planned}, which is planned for` }]
  return [...ofParts, ...ofAttempts, ...ofPlan]
}

function outlookOf(now: Moment, record: CandidateRecord) {
  const assessment = assess(record, now)
  const odds = planOdds(assessment)
  return {
    target: assessment.goal.mean ?? null,
    forecast: odds ? odds.forecast.mean : null,
    odds: odds?.odds ?? null,
  }
}

/** What a changed format would mean for each candidate on any edition of it: forecast and odds before and after. */
export async function effectOf(context: Context, exam: ExamRow, format: ExamFormat): Promise<ExamEffect[]> {
  const { models } = context
  const editions = await models.exams.findAll({
    where: { workspaceId: exam.workspaceId, lineage: exam.lineage },
    attributes: ['id', 'edition'],
  })
  const editionOf = new Map(editions.map(({ id, edition }) => [id, edition]))
  const candidates = await models.candidates.findAll({
    where: { examId: editions.map(({ id }) => id) },
    order: [
      ['createdAt', 'ASC'],
      ['id', 'ASC'],
    ],
  })
  return (await loadAll(context, candidates, { items: true })).map((loaded) => {
    const issues = misfits(loaded, format)
    const record = recordOf(loaded)
    const now = momentOf(context, loaded)
    return {
      candidateId: loaded.candidate.id,
      name: documentOf(loaded, 'candidate').name,
      edition: editionOf.get(loaded.candidate.examId)!,
      before: outlookOf(now, record),
      after: issues.length ? null : outlookOf(now, { ...record, exam: format }),
      issues: issuesOf({ issues }),
    }
  })
}

/** Moves a candidate to another edition of their exam; refused, with every reason, where the record does not fit it. */
export async function moveTo(
  context: Context,
  userId: string,
  candidate: CandidateRow,
  examId: string,
): Promise<void> {
  const from = await openExam(context, userId, candidate.examId, 'read')
  await together(context, async (transaction) => {
    // The edition is held, so that it is neither changed nor deleted while somebody moves to it.
    const to = await context.models.exams.findByPk(examId, { transaction, lock: true })
    if (!to || to.workspaceId !== from.workspaceId || to.lineage !== from.lineage) throw notFound()
    const loaded = await loadLocked(context, candidate, transaction)
    const issues = misfits(loaded, formatOf(to))
    if (issues.length) throw invalid(issuesOf({ issues }))
    await loaded.candidate.update({ examId }, { transaction })
  })
}
