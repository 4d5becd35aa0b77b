import { createHash, randomBytes } from 'node:crypto'
import { Op } from 'sequelize'
import type { CandidateRow } from '../models'
import { invalid, notFound } from '../refusal'
import { type Context, together } from './context'

const validDays = 14
const hashOf = (code: string): string => createHash('sha256').update(code).digest('hex')

/** A new code that lets one signed-in person become the candidate of this record. Earlier codes stop working. */
export async function invite(
  { models, clock }: Context,
  candidate: CandidateRow,
): Promise<{ code: string; expires: string }> {
  if (candidate.userId)
    throw invalid([{ field: 'candidate', message: 'this plan has its candidate already' }])
  const code = randomBytes(15).toString('base64url')
  const expires = new Date(Date.parse(clock.now()) + validDays * 86_400_000)
  await models.invitations.destroy({ where: { candidateId: candidate.id } })
  await models.invitations.create({ codeHash: hashOf(code), candidateId: candidate.id, expires })
  return { code, expires: expires.toISOString() }
}

/** Makes the user the candidate of the record that the code belongs to; a code works once. */
export async function join(context: Context, userId: string, code: string): Promise<string> {
  const { models, clock } = context
  return together(context, async (transaction) => {
    const invitation = await models.invitations.findOne({
      where: { codeHash: hashOf(code), expires: { [Op.gt]: new Date(clock.now()) } },
      transaction,
      lock: true,
    })
    const candidate =
      invitation && (await models.candidates.findByPk(invitation.candidateId, { transaction, lock: true }))
    if (!candidate || (candidate.userId && candidate.userId !== userId)) throw notFound()
    await candidate.update({ userId }, { transaction })
    await invitation.destroy({ transaction })
    return candidate.id
  })
}
