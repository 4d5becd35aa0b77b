import { afterDeeds, type Deed, marksOf, type Person, sectionShares } from '@climber/core'
import type { Anyone } from './anyone'

/** What a person has done so far. */
export const after = ({ person }: Pick<Anyone, 'person'>, deeds: Deed[]): Person =>
  afterDeeds(person(), deeds)

/** The share of the exam's marks on a day, of a hundred, after deeds. */
export const scoreOf = (some: Pick<Anyone, 'exam' | 'person'>, deeds: Deed[], day: number): number =>
  marksOf(some.exam, sectionShares(some.exam, after(some, deeds), day))
