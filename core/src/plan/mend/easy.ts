import type { PlanSession } from '@climber/contract'
import { isEasy } from '../../sessions/session'
import { dayNumber } from '../../time/day'
import { type Mending, movedTo } from './mending'

/** Days that an errand may move. */
const errandReach = 5

/** The day after the last on which an errand is of use. */
function errandUntil({ input, ground }: Mending, session: PlanSession): number {
  const { registerBy } = input.sitting
  const isRegistration = session.kind === 'errand' && session.purpose === 'register'
  return isRegistration && registerBy !== undefined
    ? Math.min(ground.exam, dayNumber(registerBy) + 1)
    : ground.exam
}

/** Errands look for another day near theirs; light work stays on its own day, and is not made up for once that is gone. */
export function placeEasy(mending: Mending): void {
  for (const session of mending.displaced.filter(isEasy)) {
    const reach = session.kind === 'errand' ? errandReach : 0
    const home = mending
      .near(dayNumber(session.date), reach, errandUntil(mending, session))
      .find((day) => mending.gaps(day, session.minutes).length)
    const gap = home === undefined ? undefined : mending.gaps(home, session.minutes)[0]
    if (home !== undefined && gap) mending.take(movedTo(session, home, gap.from))
    else mending.drop(session, 'That day has no time for it any more.')
  }
  for (const session of mending.slipped.filter(isEasy)) {
    if (session.kind === 'light') {
      mending.drop(session, 'Light work that fell through is not made up for.')
      continue
    }
    const until = errandUntil(mending, session)
    const days = mending.near(Math.max(mending.today, dayNumber(session.date)), until - mending.today, until)
    const home = days.find((day) => mending.gaps(day, session.minutes).length)
    const gap = home === undefined ? undefined : mending.gaps(home, session.minutes)[0]
    if (home !== undefined && gap) mending.take(movedTo(session, home, gap.from))
    else mending.drop(session, 'No free time is left for it: do it all the same.')
  }
}
