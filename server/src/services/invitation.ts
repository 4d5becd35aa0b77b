import { Op } from 'sequelize'
import type { Invitation } from '@climber/contract'
import { sittingOf } from '@climber/core'
import type { CandidateRow } from '../models'
import { invalid, notFound } from '../refusal'
import { type Context, lockCandidate, together } from './context'
import { loadAll, momentOf, recordOf } from './record'
import { hashOf, newToken } from './token'

const validDays = 14

/** A new code that lets one signed-in person become the candidate of this record. Earlier codes stop working. */
export async function invite(
  context: Context,
  candidate: CandidateRow,
): Promise<{ code: string; expires: string }> {
  const { models, clock } = context
  const code = newToken(15)
  const expires = new Date(Date.parse(clock.now()) + validDays * 86_400_000)
  await together(context, async (transaction) => {
    const { id: candidateId, userId } = await lockCandidate(context, candidate, transaction)
    if (userId) throw invalid([{ field: 'candidate', message: 'this plan has its candidate already' }])
    await models.invitations.destroy({ where: { candidateId }, transaction })
    await models.invitations.create({ codeHash: hashOf(code), candidateId, expires }, { transaction })
  })
  return { code, expires: expires.toISOString() }
}

/** The one invitation that a code opens, while it holds. */
const holding = (code: string, now: string) => ({
  codeHash: hashOf(code),
  expires: { [Op.gt]: new Date(now) },
})

/** What a code is an invitation to, and from whom: the first who came to the workspace of the record. */
export async function readInvitation(context: Context, code: string): Promise<Invitation> {
  const { models, clock } = context
  const found = await models.invitations.findOne({ where: holding(code, clock.now()) })
  const candidate = found && (await models.candidates.findByPk(found.candidateId))
  if (!found || !candidate) throw notFound()
  const members = await models.memberships.findAll({ where: { workspaceId: candidate.workspaceId } })
  const tutor = await models.users.findOne({
    where: { id: members.map(({ userId }) => userId) },
    order: [
      ['createdAt', 'ASC'],
      ['id', 'ASC'],
    ],
  })
  const [loaded] = await loadAll(context, [candidate])
  if (!loaded) throw notFound()
  const record = recordOf(loaded)
  return {
    from: tutor?.name ?? 'Your tutor',
    to: record.candidate.name,
    exam: record.exam.title,
    examDate: sittingOf(record, momentOf(context, loaded).date)?.date ?? null,
    expires: found.expires.toISOString(),
  }
}

/** Makes the user the candidate of the record that the code belongs to; a code works once. */
export async function join(context: Context, userId: string, code: string): Promise<string> {
  const { models, clock } = context
  return together(context, async (transaction) => {
    const valid = holding(code, clock.now())
    const found = await models.invitations.findOne({ where: valid })
    if (!found) throw notFound()
    // The record first, as everywhere, and then the code once more: it may have been used meanwhile.
    const candidate = await lockCandidate(context, { id: found.candidateId }, transaction)
    const invitation = await models.invitations.findOne({ where: valid, transaction, lock: true })
    if (!invitation || (candidate.userId && candidate.userId !== userId)) throw notFound()
    await candidate.update({ userId }, { transaction })
    await invitation.destroy({ transaction })
    return candidate.id
  })
}
