import type { Confidence } from '@climber/contract'

/** One item of something that was sat, as it is read afterwards. */
export interface ReadItem {
  /** Number on the paper. */
  item: number
  /** The attempt that it is of. */
  test?: string
  /** The item itself, wherever it is met again. */
  id?: string
  /** Item group, and place in it from 0, by which its text is found in its form. */
  group?: string
  at?: number
  section: string
  topic?: string
  outcome: 'right' | 'wrong' | 'blank'
  /** False for blanks after the last answer of their section: they tell of the time and of nothing else. */
  reached: boolean
  /** The how-manieth item taken up; its number on the paper where nobody recorded it. */
  order: number
  seconds?: number
  /** Seconds that the pace gives it. */
  budget: number
  /** Chance that this candidate gets it right, by what is known of them otherwise. */
  expected: number
  /** How far that may be off for all items of its topic alike, one sd; nothing when absent. */
  unsure?: number
  marks: number
  /** What a wrong answer costs. */
  perWrong: number
  confidence?: Confidence
  answer: string
  key: string
  /** Answers given, oldest first, where it was changed. */
  changes: string[]
}

/** Items that were got to, in the order in which they were taken up. */
export const reachedInOrder = (items: readonly ReadItem[]): ReadItem[] =>
  items.filter(({ reached }) => reached).sort((a, b) => a.order - b.order || a.item - b.item)

/** From which p-value on chance is said to explain a thing well enough. */
export const chanceExplains = 0.04
