/** Answers to items of one topic. */
export interface TopicAnswers {
  /** Less than none where what had come back before does not any more. */
  right: number
  /** Of which this is the first word; none where it only changes what was known of them. */
  of: number
  /** Options of an item; infinite where guessing does not help. */
  choices: number
  /** What each says of its topic, as a share of what a new item says; `weights.met` unless given. */
  weight?: number
  /** As many were told of before, and count in what is known already. */
  before?: number
}
/**
 * What an answer says of its topic, against a new item of it: an item that is met again may be remembered by itself, and a fact or a place
 * in the book is a small part of what its items ask. Choices.
 */
export const weights = { met: 0.5, fact: 0.1 }

/** Answers of one topic as which what was known before counts. */
const trust = 12

/**
 * Share known after answers to what had been met before: the share that they show, corrected for guessing (Lord and Novick
 * 1968), weighed against what was known by `trust` answers. Answers of a topic that say no more than chance say 0, not less.
 */
export function knownGiven(
  known: number,
  { right, of, choices, weight = weights.met, before = 0 }: TopicAnswers,
): number {
  const shown = choices === Infinity ? right : Math.max(0, (right - of / choices) / (1 - 1 / choices))
  const trusted = trust + weight * before
  return Math.min(1, Math.max(0, (trusted * known + weight * shown) / (trusted + weight * of)))
}
