import type { Schools, Settings } from '@climber/contract'

/** Days after a review until what was missed is tried again, unless chosen otherwise. */
const usualRetestDays = 7

const usual: Required<Schools> = {
  firstTest: 'at once',
  order: 'yield',
  counts: 'odds',
  tests: 'by lead time',
  review: 'misses, doubtful and lucky',
  mistakes: 'cause',
  lastDays: 'stop',
  subjects: 'mixed',
}

/** What was chosen of the ways to prepare, the stated default where nothing was: the one place where defaults are. */
export const chosenWays = (settings: Pick<Settings, 'schools'>): Required<Schools> => ({
  ...usual,
  ...settings.schools,
})

/** Days after a review until its retest; null where none is wanted. */
export const retestDaysOf = ({ retestDays }: Pick<Settings, 'retestDays'>): number | null =>
  retestDays === undefined ? usualRetestDays : retestDays
