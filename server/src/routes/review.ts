import type { Context } from '../services/context'
import { commentNote, noteItem } from '../services/review'
import { closeReview, commentShared, readShared, reviewShared, shareReview } from '../services/shared'
import type { Bind } from './bind'

export function reviewRoutes(bind: Bind, context: Context): void {
  bind.here('noteItem', ({ candidate, params, body }) => noteItem(context, candidate, params, body))
  bind.here('commentItem', ({ user, candidate, params, body }) =>
    commentNote(context, candidate, params, { userId: user.id, ...body }),
  )
  bind.here('shareReview', ({ candidate, params, body }) =>
    shareReview(context, candidate, params.attemptId, body.mode),
  )
  bind.here('closeReview', async ({ candidate, params }) => {
    await closeReview(context, candidate, params.attemptId)
    return { ok: true as const }
  })
  bind.here('reviewShared', ({ candidate, params }) => reviewShared(context, candidate, params.attemptId))
  bind.aside('readShared', ({ user, params }) => readShared(context, user.id, params.token))
  bind.aside('commentShared', ({ user, params, body }) => commentShared(context, user.id, params, body.text))
}
