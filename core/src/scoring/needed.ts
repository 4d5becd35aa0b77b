import type { Conversion, ItemGroup, Section, Stage } from '@climber/contract'
import { convert } from './conversion'
import { itemsOf, rawOfGroup } from './raw'

/** Raw scores are told apart to a millionth of a mark. */
const grain = 1e6

/** What one group can earn: every mix of right, wrong and blank; whole marks of written answers. */
function ownRaws(group: ItemGroup): Map<number, number> {
  const own = new Map<number, number>()
  const keep = (raw: number) => own.set(Math.round(raw * grain), raw)
  if (group.kind === 'written') {
    const most = group.items * group.perRight
    for (let marks = 0; marks < most; marks++) keep(marks)
    keep(most)
    for (let blank = 1; blank <= group.items && group.perBlank; blank++)
      for (let marks = 0; marks <= (group.items - blank) * group.perRight; marks++)
        keep(rawOfGroup(group, { right: 0, wrong: 0, blank, marks }))
    return own
  }
  for (let right = 0; right <= group.items; right++)
    for (let wrong = 0; wrong + right <= group.items; wrong++)
      keep(rawOfGroup(group, { right, wrong, blank: group.items - right - wrong }))
  return own
}

/** Every raw score that some mix of right, wrong and blank reaches, ascending. Equal ones within 1e-6 are one. */
export function reachableRaws({ groups }: Pick<Section, 'groups'>): number[] {
  let sums = new Map<number, number>([[0, 0]])
  for (const group of groups) {
    const own = ownRaws(group)
    const next = new Map<number, number>()
    for (const before of sums.values())
      for (const raw of own.values()) next.set(Math.round((before + raw) * grain), before + raw)
    sums = next
  }
  return [...sums.values()].sort((a, b) => a - b)
}

/** The first of ascending values for which `holds`, which stays true once it is. */
function firstWhere(values: number[], holds: (value: number) => boolean): number | undefined {
  let low = 0
  let high = values.length
  while (low < high) {
    const middle = (low + high) >> 1
    if (holds(values[middle]!)) high = middle
    else low = middle + 1
  }
  return values[low]
}

/** The least reachable raw whose *rounded* scaled score is at least `scaled`; undefined where none is. */
export const rawNeeded = (
  section: Pick<Section, 'groups'>,
  conversion: Conversion,
  scaled: number,
): number | undefined =>
  firstWhere(reachableRaws(section), (raw) => convert(conversion, raw) >= scaled - 1e-9)

export interface StageNeed {
  stage: string
  /** Least raw marks of the first stage that lead here; nothing for the lowest. */
  first?: number
  /** Least raw marks of both stages together, by this stage's table; undefined where its table does not reach so far. */
  raw?: number
}

/**
 * What each second stage of an adaptive section asks for a scaled score: the marks of the first stage that lead to it,
 * and the least total. `tables` are by second stage (a form's own, or the format's).
 */
export function stageNeeds(
  section: Section,
  scaled: number,
  tables: Record<string, Conversion> = {},
): StageNeed[] {
  const first = reachableRaws(section)
  const stages = section.stages ?? []
  return stages.map((stage: Stage, at) => {
    const above = stages[at + 1]?.from ?? Infinity
    const here = first.filter((raw) => (at === 0 || raw >= stage.from - 1e-9) && raw < above - 1e-9)
    const second = reachableRaws(stage)
    const table = tables[stage.id] ?? stage.conversion
    // Sums of both lists, least first: the smallest total that converts high enough.
    let raw: number | undefined
    for (const own of here) {
      const rest = firstWhere(second, (more) => convert(table, own + more) >= scaled - 1e-9)
      if (rest !== undefined && (raw === undefined || own + rest < raw)) raw = own + rest
    }
    return { stage: stage.id, first: at === 0 ? undefined : here[0], raw }
  })
}

/**
 * For each number of wrong answers, the most blanks that still reach `scaled`: `[{ wrong, blank }]`, wrong from 0 up to
 * the last that is possible. Empty where even a full paper falls short. Only for sections whose items are all marked
 * alike; undefined for others, where "one wrong" has no single price.
 */
export function lossBudget(
  section: Section,
  conversion: Conversion,
  scaled: number,
): { wrong: number; blank: number }[] | undefined {
  const first = section.groups[0]!
  if (
    section.stages ||
    section.groups.some(
      ({ kind, perRight, perWrong, perBlank = 0 }) =>
        kind === 'written' ||
        perRight !== first.perRight ||
        perWrong !== first.perWrong ||
        perBlank !== (first.perBlank ?? 0),
    )
  )
    return undefined
  const items = itemsOf(section)
  const reaches = (wrong: number, blank: number) =>
    convert(conversion, rawOfGroup(first, { right: items - wrong - blank, wrong, blank })) >= scaled - 1e-9
  const budget: { wrong: number; blank: number }[] = []
  let blank = items
  for (let wrong = 0; wrong <= items; wrong++) {
    blank = Math.min(blank, items - wrong)
    while (blank >= 0 && !reaches(wrong, blank)) blank--
    if (blank < 0) break
    budget.push({ wrong, blank })
  }
  return budget
}
