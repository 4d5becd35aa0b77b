import type { ExamFormat } from '@climber/contract'
import { itemsOf } from '../scoring/raw'

/** Hours that close 63% of a topic of middling breadth when neither the exam format nor the candidate says: 36 minutes a question. */
const hoursPerItem = 0.6
const shortestTau = 2

/** Where the hours of a topic come from: set by hand, what the shelf holds, the exam format, or else the number of questions. */
export type HoursFrom = 'hand' | 'shelf' | 'exam' | 'items'
export interface TopicHours {
  /** Hours that close 63% of what is not known. */
  tau: number
  from: HoursFrom
}

/**
 * Hours of each topic, in the exam's order, and where they come from: the first of these that says. By the number of questions the hours
 * grow with its root: were they in proportion, a topic's share would say nothing of what an hour on it brings; were they alike, all hours
 * would go to the large ones. Between the two nobody knows, and the root is least wrong over all (docs/models.md, 3).
 */
export function topicHours(
  exam: ExamFormat,
  byHand: Record<string, number>,
  onShelf: Record<string, number> = {},
): TopicHours[] {
  const sections = new Map(exam.sections.map((section) => [section.id, itemsOf(section)]))
  const items = exam.topics.map(({ share, section }) => share * (sections.get(section) ?? 0))
  const middling = items.reduce((sum, own) => sum + own, 0) / Math.max(1, items.length)
  return exam.topics.map(({ id, hours }, at): TopicHours => {
    if (byHand[id] !== undefined) return { tau: byHand[id], from: 'hand' }
    if (onShelf[id] !== undefined) return { tau: onShelf[id], from: 'shelf' }
    if (hours !== undefined) return { tau: hours, from: 'exam' }
    return {
      tau: Math.max(shortestTau, hoursPerItem * Math.sqrt(middling * (items[at] ?? 0))),
      from: 'items',
    }
  })
}
/** The hours alone. */
export const tausOf = (...said: Parameters<typeof topicHours>): number[] =>
  topicHours(...said).map(({ tau }) => tau)
