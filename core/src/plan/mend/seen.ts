import type { TestSession } from '@climber/contract'
import { formsWithin, formsWorked, haveInCommon } from '../../attempts/sat'
import { byTime, isTest, isWhole, partOf, startOf } from '../../sessions/session'
import { dayNumber } from '../../time/day'
import type { Mending } from './mending'
import { dropTest, followsKept } from './tests'

const notSat = 'The form that it was to repeat is not sat before it.'

/** Whether any of what a test holds was sat or worked, or is to be sat, before it. */
function metBefore(
  { input, active }: Pick<Mending, 'input'> & { active: TestSession[] },
  test: TestSession,
): boolean {
  const own = partOf(test)
  const { sat, lived, kept } = input
  return [
    ...sat,
    ...formsWithin([...lived.filter(isTest), ...active]),
    ...formsWorked([...lived, ...kept]),
  ].some(({ form, date, sections }) => form === test.form && date < test.date && haveInCommon(sections, own))
}

/**
 * Whole tests ahead that sit a form once more, as it turned out: where the first sitting has gone, another maker's form is a fresh one after
 * all, if nothing that is kept for the end comes before it; one that is kept for the end is left alone until then. One whose form was met
 * meanwhile is told as seen.
 */
export function seenAsItIs(mending: Mending): void {
  const { input, placed, today, keptForms } = mending
  for (const test of [...placed.values()].filter(isTest).sort(byTime)) {
    if (!isWhole(test) || test.split || test.form === undefined || dayNumber(test.date) < today) continue
    const met = metBefore({ input, active: mending.tests() }, test)
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
