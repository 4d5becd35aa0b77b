/** A run of items that shares a part of the time: `parts` for the whole run, split evenly over its items. */
export interface Block {
  items: number
  parts: number
}

export interface Budget {
  /** Seconds from the section's start by which each item should be finished; whole, rising, ending on the total. */
  finishBy: number[]
  workingSeconds: number
}

/** Seconds to work in: the section's time with accommodations, less what is kept back for transfer and checking. */
export const workingSeconds = (sectionSeconds: number, timeFactor: number, reserveSeconds: number): number =>
  Math.round(sectionSeconds * timeFactor) - Math.round(reserveSeconds)

const halfUp = (seconds: number): number => Math.floor(seconds + 0.5 + 1e-9)

/**
 * Cumulative finish times of every item: the working seconds are shared between blocks by their parts, and evenly over
 * a block's items. Rounded half up to whole seconds after adding up, so that they end exactly on the total.
 */
export function paceBudget(blocks: Block[], seconds: number): Budget {
  const parts = blocks.reduce((sum, block) => sum + block.parts, 0)
  const finishBy: number[] = []
  let before = 0
  for (const block of blocks) {
    const own = (seconds * block.parts) / parts
    for (let item = 1; item <= block.items; item++) finishBy.push(halfUp(before + (own * item) / block.items))
    before += own
  }
  if (finishBy.length) finishBy[finishBy.length - 1] = seconds
  return { finishBy, workingSeconds: seconds }
}

/** The last item that a rounded rule of thumb finishes within the section. */
export const ruleOfThumb = (secondsEach: number, sectionSeconds: number, items: number): number =>
  Math.min(items, Math.floor(sectionSeconds / secondsEach + 1e-9))
