import type { Cause, Schools } from '@climber/contract'
import type { ReviewItem } from './item'

const all: Cause[] = ['content', 'misread', 'overthought', 'question', 'careless', 'time', 'guess']
const three: Cause[] = ['content', 'careless', 'time']

const titles: Record<Cause, string> = {
  content: 'Did not know it',
  misread: 'Misread it',
  overthought: 'Overthought it',
  question: 'Answered another question',
  careless: 'Careless working',
  time: 'Out of time',
  guess: 'Guessed',
  sound: 'Right, and for the right reason',
}

/** Gaps in what is known; lapses of care over what is known; time. */
export type CauseGroup = 'gaps' | 'care' | 'time'
const groups: Record<Cause, CauseGroup | undefined> = {
  content: 'gaps',
  guess: 'gaps',
  misread: 'care',
  overthought: 'care',
  question: 'care',
  careless: 'care',
  time: 'time',
  sound: undefined,
}

export const causeGroup = (cause: Cause): CauseGroup | undefined => groups[cause]

/** A cause in words; where there are three, "careless" stands for everything that was known and slipped. */
export const causeTitle = (cause: Cause, way?: Schools['mistakes']): string =>
  cause === 'careless' && way === 'three causes' ? 'Knew it, and slipped' : titles[cause]

/**
 * Causes to choose from, in the order of their keys, as the candidate's way to work has them; what was right may be right for the
 * right reason.
 */
export function causesFor(
  way: NonNullable<Schools['mistakes']>,
  { outcome }: Pick<ReviewItem, 'outcome'>,
): Cause[] {
  const own = way === 'three causes' ? three : all
  return outcome === 'right' ? [...own, 'sound'] : own
}
