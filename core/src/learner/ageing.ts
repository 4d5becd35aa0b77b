import type { Attempt } from '@climber/contract'
import { dayNumber, type DayNumber } from '../time/day'
import { isBaseline } from '../attempts/sat'

/** What a baseline rests on of an attempt. */
export type Sat = Pick<Attempt, 'kind' | 'date' | 'form' | 'title' | 'counts'>

const hasCounts = ({ counts: { total, sections, groups, topics } }: Sat): boolean =>
  Boolean(total) || [sections ?? {}, groups, topics].some((grain) => Object.keys(grain).length)

/** The day of the newest dated test of the baseline; none where there is no such test. */
export const newestBaseline = (attempts: readonly Pick<Attempt, 'kind' | 'date'>[]): DayNumber =>
  Math.max(...attempts.filter(isBaseline).flatMap(({ date }) => (date ? [dayNumber(date)] : [])), -Infinity)

/** How much older a test is than the newest of the baseline, in what halves its weight. */
export const halvings = (day: DayNumber, newest: DayNumber, halfWeightDays: number): number =>
  newest > day ? (newest - day) / halfWeightDays : 0

/** All tests of a baseline, oldest first, each with what it counts against the newest; one of `halfWeightDays` older counts half. */
export function weighed<S extends Sat>(sat: S[], halfWeightDays: number): (S & { weight: number })[] {
  const all = sat.filter(hasCounts)
  const newest = newestBaseline(all)
  return all
    .map((test) => ({
      ...test,
      weight: test.date ? 1 / (1 + halvings(dayNumber(test.date), newest, halfWeightDays)) : 1,
    }))
    .sort((a, b) => (a.date ?? '9').localeCompare(b.date ?? '9'))
}
