/** Answers to items of one topic. */
export interface TopicAnswers {
  right: number
  of: number
  /** Options of an item; infinite where guessing does not help. */
  choices: number
}

/** Answers of one topic as which what was known before counts. */
const trust = 12
/** An item that is met again says less of its topic than a new one: it may be remembered by itself. */
const seenWeight = 0.5

/**
 * Share known after answers to items that had been met before: the share that they show, corrected for guessing (Lord and Novick
 * 1968), weighed against what was known by `trust` answers. Answers of a topic that say no more than chance say 0, not less.
 */
export function knownGiven(known: number, { right, of, choices }: TopicAnswers): number {
  if (of <= 0) return known
  const shown = Math.max(0, (right - of / choices) / (of * (1 - 1 / choices)))
  const weight = seenWeight * of
  return (trust * known + weight * shown) / (trust + weight)
}
