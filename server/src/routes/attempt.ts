import { deleteAttempt, saveAttempt } from '../services/attempt'
import type { Context } from '../services/context'
import type { Bind } from './bind'

export function attemptRoutes(bind: Bind, context: Context): void {
  bind.aside('saveAttempt', ({ candidate, params, body }) =>
    saveAttempt(context, candidate, params.attemptId, body),
  )
  bind.aside('deleteAttempt', ({ candidate, params, body }) =>
    deleteAttempt(context, candidate, params.attemptId, body.request),
  )
}
