import { csrfSync } from 'csrf-sync'
import { Refusal } from './refusal'

/** The token of the session, asked back in a header with every request that changes something. */
export const makeCsrf = () =>
  csrfSync({
    getTokenFromRequest: (request) => request.get('x-csrf-token'),
    errorConfig: { statusCode: 403, message: 'forged', code: 'EBADCSRFTOKEN' },
  })

export type CsrfSync = ReturnType<typeof makeCsrf>

export const forged = (): Refusal =>
  new Refusal({
    code: 'forged',
    message: 'This page is out of date with the server; reload it. What you typed is kept.',
  })
