/** No session is shorter, in minutes, but cards and what somebody chose shorter: time enough to get into something. */
export const shortestSession = 25
/** A window may draw a session out to so many times its length rather than lose its rest; short sessions are chosen as a limit, and stay. */
const drawnOut = (session: number): number => (session >= 45 ? 1.25 : 1) * session

/**
 * A stretch of free time cut into sessions with breaks between, so that little of it is lost: as near to `session` minutes each as can be,
 * all alike but for five minutes, none under `least`.
 */
export function cutInto(minutes: number, session: number, breakMinutes: number, least: number): number[] {
  const long = Math.floor(minutes / 5) * 5
  if (long < least) return []
  const holds = (count: number) => (long - (count - 1) * breakMinutes) / count
  let count = Math.max(1, Math.round((long + breakMinutes) / (session + breakMinutes)))
  while (count > 1 && holds(count) < least) count--
  while (holds(count) > drawnOut(session) && holds(count + 1) >= least) count++
  const most = Math.max(session, Math.floor(drawnOut(session) / 5) * 5)
  const whole = Math.min(most, Math.floor(holds(count) / 5) * 5)
  let rest = long - count * whole - (count - 1) * breakMinutes
  return Array.from({ length: count }, () => {
    const more = rest >= 5 && whole + 5 <= most ? 5 : 0
    rest -= more
    return whole + more
  })
}
