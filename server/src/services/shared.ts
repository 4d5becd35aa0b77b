import type { Comment, SharedReview, ShareMode } from '@climber/contract'
import { formOf, reviewView } from '@climber/core'
import type { CandidateRow, ShareRow } from '../models'
import { forbidden, notFound } from '../refusal'
import { workspacesOf } from './access'
import { type Context, lockCandidate, together } from './context'
import { documentOf, load, momentOf, recordOf } from './record'
import { commentNote } from './review'
import { formatOf } from './stored'
import { hashOf, newToken } from './token'

/** A new address for one review; the one before ends. It is shown this once. */
export async function shareReview(
  context: Context,
  candidate: CandidateRow,
  attemptId: string,
  mode: ShareMode,
): Promise<{ token: string }> {
  const { models, clock } = context
  const token = newToken()
  const madeAt = new Date(clock.now())
  await together(context, async (transaction) => {
    const { id: candidateId } = await lockCandidate(context, candidate, transaction)
    if (!(await models.attempts.findOne({ where: { candidateId, id: attemptId }, transaction })))
      throw notFound()
    await models.shares.upsert(
      { candidateId, attemptId, tokenHash: hashOf(token), mode, madeAt },
      { transaction },
    )
  })
  return { token }
}

export async function closeReview(
  { models }: Context,
  { id: candidateId }: CandidateRow,
  attemptId: string,
): Promise<void> {
  await models.shares.destroy({ where: { candidateId, attemptId } })
}

export async function reviewShared(
  { models }: Context,
  { id: candidateId }: CandidateRow,
  attemptId: string,
): Promise<{ mode: ShareMode | null; since: string | null }> {
  const share = await models.shares.findOne({ where: { candidateId, attemptId } })
  return { mode: share?.mode ?? null, since: share ? share.madeAt.toISOString() : null }
}

/** Whether a user works in a workspace: as a member, as one of its candidates, or by a record of it that was granted to them. */
async function isOfWorkspace(context: Context, userId: string, workspaceId: string): Promise<boolean> {
  const { models } = context
  if ((await workspacesOf(context, userId)).includes(workspaceId)) return true
  if (await models.candidates.findOne({ where: { workspaceId, userId } })) return true
  const granted = (await models.grants.findAll({ where: { userId } })).map(({ candidateId }) => candidateId)
  return (await models.candidates.findOne({ where: { workspaceId, id: granted } })) !== null
}

/** What an address is of, for people of its workspace; whoever else has it learns nothing. */
async function opened(
  context: Context,
  userId: string,
  token: string,
): Promise<{ share: ShareRow; candidate: CandidateRow }> {
  const { models } = context
  const share = await models.shares.findOne({ where: { tokenHash: hashOf(token) } })
  const candidate = share && (await models.candidates.findByPk(share.candidateId))
  if (!candidate || !(await isOfWorkspace(context, userId, candidate.workspaceId))) throw notFound()
  return { share, candidate }
}

/** A review as those see it with whom it was shared: the items worth a look, what was found, and what is said of them. */
export async function readShared(context: Context, userId: string, token: string): Promise<SharedReview> {
  const { share, candidate } = await opened(context, userId, token)
  const loaded = await load(context, candidate)
  const record = recordOf(loaded)
  const view = reviewView(record, momentOf(context, loaded), share.attemptId)
  const attempt = record.attempts.find(({ id }) => id === share.attemptId)
  if (!view || !attempt) throw notFound()
  const exam = formatOf(loaded.exam)
  const titles = new Map(exam.topics.map(({ id, title }) => [id, title]))
  return {
    title: view.title,
    date: view.date ?? null,
    candidate: documentOf(loaded, 'candidate').name,
    mode: share.mode,
    form: formOf(exam, attempt) ?? null,
    items: view.items.map(({ item, topic, group, at, choices, outcome, answer, key, note }) => ({
      item,
      topic: titles.get(topic ?? '') ?? '',
      ...(group !== undefined && { group, at }),
      ...(choices !== undefined && { choices }),
      outcome,
      answer,
      key,
      ...(note && { note }),
    })),
  }
}

/** Says something of an item of a review that was shared for comments; with no text takes back what one said oneself. */
export async function commentShared(
  context: Context,
  userId: string,
  { token, item, commentId }: { token: string; item: number; commentId: string },
  text: string | null,
): Promise<SharedReview> {
  const { share, candidate } = await opened(context, userId, token)
  if (share.mode !== 'comment') throw forbidden()
  const isOwn = ({ user }: Comment) => user === userId
  await commentNote(
    context,
    candidate,
    { attemptId: share.attemptId, item, commentId },
    { userId, text, may: isOwn },
  )
  return readShared(context, userId, token)
}
