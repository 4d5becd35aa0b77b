import { issuesOf, type RouteName, routes, unfitIn } from '@climber/contract'
import { invalid, Refusal } from '../refusal'

/** The body of a request as its schema reads it. */
export function bodyOf(route: RouteName, bytes: Uint8Array | undefined): unknown {
  let body: unknown
  if (bytes?.length)
    try {
      body = JSON.parse(new TextDecoder('utf-8', { fatal: true }).decode(bytes))
    } catch {
      throw new Refusal({ code: 'invalid', message: 'The request is not JSON in UTF-8.' })
    }
  const unfit = unfitIn(body)
  if (unfit) throw invalid(issuesOf({ issues: [unfit] }))
  const parsed = routes[route].body.safeParse(body)
  if (!parsed.success) throw invalid(issuesOf(parsed.error))
  return parsed.data
}
