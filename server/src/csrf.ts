import { doubleCsrf } from 'csrf-csrf'
import type { Request, Response } from 'express'
import type { Config } from './config'
import { Refusal } from './refusal'

/**
 * The token that every change brings back in a header, in two places that a foreign page cannot have both of (double submit),
 * signed for the session it belongs to. Nothing is stored for it: who only looks leaves no trace.
 */
export function makeCsrf({ sessionSecret, secure, sessionDays }: Config) {
  const { doubleCsrfProtection, generateCsrfToken } = doubleCsrf({
    getSecret: () => sessionSecret,
    getSessionIdentifier: (request) => (request.session.userId ? request.sessionID : 'nobody'),
    // A browser takes the prefix only over HTTPS, and then no neighbouring host can plant such a cookie.
    cookieName: secure ? '__Host-climber-csrf' : 'climber-csrf',
    cookieOptions: { sameSite: 'lax', secure, httpOnly: true, maxAge: sessionDays * 86_400_000 },
    getCsrfTokenFromRequest: (request) => request.get('x-csrf-token'),
  })
  return {
    protection: doubleCsrfProtection,
    /** The token of whoever is signed in now; `anew` after that changed. */
    token: (request: Request, response: Response, anew = false): string =>
      generateCsrfToken(request, response, { overwrite: anew }),
  }
}

export type Csrf = ReturnType<typeof makeCsrf>

export const forged = (): Refusal =>
  new Refusal({
    code: 'forged',
    message: 'This page is out of date with the server; reload it. What you typed is kept.',
  })
