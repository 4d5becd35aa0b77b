import type { PlanInput } from '../input'

/** Days that chapters which overlap are kept apart. */
export const overlapDays = 4

/** For each topic, those that share a chapter of the shelf with it. */
export function overlaps(input: PlanInput, place: Map<string, number>): Set<number>[] {
  const shared = input.topics.map(() => new Set<number>())
  for (const { chapters = [] } of input.shelf)
    for (const chapter of chapters) {
      const here = chapter.topics.flatMap((id) => place.get(id) ?? [])
      for (const a of here) for (const b of here) if (a !== b) shared[a]!.add(b)
    }
  return shared
}
