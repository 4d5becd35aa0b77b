import type { Cause } from '@climber/contract'
import { wilson } from '../attempts/says/calibration'
import { type CauseGroup, causeGroup } from './causes'
import type { ReviewItem } from './item'

/** A reviewed test: how many items were sat, and those with a cause. */
export interface ReviewedTest {
  id: string
  title: string
  date: string
  sat: number
  items: ReviewItem[]
}
export interface CauseOver {
  cause: Cause
  /** For each test, oldest first: items with this cause, and the marks that they lost. */
  tests: { items: number; marks: number }[]
  items: number
  marks: number
  /** Rate of the later half of the tests over that of the earlier, with its 80% range; undefined below two tests. */
  trend?: { ratio: number; low: number; high: number; says: 'falling' | 'rising' | 'neither' }
}

/**
 * How many times as often something came up later as earlier: `later` in so many items against `earlier` in so many. Given both
 * together, the later are binomial; the 80% range is that of their share (Wilson 1927) turned into a ratio of rates. A half is added
 * to both counts for the ratio itself, so that none of one is no infinity.
 */
export function rateRatio(
  later: { events: number; of: number },
  earlier: { events: number; of: number },
): { ratio: number; low: number; high: number } {
  const exposure = earlier.of / later.of
  const odds = (share: number) => (share >= 1 ? Infinity : share / (1 - share))
  const { low, high } = wilson(later.events, later.events + earlier.events)
  return {
    ratio: ((later.events + 0.5) / (earlier.events + 0.5)) * exposure,
    low: odds(low) * exposure,
    high: odds(high) * exposure,
  }
}

const total = (tests: readonly { items: number; marks: number }[], of: 'items' | 'marks') =>
  tests.reduce((sum, one) => sum + one[of], 0)

/** Points lost by cause over tests, oldest first, and whether they fall. Causes that no test had are left out. */
export function causesOver(tests: readonly ReviewedTest[]): CauseOver[] {
  const causes = [...new Set(tests.flatMap(({ items }) => items.flatMap(({ note }) => note?.cause ?? [])))]
  const half = Math.floor(tests.length / 2)
  return causes
    .filter((cause) => cause !== 'sound')
    .map((cause): CauseOver => {
      const own = tests.map(({ items }) => {
        const mine = items.filter(({ note }) => note?.cause === cause)
        return { items: mine.length, marks: mine.reduce((sum, { lost }) => sum + lost, 0) }
      })
      const of = (from: number, to: number) => ({
        events: total(own.slice(from, to), 'items'),
        of: tests.slice(from, to).reduce((sum, { sat }) => sum + sat, 0),
      })
      const found = { cause, tests: own, items: total(own, 'items'), marks: total(own, 'marks') }
      if (!half) return found
      const ratio = rateRatio(of(half, tests.length), of(0, half))
      const says = ratio.high < 1 ? 'falling' : ratio.low > 1 ? 'rising' : 'neither'
      return { ...found, trend: { ...ratio, says } }
    })
    .sort((a, b) => b.marks - a.marks || b.items - a.items || a.cause.localeCompare(b.cause))
}

export interface Stall {
  /** Points from the first of the last three tests to the last, and what chance alone moves them by, one sd. */
  moved: number
  sd: number
  /** Share of the marks lost to gaps, to care, and to time. */
  shares: Record<CauseGroup, number>
  /** What to work at; undefined where none clearly leads. */
  lies?: CauseGroup
  marks: number
}

/** Tests that show that a score stands still. */
const stallTests = 3

/**
 * Why a score stands still, or undefined while it moves: over the last three tests it rose by less than chance alone moves the
 * difference of two (`sd` is that of one test), and reviews say what the marks went to. A group of causes leads where it has at
 * least half of the marks and the 80% range of its share of the items keeps above a third.
 */
export function stallOf(
  scores: readonly number[],
  sd: number,
  tests: readonly ReviewedTest[],
): Stall | undefined {
  const last = scores.slice(-stallTests)
  if (last.length < stallTests) return undefined
  const between = sd * Math.SQRT2
  const moved = last[last.length - 1]! - last[0]!
  if (moved >= between) return undefined
  const caused = tests.slice(-stallTests).flatMap(({ items }) =>
    items.flatMap((item) => {
      const group = item.note?.cause && causeGroup(item.note.cause)
      return group && item.lost > 0 ? [{ group, lost: item.lost }] : []
    }),
  )
  const marks = caused.reduce((sum, { lost }) => sum + lost, 0)
  if (!marks) return undefined
  const share = (group: CauseGroup) =>
    caused.reduce((sum, one) => sum + (one.group === group ? one.lost : 0), 0) / marks
  const shares = { gaps: share('gaps'), care: share('care'), time: share('time') }
  const lies = (['gaps', 'care', 'time'] as const).find((group) => {
    const own = caused.filter((one) => one.group === group).length
    return shares[group] >= 0.5 && wilson(own, caused.length).low > 1 / 3
  })
  return { moved, sd: between, shares, marks, ...(lies && { lies }) }
}
