import type { Router } from 'express'
import { planCalendar } from '../services/calendar'
import type { Context } from '../services/context'
import { closeFeed, feedState, openFeed, readFeed } from '../services/feed'
import { readCommitments } from '../services/commitments'
import { arrangePlan, makePlan, replanCandidate, undoPlan } from '../services/plan'
import { saveSession } from '../services/session'
import { deleteTemplate, listTemplates, saveTemplate } from '../services/template'
import { bind } from './bind'

export function planRoutes(router: Router, context: Context): void {
  bind(router, context, 'makePlan', ({ candidate, body }) => makePlan(context, candidate, body))
  bind(router, context, 'arrangePlan', ({ candidate, body }) => arrangePlan(context, candidate, body))
  bind(router, context, 'replan', ({ user, candidate, body }) =>
    replanCandidate(context, user.id, candidate, body),
  )
  bind(router, context, 'undoPlan', ({ user, candidate, body }) =>
    undoPlan(context, user.id, candidate, body),
  )
  bind(router, context, 'readCommitments', ({ candidate, body }) =>
    readCommitments(context, candidate, body.address),
  )
  bind(router, context, 'saveSession', ({ candidate, params, body }) =>
    saveSession(context, candidate, params.sessionId, body),
  )
  bind(router, context, 'listTemplates', ({ user }) => listTemplates(context, user.id))
  bind(router, context, 'saveTemplate', ({ user, params, body }) =>
    saveTemplate(context, user.id, params.templateId, body),
  )
  bind(router, context, 'deleteTemplate', async ({ user, params }) => {
    await deleteTemplate(context, user.id, params.templateId)
    return { ok: true as const }
  })
  bind(router, context, 'openFeed', ({ candidate }) => openFeed(context, candidate))
  bind(router, context, 'feedState', ({ candidate }) => feedState(context, candidate))
  bind(router, context, 'closeFeed', async ({ candidate }) => {
    await closeFeed(context, candidate)
    return { ok: true as const }
  })
  bind(router, context, 'readFeed', async ({ params, response }) => {
    const text = await readFeed(context, params.token)
    response.type('text/calendar; charset=utf-8').set('cache-control', 'private, no-cache').send(text)
    return undefined
  })
  bind(router, context, 'exportCalendar', async ({ candidate, response }) => {
    const text = await planCalendar(context, candidate)
    response.type('text/calendar; charset=utf-8').attachment('plan.ics').send(text)
    return undefined
  })
}
