import type { Router } from 'express'
import { deleteAttempt, saveAttempt } from '../services/attempt'
import type { Context } from '../services/context'
import { bind } from './bind'

export function attemptRoutes(router: Router, context: Context): void {
  bind(router, context, 'saveAttempt', ({ candidate, params, body }) =>
    saveAttempt(context, candidate, params.attemptId, body),
  )
  bind(router, context, 'deleteAttempt', ({ candidate, params, body }) =>
    deleteAttempt(context, candidate, params.attemptId, body.request),
  )
}
