/** Answers to items of one topic. */
export interface TopicAnswers {
  right: number
  of: number
  /** Options of an item; infinite where guessing does not help. */
  choices: number
  /** What each says of its topic, as a share of what a new item says; `weights.met` unless given. */
  weight?: number
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
export function knownGiven(known: number, { right, of, choices, weight = weights.met }: TopicAnswers): number {
  if (of <= 0) return known
  const shown = Math.max(0, (right - of / choices) / (of * (1 - 1 / choices)))
  const told = weight * of
  return (trust * known + told * shown) / (trust + told)
}
