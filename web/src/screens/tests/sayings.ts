import type { Drift, Says, SectionSays } from '@climber/core'
import { clockWords, percentWords } from '../../manners/words'

/** How sure a p-value makes one, in words. */
export const sureWords = (p: number): string =>
  p < 0.01
    ? `chance alone does this ${p < 0.001 ? 'less than once in a thousand times' : 'once in a hundred times at most'}`
    : `chance alone does this ${Math.round(p * 100)} times in a hundred`

/** What a drift is, and what it calls for. */
export const driftWords = ({ from, second, before, after }: Drift): string => {
  const points = Math.round(100 * (before.right - before.expected - (after.right - after.expected)))
  const when = second === undefined ? '' : `, after ${clockWords(second)}`
  return `From item ${from.item} on${when}, answers came out ${points} points worse against what their topics let expect: ${percentWords(after.right)} right where ${percentWords(after.expected)} were to be expected.`
}
export const pauseWords = ({ from }: Drift): string =>
  `Try a pause of half a minute before item ${from.item}: eyes shut, three breaths, then on.`

/** Of a section in which no drift can be told from chance. */
export const noDriftWords = ({ drift }: SectionSays): string =>
  drift ? `No drift to speak of: ${sureWords(drift.p)}.` : 'Too few items to tell a drift.'

export const runWords = ({ runs, runChance }: SectionSays, titleOf?: (test: string) => string): string => {
  if (!runs.length || runChance === undefined) return ''
  const longest = runs.reduce((a, b) => (b.items.length > a.items.length ? b : a))
  const where = titleOf ? ` in ${titleOf(longest.test)}` : ''
  const told = `${longest.items.length} misses in a row${where}, items ${longest.items[0]} to ${longest.items[longest.items.length - 1]}`
  return runChance <= 0.05
    ? `${told}: more than chance explains (${sureWords(runChance)}).`
    : `${told}: as chance would have it (${percentWords(runChance)} of such tests have one as long).`
}

/** Whether changing answers helped, and how sure that is. */
export function changeWords({ toRight, toWrong, p }: Says['changed']): string {
  if (toRight.length + toWrong.length === 0) return ''
  if (p > 0.05) return 'Too even, or too few, to make a rule of.'
  return toRight.length > toWrong.length
    ? 'Changing helps you: trust the second look.'
    : 'Changing harms you: stay with the first answer unless you can say what was wrong with it.'
}

export const conditionWords = {
  examHour: "at the exam's own hour",
  alone: 'alone',
  noise: 'with noise',
  tired: 'tired',
} as const
