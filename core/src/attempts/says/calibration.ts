import type { Confidence } from '@climber/contract'
import { z80 } from '../../exact/normal'
import type { ReadItem } from './item'

/** How often answers of one degree of doubt were right. */
export interface Calibrated {
  confidence: Confidence
  items: ReadItem[]
  right: number
  /** Share right with its 80% range (Wilson 1927). */
  share: number
  low: number
  high: number
}

const degrees: Confidence[] = ['sure', 'between two', 'no idea']

/** Wilson's score interval of a share, at 80%. */
export function wilson(right: number, of: number): { low: number; high: number } {
  if (of === 0) return { low: 0, high: 1 }
  const share = right / of
  const square = z80 * z80
  const middle = (share + square / (2 * of)) / (1 + square / of)
  const half = (z80 / (1 + square / of)) * Math.sqrt((share * (1 - share)) / of + square / (4 * of * of))
  return { low: Math.max(0, middle - half), high: Math.min(1, middle + half) }
}

/**
 * Accuracy by the doubt that was marked, of answered items. An answered item without a mark is sure where the test has any mark at
 * all; in one without marks nothing is known of doubt, and nothing is said.
 */
export function calibration(items: readonly ReadItem[]): Calibrated[] {
  const answered = items.filter(({ outcome }) => outcome !== 'blank')
  if (!items.some(({ confidence }) => confidence !== undefined)) return []
  return degrees.map((confidence) => {
    const own = answered.filter((item) => (item.confidence ?? 'sure') === confidence)
    const right = own.filter(({ outcome }) => outcome === 'right').length
    return {
      confidence,
      items: own,
      right,
      share: own.length ? right / own.length : 0,
      ...wilson(right, own.length),
    }
  })
}

/** Right without being sure. */
export const luckyAnswers = (items: readonly ReadItem[]): ReadItem[] =>
  items.filter(
    ({ outcome, confidence }) =>
      outcome === 'right' && (confidence === 'between two' || confidence === 'no idea'),
  )
