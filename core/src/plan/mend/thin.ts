import type { TestSession } from '@climber/contract'
import { isTest, isWhole, reviewsOf } from '../../sessions/session'
import { dayNumber, type DayNumber } from '../../time/day'
import { lastRehearsalWithin } from '../tests/place'
import type { Mending } from './mending'
import { dropTest } from './tests'

/** Free time has shrunk where so much less of it is left, of the weeks to come, than there was. */
const shrunk = 0.92

/** How much of the free time of the weeks to come, as it was, is left. */
function timeLeft({ previous, today, ground }: Mending): number {
  let [was, is] = [0, 0]
  for (const { from, freeMinutes } of previous.weeks) {
    const monday = dayNumber(from)
    if (monday <= today || monday > ground.taper - 7) continue
    was += freeMinutes
    is += ground.calendar.weekFree.get(monday) ?? 0
  }
  return was > 0 ? is / was : 1
}

/** Minutes that may be worked from today to before a day, slack left out. */
function timeUntil({ ground, input }: Mending, until: DayNumber): number {
  let minutes = 0
  for (const [monday, free] of ground.calendar.weekFree)
    if (monday < until) minutes += free * Math.min(1, (until - monday) / 7)
  return minutes * (1 - input.settings.slackShare)
}

/**
 * Where free time has shrunk, tests that with their reviews take more of it than tests are to have are left out, the earliest too many
 * first; never the last rehearsal, nor what was fixed by hand.
 */
export function thinTests(mending: Mending): void {
  if (timeLeft(mending) >= shrunk) return
  const { ground, placed, today } = mending
  let spent = 0
  const tests = mending
    .tests()
    .filter(({ date, status }) => status === 'planned' && dayNumber(date) >= today)
    .sort((a, b) => a.date.localeCompare(b.date))
  const cost = (test: TestSession) =>
    [test, ...reviewsOf(test.id, mending.active())].reduce((sum, { minutes }) => sum + minutes, 0)
  for (const test of tests) {
    const own = cost(test)
    const day = dayNumber(test.date)
    const stage = ground.stages.find(({ from, to }) => day >= from && day < to)
    const may =
      placed.has(test.id) &&
      isTest(test) &&
      !test.pinned &&
      !test.split &&
      (test.purpose === 'rhythm' ||
        test.purpose === 'rehearsal' ||
        test.purpose === 'seen' ||
        !isWhole(test)) &&
      day < ground.exam - lastRehearsalWithin
    const time = timeUntil(mending, Math.min(ground.taper, day + (stage?.testEvery || 7)))
    if (may && stage && spent + own > stage.testShare * time) {
      mending.lift(test)
      dropTest(
        mending,
        test,
        'There is less time than there was: tests and their reviews would take too much of it.',
      )
    } else spent += own
  }
}
