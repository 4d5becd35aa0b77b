import type { Schools } from '@climber/contract'
import type { ReadItem } from '../attempts/says/item'
import { sinkFrom } from '../attempts/says/time'
import type { Look } from './item'

const isRight = (answer: string, key: string): boolean =>
  key !== '' && answer.trim().toUpperCase() === key.trim().toUpperCase()

/**
 * Why an item is worth a look: wrong, left blank, right without being sure, over twice its budget of time, changed from right to
 * wrong. `way` leaves all but misses out, or takes every item in. None where it is worth none. Source: docs/models.md, 10.
 */
export function looksAt(
  item: Pick<ReadItem, 'outcome' | 'confidence' | 'seconds' | 'budget' | 'changes' | 'key'>,
  way: NonNullable<Schools['review']>,
): Look[] {
  const { outcome, confidence, seconds, budget, changes, key } = item
  const looks: Look[] = []
  if (outcome !== 'right') looks.push(outcome)
  if (outcome === 'wrong' && changes.slice(0, -1).some((answer) => isRight(answer, key)))
    looks.push('changed')
  if (way === 'misses') return looks
  if (outcome === 'right' && confidence !== undefined && confidence !== 'sure') looks.push('lucky')
  if (seconds !== undefined && budget > 0 && seconds > sinkFrom * budget) looks.push('slow')
  return !looks.length && way === 'every question' ? ['every'] : looks
}
