import type { ExamFormat } from '@climber/contract'
import { itemsOf } from '../scoring/raw'

/** Hours that close 63% of a topic when neither the exam format nor the candidate says: 36 minutes a question. */
const hoursPerItem = 0.6
const shortestTau = 2

/** Where the hours of a topic come from. */
export type HoursFrom = 'hand' | 'shelf' | 'exam' | 'items'

/** The same as `tausOf` tells by: hours set by hand, what the shelf holds, the exam format, or else the number of questions. */
export const hoursFrom = (
  { id, hours }: ExamFormat['topics'][number],
  own: Record<string, number>,
  shelf: Record<string, number>,
): HoursFrom =>
  own[id] !== undefined ? 'hand' : shelf[id] !== undefined ? 'shelf' : hours !== undefined ? 'exam' : 'items'

/** Hours that close 63% of what is not known of each topic, in the exam's order: as said by topic, else as the exam format says. */
export function tausOf(exam: ExamFormat, said: Record<string, number>): number[] {
  const sections = new Map(exam.sections.map((section) => [section.id, itemsOf(section)]))
  return exam.topics.map(
    ({ id, hours, share, section }) =>
      said[id] ?? hours ?? Math.max(shortestTau, share * (sections.get(section) ?? 0) * hoursPerItem),
  )
}
