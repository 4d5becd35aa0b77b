import { Op } from 'sequelize'
import type { CandidateRow, ExamRow } from '../models'
import { notFound } from '../refusal'
import type { Context } from './context'

export async function workspacesOf({ models }: Context, userId: string): Promise<string[]> {
  return (await models.memberships.findAll({ where: { userId } })).map(({ workspaceId }) => workspaceId)
}

/** Candidates that a user may open: those of their workspaces, and themself. */
export async function visibleCandidates(context: Context, userId: string): Promise<CandidateRow[]> {
  const workspaces = await workspacesOf(context, userId)
  return context.models.candidates.findAll({
    where: { [Op.or]: [{ workspaceId: workspaces }, { userId }] },
    order: [
      ['createdAt', 'ASC'],
      ['id', 'ASC'],
    ],
  })
}

/** The candidate, if the user may open it; else the same refusal as for one that does not exist. */
export async function openCandidate(
  context: Context,
  userId: string,
  candidateId: string,
): Promise<CandidateRow> {
  const candidate = await context.models.candidates.findByPk(candidateId)
  if (!candidate) throw notFound()
  if (candidate.userId === userId) return candidate
  const member = await context.models.memberships.findOne({
    where: { workspaceId: candidate.workspaceId, userId },
  })
  if (!member) throw notFound()
  return candidate
}

/** The exam, if the user is a member of its workspace or a candidate on it. */
export async function openExam(context: Context, userId: string, examId: string): Promise<ExamRow> {
  const exam = await context.models.exams.findByPk(examId)
  if (!exam) throw notFound()
  const member = await context.models.memberships.findOne({
    where: { workspaceId: exam.workspaceId, userId },
  })
  if (!member && !(await context.models.candidates.findOne({ where: { examId, userId } }))) throw notFound()
  return exam
}

/** The exam, if the user may change it: a member of its workspace. */
export async function openOwnExam(context: Context, userId: string, examId: string): Promise<ExamRow> {
  const exam = await openExam(context, userId, examId)
  if (!(await workspacesOf(context, userId)).includes(exam.workspaceId)) throw notFound()
  return exam
}

/** The workspace that new things of a user go to: the oldest they belong to. */
export async function homeWorkspace(context: Context, userId: string): Promise<string> {
  const workspaces = await workspacesOf(context, userId)
  const home = await context.models.workspaces.findOne({
    where: { id: workspaces },
    order: [
      ['createdAt', 'ASC'],
      ['id', 'ASC'],
    ],
  })
  if (!home) throw notFound()
  return home.id
}
