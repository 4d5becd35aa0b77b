/** A run of items that shares a part of the time: `parts` for the whole run, split over its items. */
export interface Block {
  items: number
  parts: number
  /** Items that share a stimulus, which is read before the first of each set; its seconds come off the whole first. */
  set?: { items: number; readingSeconds: number }
  /** Time of the last item against that of the first, the others evenly between; 1, all alike, when absent. */
  rise?: number
}

export interface Budget {
  /** Seconds from the section's start by which each item should be finished; whole, rising, ending on the total. */
  finishBy: number[]
  workingSeconds: number
}

/** One item as the time sees it. */
export interface Step {
  /** Share of the time to answer, in any unit. */
  weight: number
  /** Seconds of reading before it. */
  reading: number
}

/** The first `items` are to be finished `at` so many seconds. */
export interface Anchor {
  items: number
  at: number
}

/** Seconds to work in: the section's time with accommodations, less what is kept back for transfer and checking. */
export const workingSeconds = (sectionSeconds: number, timeFactor: number, reserveSeconds: number): number =>
  Math.round(sectionSeconds * timeFactor) - Math.round(reserveSeconds)

const halfUp = (seconds: number): number => Math.floor(seconds + 0.5 + 1e-9)

/** Items of a block, one by one: weights that add up to its parts, and the reading before each. */
export function stepsOf({ items, parts, set, rise = 1 }: Block): Step[] {
  const middle = (items - 1) / 2
  return Array.from({ length: items }, (_, at) => ({
    weight: (parts / items) * (middle ? 1 + ((rise - 1) / (rise + 1)) * ((at - middle) / middle) : 1),
    reading: set && at % set.items === 0 ? set.readingSeconds : 0,
  }))
}

/**
 * Cumulative finish times: between two anchors the time less its reading is shared by weight. `anchors` rise in items and
 * in time and leave time for the reading; the end of the section is one more. Rounded half up to whole seconds after
 * adding up, so that they end exactly on the total.
 */
export function shareOut(steps: Step[], seconds: number, anchors: Anchor[] = []): number[] {
  const finishBy: number[] = []
  let start = 0
  for (const { items, at } of [...anchors, { items: steps.length, at: seconds }]) {
    const stretch = steps.slice(finishBy.length, items)
    const weights = stretch.reduce((sum, { weight }) => sum + weight, 0)
    const toAnswer = at - start - stretch.reduce((sum, { reading }) => sum + reading, 0)
    let weight = 0
    let read = 0
    for (const step of stretch) {
      weight += step.weight
      read += step.reading
      finishBy.push(halfUp(start + read + (weights ? (toAnswer * weight) / weights : 0)))
    }
    if (stretch.length) finishBy[finishBy.length - 1] = halfUp(at)
    start = at
  }
  return finishBy
}

/** Cumulative finish times of blocks that share `seconds` by their parts. Source: docs/models.md, 5. */
export const paceBudget = (blocks: Block[], seconds: number): Budget => ({
  finishBy: shareOut(blocks.flatMap(stepsOf), seconds),
  workingSeconds: seconds,
})

/** The last item that a rounded rule of thumb finishes within the section. */
export const ruleOfThumb = (secondsEach: number, sectionSeconds: number, items: number): number =>
  Math.min(items, Math.floor(sectionSeconds / secondsEach + 1e-9))
