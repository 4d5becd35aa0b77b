import { type Aside, Text } from '../aside/task'
import type { Limits } from '../limits'
import { planCalendar } from '../services/calendar'
import type { Context } from '../services/context'
import { closeFeed, feedState, openFeed, readFeed } from '../services/feed'
import { readCommitments } from '../services/commitments'
import { arrangePlan, makePlan, replanCandidate, undoPlan } from '../services/plan'
import { listCountries, listHolidays } from '../services/holidays'
import { saveSession } from '../services/session'
import { deleteTemplate, listTemplates, saveTemplate } from '../services/template'
import { leaveTurn } from '../turns'
import type { Bind } from './bind'

export function planRoutes(bind: Bind, context: Context, main?: { aside: Aside; limits: Limits }): void {
  bind.aside('makePlan', ({ candidate, body }) => makePlan(context, candidate, body))
  bind.aside('arrangePlan', ({ candidate, body }) => arrangePlan(context, candidate, body))
  bind.aside('replan', ({ user, candidate, body }) => replanCandidate(context, user.id, candidate, body))
  bind.aside('undoPlan', ({ user, candidate, body }) => undoPlan(context, user.id, candidate, body))
  bind.here(
    'readCommitments',
    ({ user, candidate, body, response }) => {
      // Another server may take its time.
      leaveTurn(response)
      if (!main) throw new Error('calendars are fetched by the main thread')
      return readCommitments(context, candidate, body.address, (task) => main.aside.calendar(user.id, task))
    },
    main?.limits.fetch,
  )
  bind.here('saveSession', ({ candidate, params, body }) =>
    saveSession(context, candidate, params.sessionId, body),
  )
  bind.here('listCountries', () => Promise.resolve(listCountries()))
  bind.here('listHolidays', ({ params: { region, from, to } }) =>
    Promise.resolve(listHolidays(region, from, to)),
  )
  bind.here('listTemplates', ({ user }) => listTemplates(context, user.id))
  bind.aside('saveTemplate', ({ user, params, body }) =>
    saveTemplate(context, user.id, params.templateId, body),
  )
  bind.here('deleteTemplate', async ({ user, params }) => {
    await deleteTemplate(context, user.id, params.templateId)
    return { ok: true as const }
  })
  bind.here('openFeed', ({ candidate }) => openFeed(context, candidate))
  bind.here('feedState', ({ candidate }) => feedState(context, candidate))
  bind.here('closeFeed', async ({ candidate }) => {
    await closeFeed(context, candidate)
    return { ok: true as const }
  })
  bind.aside(
    'readFeed',
    async ({ params }) => new Text(await readFeed(context, params.token), 'text/calendar; charset=utf-8'),
    main?.limits.feed,
  )
  bind.aside(
    'exportCalendar',
    async ({ candidate }) =>
      new Text(await planCalendar(context, candidate), 'text/calendar; charset=utf-8', 'plan.ics'),
  )
}
