import type { Conversion, Section } from '@climber/contract'
import { convert } from './conversion'
import { itemsOf, rawOfGroup } from './raw'

/** Every raw score that some mix of right, wrong and blank reaches, ascending. Equal ones within 1e-6 are one. */
export function reachableRaws(section: Section): number[] {
  let sums = new Map<number, number>([[0, 0]])
  for (const group of section.groups) {
    const own = new Map<number, number>()
    for (let right = 0; right <= group.items; right++)
      for (let wrong = 0; wrong + right <= group.items; wrong++) {
        const raw = rawOfGroup(group, { right, wrong })
        own.set(Math.round(raw * 1e6), raw)
      }
    const next = new Map<number, number>()
    for (const before of sums.values())
      for (const raw of own.values()) next.set(Math.round((before + raw) * 1e6), before + raw)
    sums = next
  }
  return [...sums.values()].sort((a, b) => a - b)
}

/** The least reachable raw whose *rounded* scaled score is at least `scaled`; undefined where none is. */
export function rawNeeded(section: Section, conversion: Conversion, scaled: number): number | undefined {
  const raws = reachableRaws(section)
  let low = 0
  let high = raws.length
  while (low < high) {
    const middle = (low + high) >> 1
    if (convert(conversion, raws[middle]!) >= scaled) high = middle
    else low = middle + 1
  }
  return raws[low]
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
    section.groups.some(
      ({ perRight, perWrong }) => perRight !== first.perRight || perWrong !== first.perWrong,
    )
  )
    return undefined
  const items = itemsOf(section)
  const reaches = (wrong: number, blank: number) =>
    convert(conversion, rawOfGroup(first, { right: items - wrong - blank, wrong })) >= scaled
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
