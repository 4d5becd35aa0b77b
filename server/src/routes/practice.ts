import type { Router } from 'express'
import { deleteTest, saveTest } from '../services/practice'
import type { Context } from '../services/context'
import { bind } from './bind'

export function practiceRoutes(router: Router, context: Context): void {
  bind(router, context, 'saveTest', ({ candidate, params, body }) =>
    saveTest(context, candidate, params.testId, body.version, body.test),
  )
  bind(router, context, 'deleteTest', async ({ candidate, params }) => {
    await deleteTest(context, candidate, params.testId)
    return { ok: true as const }
  })
}
