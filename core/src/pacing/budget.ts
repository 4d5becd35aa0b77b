/** A run of items that shares a part of the time: `parts` for the whole run, split evenly over its items. */
export interface Block {
  items: number
  parts: number
  /** Items that share a stimulus, which is read before the first of each set; its seconds come off the whole first. */
  set?: { items: number; readingSeconds: number }
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
 * a block's items; an item set's reading time is added before its first item. Rounded half up to whole seconds after adding up, so that they end exactly on the total.
 */
export function paceBudget(blocks: Block[], seconds: number): Budget {
  const parts = blocks.reduce((sum, block) => sum + block.parts, 0)
  const readingOf = ({ items, set }: Block) => (set ? Math.ceil(items / set.items) * set.readingSeconds : 0)
  const toAnswer = seconds - blocks.reduce((sum, block) => sum + readingOf(block), 0)
  const finishBy: number[] = []
  let before = 0
  for (const block of blocks) {
    const own = (toAnswer * block.parts) / parts
    for (let item = 1; item <= block.items; item++) {
      const read = block.set ? Math.ceil(item / block.set.items) * block.set.readingSeconds : 0
      finishBy.push(halfUp(before + read + (own * item) / block.items))
    }
    before += own + readingOf(block)
  }
  if (finishBy.length) finishBy[finishBy.length - 1] = seconds
  return { finishBy, workingSeconds: seconds }
}

/** The last item that a rounded rule of thumb finishes within the section. */
export const ruleOfThumb = (secondsEach: number, sectionSeconds: number, items: number): number =>
  Math.min(items, Math.floor(sectionSeconds / secondsEach + 1e-9))
