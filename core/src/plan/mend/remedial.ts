import { remedialKey, remedialSession, remediesOpen } from '../around/remedial'
import type { Mending } from './mending'

/** Work that reviews ask for and that this plan does not have yet waits for a place from today on, like what fell through. */
export function callRemedies(mending: Mending): void {
  const { input, previous, today, name, displaced } = mending
  for (const remedy of remediesOpen(input, [...input.lived, ...previous.sessions]))
    displaced.push(
      remedialSession(input, remedy, name(remedialKey(remedy)), {
        day: today,
        from: 0,
        minutes: remedy.minutes,
      }),
    )
}
