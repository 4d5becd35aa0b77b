import type { Request, Router } from 'express'
import type { SessionAnswer } from '@climber/contract'
import type { CsrfSync } from '../csrf'
import type { UserRow } from '../models'
import { demoAccounts, demoSignIn, signIn, signUp } from '../services/account'
import type { Context } from '../services/context'
import { bind } from './bind'

export function accountRoutes(router: Router, context: Context, csrf: CsrfSync): void {
  const answer = (request: Request, user: UserRow | null): SessionAnswer => ({
    user: user && { id: user.id, name: user.name, email: user.email },
    csrf: csrf.generateToken(request),
    now: context.clock.now(),
    frozen: context.clock.stands,
    demoAccounts: context.demo ? demoAccounts : [],
  })
  /** A new session id at every change of who is signed in, so that a planted one is worth nothing. */
  const renew = (request: Request, user: UserRow | null) =>
    new Promise<SessionAnswer>((resolve, reject) =>
      request.session.regenerate((error) => {
        if (error) return reject(error)
        if (user) request.session.userId = user.id
        resolve(answer(request, user))
      }),
    )

  bind(router, context, 'session', async ({ request, user }) => answer(request, user))
  bind(router, context, 'signUp', async ({ request, body }) => renew(request, await signUp(context, body)))
  bind(router, context, 'signIn', async ({ request, body }) => renew(request, await signIn(context, body)))
  bind(router, context, 'demoSignIn', async ({ request, body }) =>
    renew(request, await demoSignIn(context, body.email)),
  )
  bind(router, context, 'signOut', async ({ request }) => renew(request, null))
  bind(router, context, 'signOutEverywhere', async ({ request, user }) => {
    await context.sequelize.query('DELETE FROM web_sessions WHERE user_id = ?', { replacements: [user.id] })
    return renew(request, null)
  })
  bind(router, context, 'health', async ({ response }) => {
    try {
      await context.sequelize.authenticate()
      return { ok: true, database: true, version: '0.1.0' }
    } catch {
      response.status(503)
      return { ok: false, database: false, version: '0.1.0' }
    }
  })
}
