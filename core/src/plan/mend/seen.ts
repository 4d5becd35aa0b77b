import type { TestSession } from '@climber/contract'
import { haveInCommon } from '../../attempts/sat'
import { byTime, isTest, isWhole, partOf, startOf } from '../../sessions/session'
import { dayNumber } from '../../time/day'
import { metBefore } from '../tests/forms'
import type { Mending } from './mending'
import { dropTest, followsKept } from './tests'

const notSat = 'The form that it was to repeat is not sat before it.'

/** Whether any of what a test holds was sat or worked, or is to be sat, before it. */
function metEarlier(mending: Mending, test: TestSession): boolean {
  const own = partOf(test)
  return metBefore({ ...mending.input, kept: mending.active() }).some(
    ({ form, date, sections }) => form === test.form && date < test.date && haveInCommon(sections, own),
  )
}

/**
 * Whole tests ahead that sit a form once more, as it turned out: where the first sitting has gone, another maker's form is a fresh one after
 * all, if nothing that is kept for the end comes before it; one that is kept for the end is left alone until then. One whose form was met
 * meanwhile is told as seen.
 */
export function seenAsItIs(mending: Mending): void {
  const { placed, today, keptForms } = mending
  for (const test of [...placed.values()].filter(isTest).sort(byTime)) {
    if (!isWhole(test) || test.split || test.form === undefined || dayNumber(test.date) < today) continue
    const met = metEarlier(mending, test)
    if (met === test.seen || (!met && test.pinned)) continue
    if (met) placed.set(test.id, { ...test, seen: true, purpose: 'seen' })
    else if (
      !keptForms.has(test.form) &&
      !followsKept(mending, { ...test, seen: false }, mending.tests(), startOf(test))
    )
      placed.set(test.id, { ...test, seen: false, purpose: 'rhythm' })
    else {
      mending.lift(test)
      dropTest(mending, test, notSat)
    }
  }
}
