import { restKey, restsOpen, restSession } from '../../sessions/rest'
import { dateOf } from '../../time/day'
import type { Mending } from './mending'

/** What was left undone of sessions that were done in part waits for a place from today on, like what fell through. */
export function callRests({ input, previous, today, name, displaced }: Mending): void {
  for (const session of restsOpen([...input.lived, ...previous.sessions], input.today))
    displaced.push({ ...restSession(session, name(restKey(session))), date: dateOf(today), start: '00:00' })
}
