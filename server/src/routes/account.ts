import type { Request, Response } from 'express'
import type { SessionAnswer } from '@climber/contract'
import type { Csrf } from '../csrf'
import type { Limits } from '../limits'
import type { UserRow } from '../models'
import { demoAccounts, demoSignIn, signIn, signUp } from '../services/account'
import type { Context } from '../services/context'
import type { Bind } from './bind'

export function accountRoutes(bind: Bind, context: Context, csrf: Csrf, limits: Limits): void {
  const answer = (
    request: Request,
    response: Response,
    user: UserRow | null,
    anew = false,
  ): SessionAnswer => ({
    user: user && { id: user.id, name: user.name, email: user.email, locale: user.locale },
    csrf: csrf.token(request, response, anew),
    now: context.clock.now(),
    frozen: context.clock.stands,
    demoAccounts: context.demo ? demoAccounts : [],
  })
  /** A new session id at every change of who is signed in, so that a planted one is worth nothing. */
  const renew = (request: Request, response: Response, user: UserRow | null) =>
    new Promise<SessionAnswer>((resolve, reject) =>
      request.session.regenerate((error) => {
        if (error) return reject(error instanceof Error ? error : new Error(String(error)))
        if (user) request.session.userId = user.id
        resolve(answer(request, response, user, true))
      }),
    )

  bind.here('session', async ({ request, response, user }) => answer(request, response, user))
  bind.here(
    'signUp',
    async ({ request, response, body }) => renew(request, response, await signUp(context, body)),
    limits.signUp,
  )
  bind.here(
    'signIn',
    async ({ request, response, body }) => renew(request, response, await signIn(context, body)),
    limits.signIn,
  )
  bind.here(
    'demoSignIn',
    async ({ request, response, body }) => renew(request, response, await demoSignIn(context, body.email)),
    limits.signIn,
  )
  bind.here('signOut', async ({ request, response }) => renew(request, response, null))
  bind.here('signOutEverywhere', async ({ request, response, user }) => {
    await context.sequelize.query('DELETE FROM web_sessions WHERE user_id = ?', { replacements: [user.id] })
    return renew(request, response, null)
  })
  bind.here('saveLocale', async ({ request, response, user, body }) =>
    answer(request, response, await user.update({ locale: body.locale })),
  )
  bind.here('health', async ({ response }) => {
    try {
      await context.sequelize.authenticate()
      return { ok: true, database: true, version: '0.1.0' }
    } catch {
      response.status(503)
      return { ok: false, database: false, version: '0.1.0' }
    }
  })
}
