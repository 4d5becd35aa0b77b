import type { Counts, ItemGroup, Section } from '@climber/contract'

/** raw = right x perRight - wrong x perWrong; blanks earn nothing. */
export const rawOfGroup = (group: ItemGroup, counts: { right: number; wrong: number }): number =>
  counts.right * group.perRight - counts.wrong * group.perWrong

/** Raw score of a section from the counts of its item groups; undefined where a group has none. */
export function rawOfSection(section: Section, counts: Record<string, Counts>): number | undefined {
  let raw = 0
  for (const group of section.groups) {
    const found = counts[group.id]
    if (!found) return undefined
    raw += rawOfGroup(group, found)
  }
  return raw
}

export const itemsOf = (section: Section): number => section.groups.reduce((sum, { items }) => sum + items, 0)

export const highestRaw = (section: Section): number =>
  section.groups.reduce((sum, group) => sum + group.items * group.perRight, 0)

/** What one item earns on average when answered blindly; a candidate leaves it blank where that is below nothing. */
export function blindGuess(group: ItemGroup): number {
  if (group.kind === 'numeric' || !group.choices) return 0
  const { choices, perRight, perWrong } = group
  return Math.max(0, perRight / choices - (perWrong * (choices - 1)) / choices)
}

/** Expected raw score of a section at a share of questions known, 0 to 1, the rest guessed where guessing pays. */
export const expectedRaw = (section: Section, known: number): number =>
  section.groups.reduce(
    (sum, group) => sum + group.items * (known * group.perRight + (1 - known) * blindGuess(group)),
    0,
  )
