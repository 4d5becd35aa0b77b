import type { Router } from 'express'
import { planCalendar } from '../services/calendar'
import type { Context } from '../services/context'
import { makePlan, saveSession } from '../services/plan'
import { bind } from './bind'

export function planRoutes(router: Router, context: Context): void {
  bind(router, context, 'makePlan', ({ candidate, body }) =>
    makePlan(context, candidate, body.version, body.seed),
  )
  bind(router, context, 'saveSession', ({ candidate, params, body }) =>
    saveSession(context, candidate, params.sessionId, body),
  )
  bind(router, context, 'exportCalendar', async ({ candidate, response }) => {
    const text = await planCalendar(context, candidate)
    response.type('text/calendar; charset=utf-8').attachment('plan.ics').send(text)
    return undefined
  })
}
