import { type Answer, type Body, type Failure, type Params, type RouteName, routes } from '@climber/contract'
import { heard } from './outbox/connection'

/** An answer other than the one asked for. `offline` where no answer came at all. */
export class ApiFailure extends Error {
  constructor(
    readonly code: Failure['code'] | 'offline',
    message: string,
    readonly failure?: Failure,
  ) {
    super(message)
  }
}

let token = ''
/** The CSRF token of the session, sent with every request that changes something. */
export const setToken = (csrf: string): void => void (token = csrf)

/** The address of a route with its parameters filled in. */
export const addressOf = <N extends RouteName>(name: N, params: Params<N>): string =>
  routes[name].path.replace(/:(\w+)/g, (_, key: string) =>
    encodeURIComponent(String((params as Record<string, unknown>)[key])),
  )

/** Milliseconds after which the server counts as away. */
const longest = 20_000

/** Calls one route of the contract, and waits `patience` milliseconds. Throws `ApiFailure`. */
export async function call<N extends RouteName>(
  name: N,
  params: Params<N>,
  body?: Body<N>,
  patience = longest,
): Promise<Answer<N>> {
  const { method } = routes[name]
  let response: Response
  try {
    response = await fetch(addressOf(name, params), {
      method,
      headers: method === 'GET' ? {} : { 'content-type': 'application/json', 'x-csrf-token': token },
      body: method === 'GET' ? undefined : JSON.stringify(body ?? {}),
      signal: AbortSignal.timeout(patience),
    })
  } catch {
    heard(false)
    throw new ApiFailure('offline', 'The server does not answer. What you typed is kept; try again.')
  }
  const answer = (await response.json().catch(() => undefined)) as unknown
  if (response.ok) {
    heard(true)
    return answer as Answer<N>
  }
  const failure = answer as Failure | undefined
  const code = failure?.code ?? 'unavailable'
  heard(code !== 'unavailable' && code !== 'busy')
  throw new ApiFailure(code, failure?.message ?? 'The server could not answer.', failure)
}

/** The same request again until the server answers; for what must not get lost. */
export const isPassing = (error: unknown): boolean =>
  error instanceof ApiFailure && ['offline', 'unavailable', 'busy'].includes(error.code)
