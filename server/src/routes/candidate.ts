import type { Router } from 'express'
import { createCandidate, listCandidates, savePart } from '../services/candidate'
import { roleOn } from '../services/access'
import type { Context } from '../services/context'
import { invite, join } from '../services/invitation'
import { answerOf, load } from '../services/record'
import { bind } from './bind'

export function candidateRoutes(router: Router, context: Context): void {
  bind(router, context, 'listCandidates', ({ user }) => listCandidates(context, user.id))
  bind(router, context, 'createCandidate', async ({ user, params, body }) => {
    const candidate = await createCandidate(context, user.id, params.candidateId, body)
    const role = await roleOn(context, user.id, candidate)
    return answerOf(context, await load(context, candidate), user.id, role ?? 'reader')
  })
  bind(router, context, 'readCandidate', async ({ user, candidate, role }) =>
    answerOf(context, await load(context, candidate), user.id, role),
  )
  bind(router, context, 'deleteCandidate', async ({ candidate }) => {
    await candidate.destroy()
    return { ok: true as const }
  })
  bind(router, context, 'savePart', ({ user, candidate, params, body }) =>
    savePart(context, user.id, candidate, params.part, body),
  )
  bind(router, context, 'invite', ({ candidate }) => invite(context, candidate))
  bind(router, context, 'join', async ({ user, body }) => ({
    candidateId: await join(context, user.id, body.code),
  }))
}
