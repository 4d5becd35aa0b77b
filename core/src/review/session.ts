import type { Attempt, RetestSession, ReviewSession } from '@climber/contract'

type Follows = Pick<ReviewSession | RetestSession, 'attempt' | 'of' | 'form'>
type Sat = Pick<Attempt, 'id' | 'session' | 'form'>

/** Whether a review, or a retest, is that of something that was sat: as it says, or of its test session; else by the form. */
export function follows({ attempt, of, form }: Follows, sat: Sat): boolean {
  if (attempt !== undefined) return attempt === sat.id
  if (of !== undefined && sat.session !== undefined) return of === sat.session
  return form !== undefined && form === sat.form
}

/** What a review, or a retest, takes up: of several that it may be the newest, by the order in which they are given. */
export const satOf = <A extends Sat>(session: Follows, attempts: readonly A[]): A | undefined =>
  [...attempts].reverse().find((attempt) => follows(session, attempt))
