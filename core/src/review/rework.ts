import type { Cause, Rework, Schools } from '@climber/contract'
import { judge } from '../attempts/responses'
import { rushBelow } from '../attempts/says/time'
import { causeGroup } from './causes'
import type { ReviewItem } from './item'

/** Whether a reworked item came out right: as its key says, or as the candidate judged it; undefined where neither does. */
export function reworkedRight(
  { kind, key }: Pick<ReviewItem, 'kind' | 'key'>,
  rework: Rework | undefined,
): boolean | undefined {
  if (!rework) return undefined
  if (rework.right !== undefined) return rework.right
  if (kind === 'written' || !key) return undefined
  return judge({ kind, perRight: 1 }, { item: 1, answer: rework.answer, key }) === 'right'
}

/**
 * The cause that the facts speak for, to be confirmed or put right by who knows; undefined where they speak for none. Wrong again
 * without a clock is content; what was never got to is time; right again says what the first time went wrong with.
 */
export function likelyCause(
  item: ReviewItem,
  rework: Rework | undefined,
  way?: Schools['mistakes'],
): Cause | undefined {
  const cause = spokenFor(item, rework)
  const group = cause && causeGroup(cause)
  return way === 'three causes' && group ? ofThree[group] : cause
}
const ofThree = { gaps: 'content', care: 'careless', time: 'time' } as const

function spokenFor(item: ReviewItem, rework: Rework | undefined): Cause | undefined {
  const right = reworkedRight(item, rework)
  if (item.outcome === 'right') {
    if (right === false) return 'guess'
    if (item.why.includes('lucky')) return right && rework?.confidence === undefined ? undefined : 'guess'
    return item.why.includes('slow') ? 'time' : right ? 'sound' : undefined
  }
  if (!item.reached) return 'time'
  if (right === undefined) return undefined
  if (!right) return item.confidence === 'no idea' && item.answer ? 'guess' : 'content'
  if (item.why.includes('changed')) return 'overthought'
  if (item.outcome === 'blank') return 'time'
  if (item.seconds !== undefined && item.seconds < rushBelow * item.budget) return 'misread'
  return undefined
}
