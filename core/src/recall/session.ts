import type { Confidence } from '@climber/contract'
import type { RecallGrade } from './memory'

/** How a missed item came out as an answer from memory: right without being sure it is hardly there, and by luck not at all. */
export const gradeOfItem = (right: boolean, confidence?: Confidence): RecallGrade =>
  !right || confidence === 'no idea' ? 1 : confidence === 'between two' ? 2 : 3

/** Others that come between a card that did not come back and its next turn, where there are as many. */
const between = 6

/** What was answered in a session, in order. */
interface Given {
  card: string
  grade: number
}

/**
 * What comes next in a session: the queue in its order; what did not come back again once six others have been, or when nothing else is
 * left, until it does.
 */
export function nextIn(queue: readonly string[], given: readonly Given[]): string | undefined {
  const last = new Map<string, { grade: number; at: number }>()
  given.forEach(({ card, grade }, at) => last.set(card, { grade, at }))
  const lost = [...last]
    .filter(([, { grade }]) => grade === 1)
    .sort(([, one], [, two]) => one.at - two.at)
    .map(([card, { at }]) => ({ card, since: given.length - 1 - at }))
  const [first] = lost
  if (first && first.since >= between) return first.card
  return queue.find((card) => !last.has(card)) ?? first?.card
}
