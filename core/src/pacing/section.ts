import type { Section, SectionPacing } from '@climber/contract'
import { itemsOf, waysThrough } from '../scoring/raw'
import { type Block, type Budget, paceBudget, ruleOfThumb, workingSeconds } from './budget'

export interface Checkpoint {
  item: number
  /** Seconds since the section's start. */
  at: number
  /** Seconds left of the section at that moment, the reserve included. */
  left: number
}
export interface SectionPace extends Budget {
  sectionSeconds: number
  reserveSeconds: number
  checkpoints: Checkpoint[]
  /** Exact seconds for one item where every item gets the same. */
  secondsEach: number
  /** The rounded-up rule people use instead, and the item it ends on; absent where rounding loses nothing. */
  thumb?: { secondsEach: number; lastItem: number }
}

export class PacingProblem extends Error {
  constructor(
    readonly field: 'reserveMinutes' | 'goal.items' | 'goal.byMinutes',
    message: string,
  ) {
    super(message)
  }
}

/** Blocks of equal weight per mark, or cut in two by the goal. */
function blocksOf(section: Section, seconds: number, goal: SectionPacing['goal']): Block[] {
  const items = itemsOf(section)
  // Of an adaptive section, the way with the most items: who keeps time on it keeps time on the others.
  const groups = waysThrough(section).find(
    (way) => way.reduce((sum, group) => sum + group.items, 0) === items,
  )!
  if (!goal)
    return groups.map((group) => ({
      items: group.items,
      parts: group.items * group.perRight,
      set: group.set,
    }))
  const first = goal.byMinutes * 60
  return [
    { items: goal.items, parts: first },
    { items: items - goal.items, parts: seconds - first },
  ]
}

/** The seconds-an-item that people round to: the next ten above the exact value. */
const roundedRule = (each: number): number => Math.ceil(each / 10 - 1e-9) * 10

/**
 * Budget and checkpoints of one section. Throws `PacingProblem` naming the field where the wishes do not fit in the
 * section's time.
 */
export function paceSection(section: Section, wish: SectionPacing, timeFactor: number): SectionPace {
  const sectionSeconds = Math.round(section.minutes * 60 * timeFactor)
  const reserveSeconds = Math.round(wish.reserveMinutes * 60)
  const seconds = workingSeconds(section.minutes * 60, timeFactor, reserveSeconds)
  const items = itemsOf(section)
  const reading = blocksOf(section, seconds, null).reduce(
    (sum, { items: own, set }) => sum + (set ? Math.ceil(own / set.items) * set.readingSeconds : 0),
    0,
  )
  if (seconds < items + reading)
    throw new PacingProblem(
      'reserveMinutes',
      `${wish.reserveMinutes} minutes of reserve leave nothing of the ${sectionSeconds / 60} for ${items} items`,
    )
  if (wish.goal && wish.goal.items >= items)
    throw new PacingProblem(
      'goal.items',
      `the goal names ${wish.goal.items} items; it must be fewer than the section's ${items}`,
    )
  if (wish.goal && wish.goal.byMinutes * 60 > seconds - (items - wish.goal.items))
    throw new PacingProblem(
      'goal.byMinutes',
      `${wish.goal.byMinutes} minutes leave no time for the items after the goal`,
    )
  const budget = paceBudget(blocksOf(section, seconds, wish.goal), seconds)
  const every = wish.every ?? checkpointSpacing(items)
  const marks = new Set<number>([items])
  for (let item = every; item < items - every / 2; item += every) marks.add(item)
  if (wish.goal) marks.add(wish.goal.items)
  const secondsEach = seconds / items
  const thumb = roundedRule(secondsEach)
  const lastItem = ruleOfThumb(thumb, sectionSeconds, items)
  return {
    ...budget,
    sectionSeconds,
    reserveSeconds,
    secondsEach,
    checkpoints: [...marks]
      .sort((a, b) => a - b)
      .map((item) => ({
        item,
        at: budget.finishBy[item - 1]!,
        left: sectionSeconds - budget.finishBy[item - 1]!,
      })),
    thumb: lastItem < items ? { secondsEach: thumb, lastItem } : undefined,
  }
}

/** Four to eight checkpoints a section, at a round number of items. */
export function checkpointSpacing(items: number): number {
  return (
    [1, 2, 3, 4, 5, 6, 8, 10, 12, 15, 20, 25, 50].find((every) => items / every <= 8) ?? Math.ceil(items / 8)
  )
}
