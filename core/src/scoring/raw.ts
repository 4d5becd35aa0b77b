import type { Counts, ItemGroup, Section, Stage } from '@climber/contract'

/** What was counted of a group; `marks` are those of written answers. */
export type Counted = Pick<Counts, 'right' | 'wrong'> & Partial<Pick<Counts, 'blank' | 'marks'>>

/** raw = right x perRight - wrong x perWrong + blank x perBlank, or the marks of written answers. */
export const rawOfGroup = (group: ItemGroup, counts: Counted): number =>
  (group.kind === 'written'
    ? (counts.marks ?? counts.right * group.perRight)
    : counts.right * group.perRight - counts.wrong * group.perWrong) +
  (counts.blank ?? 0) * (group.perBlank ?? 0)

const rawOf = (groups: ItemGroup[], counts: Record<string, Counted>): number | undefined => {
  let raw = 0
  for (const group of groups) {
    const found = counts[group.id]
    if (!found) return undefined
    raw += rawOfGroup(group, found)
  }
  return raw
}

/** The second stage that a first-stage raw score leads to; undefined where the section is not adaptive. */
export function stageFor(section: Section, firstRaw: number): Stage | undefined {
  let found = section.stages?.[0]
  for (const stage of section.stages ?? []) if (firstRaw >= stage.from - 1e-9) found = stage
  return found
}

/** The second stage that these counts lead to; undefined where not adaptive, or while the first stage is not counted. */
export function stageTaken(section: Section, counts: Record<string, Counted>): Stage | undefined {
  const first = section.stages && rawOf(section.groups, counts)
  return first === undefined ? undefined : stageFor(section, first)
}

/** The item groups that a candidate with these counts meets: all of them, unless the section is adaptive. */
export const groupsMet = (section: Section, counts: Record<string, Counted>): ItemGroup[] => [
  ...section.groups,
  ...(stageTaken(section, counts)?.groups ?? []),
]

/** Raw score of a section from the counts of its item groups; undefined where a group that was met has none. */
export function rawOfSection(section: Section, counts: Record<string, Counted>): number | undefined {
  if (section.stages && !stageTaken(section, counts)) return undefined
  return rawOf(groupsMet(section, counts), counts)
}

const itemsIn = (groups: ItemGroup[]): number => groups.reduce((sum, { items }) => sum + items, 0)

/** The ways through a section: one, or one for each second stage. */
export const waysThrough = (section: Section): ItemGroup[][] =>
  section.stages ? section.stages.map(({ groups }) => [...section.groups, ...groups]) : [section.groups]

/** Items that a candidate answers; of an adaptive section, those of its longest way. */
export const itemsOf = (section: Section): number => Math.max(...waysThrough(section).map(itemsIn))

const fullMarks = (groups: ItemGroup[]): number =>
  groups.reduce((sum, group) => sum + group.items * group.perRight, 0)

/** What a section scores at worst: every item answered wrong. */
export const lowestRaw = (section: Section): number =>
  -groupsOf(section).reduce((sum, group) => sum + (group.items || 0) * (group.perWrong || 0), 0)

export const highestRaw = (section: Section): number => Math.max(...waysThrough(section).map(fullMarks))

/**
 * What one item earns on average when it is not known: a blind guess, or the blank where that pays better. Written and
 * numeric answers cannot be guessed.
 */
export function blindGuess(group: ItemGroup): number {
  const blank = group.perBlank ?? 0
  if (group.kind !== 'choice' || !group.choices) return Math.max(blank, 0)
  const { choices, perRight, perWrong } = group
  return Math.max(blank, perRight / choices - (perWrong * (choices - 1)) / choices)
}

/** Expected raw score of item groups at a share of questions known, 0 to 1, the rest guessed where guessing pays. */
export const expectedRawOf = (groups: ItemGroup[], known: number): number =>
  groups.reduce(
    (sum, group) => sum + group.items * (known * group.perRight + (1 - known) * blindGuess(group)),
    0,
  )

/** Chance that an item of a group comes right by a guess alone. */
export const guessIn = ({ kind, choices }: ItemGroup): number =>
  kind === 'choice' && choices ? 1 / choices : 0

/** Options of the items of `groups`, as the mean chance of a guess has it; infinite where nothing can be guessed. */
export function choicesOf(groups: ItemGroup[]): number {
  const guess = groups.reduce(
    (sum, group) => sum + (group.kind === 'choice' && group.choices ? group.items / group.choices : 0),
    0,
  )
  return guess > 0 ? itemsIn(groups) / guess : Infinity
}

/** The item groups of a section, those of every second stage included. */
export const groupsOf = ({ groups, stages = [] }: Section): ItemGroup[] => [
  ...groups,
  ...stages.flatMap((stage) => stage.groups),
]
