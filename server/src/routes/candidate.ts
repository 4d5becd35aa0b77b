import { createCandidate, deleteCandidate, savePart } from '../services/candidate'
import { Text } from '../aside/task'
import { roleOn } from '../services/access'
import { rosterOf } from '../services/figures'
import type { Limits } from '../limits'
import type { Context } from '../services/context'
import { invite, join, readInvitation } from '../services/invitation'
import { answerOf, load } from '../services/record'
import type { Bind } from './bind'

export function candidateRoutes(bind: Bind, context: Context, limits?: Limits): void {
  bind.aside(
    'listCandidates',
    async ({ user }) => new Text(await rosterOf(context, user.id), 'application/json; charset=utf-8'),
  )
  bind.aside('createCandidate', async ({ user, params, body }) => {
    const candidate = await createCandidate(context, user.id, params.candidateId, body)
    const role = await roleOn(context, user.id, candidate)
    return answerOf(context, await load(context, candidate), user.id, role ?? 'reader')
  })
  bind.aside('readCandidate', async ({ user, candidate, role }) =>
    answerOf(context, await load(context, candidate), user.id, role),
  )
  bind.here('deleteCandidate', async ({ user, candidate }) => {
    await deleteCandidate(context, user.id, candidate)
    return { ok: true as const }
  })
  bind.aside('savePart', ({ user, candidate, params, body }) =>
    savePart(context, user.id, candidate, params.part, body),
  )
  bind.here('invite', ({ candidate }) => invite(context, candidate))
  bind.here('readInvitation', ({ body }) => readInvitation(context, body.code), limits?.join)
  bind.here(
    'join',
    async ({ user, body }) => ({
      candidateId: await join(context, user.id, body.code),
    }),
    limits?.join,
  )
}
