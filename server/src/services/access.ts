import type { Transaction } from 'sequelize'
import { type ExamRight, examRights, type RecordRight, recordRights, type Role } from '@climber/contract'
import type { CandidateRow, ExamRow } from '../models'
import { forbidden, notFound } from '../refusal'
import type { Context } from './context'

export async function workspacesOf({ models }: Context, userId: string): Promise<string[]> {
  return (await models.memberships.findAll({ where: { userId } })).map(({ workspaceId }) => workspaceId)
}

/** SQL for the ids of candidates that `:userId` may open: those of their workspaces, those granted to them, and themself. */
export const visibleTo = `SELECT id FROM candidates
    WHERE workspace_id IN (SELECT workspace_id FROM memberships WHERE user_id = :userId)
  UNION SELECT id FROM candidates WHERE user_id = :userId
  UNION SELECT candidate_id FROM grants WHERE user_id = :userId`

/** The more one may do, the earlier it counts. */
const strongest: Role[] = ['owner', 'tutor', 'candidate', 'reader']

/** What a user is to a record: by their workspace, by being its candidate, or by a grant; undefined for a stranger. */
export async function roleOn(
  { models }: Context,
  userId: string,
  candidate: CandidateRow,
): Promise<Role | undefined> {
  const { id: candidateId, workspaceId } = candidate
  const member = await models.memberships.findOne({ where: { workspaceId, userId }, raw: true })
  // Nobody is more than an owner.
  const grant =
    member?.role === 'owner'
      ? undefined
      : await models.grants.findOne({ where: { candidateId, userId }, raw: true })
  const roles = [member?.role, grant?.role, candidate.userId === userId ? 'candidate' : undefined]
  return strongest.find((role) => roles.includes(role))
}

/**
 * The candidate, if the user has the right to it. Who may not even read hears the same refusal as for one that does not exist;
 * who may read and lacks the right hears that.
 */
export async function openCandidate(
  context: Context,
  userId: string,
  candidateId: string,
  right: RecordRight,
): Promise<{ candidate: CandidateRow; role: Role }> {
  const candidate = await context.models.candidates.findByPk(candidateId)
  const role = candidate ? await roleOn(context, userId, candidate) : undefined
  if (!candidate || !role) throw notFound()
  if (!recordRights[role].includes(right)) throw forbidden()
  return { candidate, role }
}

/** What a user is to an exam format: by its workspace, or as a candidate on it. */
async function roleOnExam({ models }: Context, userId: string, exam: ExamRow): Promise<Role | undefined> {
  const member = await models.memberships.findOne({ where: { workspaceId: exam.workspaceId, userId } })
  if (member) return member.role
  if (await models.candidates.findOne({ where: { examId: exam.id, userId } })) return 'candidate'
  const granted = await models.grants.findAll({ where: { userId } })
  const candidateIds = granted.map(({ candidateId }) => candidateId)
  const reads = await models.candidates.findOne({ where: { examId: exam.id, id: candidateIds } })
  return reads ? 'reader' : undefined
}

/** The exam, if the user has the right to it. */
export async function openExam(
  context: Context,
  userId: string,
  examId: string,
  right: ExamRight,
): Promise<ExamRow> {
  const exam = await context.models.exams.findByPk(examId)
  const role = exam ? await roleOnExam(context, userId, exam) : undefined
  if (!exam || !role) throw notFound()
  if (!examRights[role].includes(right)) throw forbidden()
  return exam
}

/** Remembers who deleted what; asked again, it is answered as the first time. */
export async function noteDeleted(
  { models, clock }: Context,
  userId: string,
  id: string,
  transaction: Transaction,
): Promise<void> {
  await models.deletions.upsert({ id, userId, deletedAt: new Date(clock.now()) }, { transaction })
}

/** Whether a user deleted what had this id. */
export const deletedBy = async (
  { models }: Context,
  userId: string,
  id: string,
  transaction?: Transaction,
): Promise<boolean> => (await models.deletions.findOne({ where: { id, userId }, transaction })) !== null

/** Forgets that a user deleted something, who wants it back; false where they did not. */
export const forgetDeleted = async (
  { models }: Context,
  userId: string,
  id: string,
  transaction: Transaction,
): Promise<boolean> => (await models.deletions.destroy({ where: { id, userId }, transaction })) > 0

/** Refuses to bring back what was deleted: a save that was on its way when that happened comes too late. */
export async function refuseDeleted(
  { models }: Context,
  id: string,
  transaction: Transaction,
): Promise<void> {
  // Locked, so that it is read as it is now and not as it was when the transaction first looked.
  if (await models.deletions.findByPk(id, { transaction, lock: true })) throw notFound()
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
