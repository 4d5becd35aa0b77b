import { type ReadItem, reachedInOrder } from './item'

/** Misses that follow each other. */
export interface MissRun {
  section: string
  items: number[]
}

/** Fewer misses in a row are no run. */
export const leastRun = 4

const missed = ({ outcome }: ReadItem): boolean => outcome !== 'right'

/** Every run of `leastRun` misses or more among the items of a section that were got to, in the order in which they were taken up. */
export function missRuns(section: string, items: readonly ReadItem[]): MissRun[] {
  const runs: MissRun[] = []
  let own: number[] = []
  const end = () => {
    if (own.length >= leastRun) runs.push({ section, items: own })
    own = []
  }
  for (const item of reachedInOrder(items)) {
    if (missed(item)) own.push(item.item)
    else end()
  }
  end()
  return runs
}

/**
 * Chance that items with these chances of a right answer hold a run of `length` misses or more somewhere: exact, by walking the
 * paper with the length of the run under way.
 */
export function chanceOfRun(expected: readonly number[], length: number): number {
  /** Chance of each length of the run under way, no run of `length` having come yet. */
  let under = new Array<number>(length).fill(0)
  under[0] = 1
  let come = 0
  for (const p of expected) {
    const next = new Array<number>(length).fill(0)
    under.forEach((chance, long) => {
      next[0]! += chance * p
      if (long + 1 < length) next[long + 1]! += chance * (1 - p)
      else come += chance * (1 - p)
    })
    under = next
  }
  return come
}
