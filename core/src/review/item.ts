import type { ReviewNote } from '@climber/contract'
import type { ReadItem } from '../attempts/says/item'

/** Why an item is worth a look. */
export type Look = 'wrong' | 'blank' | 'lucky' | 'slow' | 'changed' | 'every'

/** One item of something that was sat, as it is reviewed. */
export interface ReviewItem extends ReadItem {
  attempt: string
  kind: 'choice' | 'numeric' | 'written'
  /** Options of a choice item. */
  choices?: number
  /** Items of one set, and of one stimulus, have it alike. */
  set?: string
  why: Look[]
  /** Marks that it lost: against a right answer. */
  lost: number
  /** Points that an hour on its topic is worth now. */
  yield: number
  note?: ReviewNote
  /** Days, oldest first, on which the same item was met again, and how it came out. */
  again: { date: string; right: boolean }[]
}
