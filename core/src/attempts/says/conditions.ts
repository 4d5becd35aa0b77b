import { randomFrom, shuffle } from '../../exact/random'

/** One test: what it scored beyond what was expected, and whether a condition held; undefined where nobody said. */
export interface UnderCondition {
  id: string
  residual: number
  held: boolean | undefined
}
/** What tests under a condition scored against those without. */
export interface ConditionEffect {
  with: string[]
  without: string[]
  /** Mean residual with the condition less that without. */
  difference: number
  /** Chance of one as large in either direction where the condition does nothing, by permutation. */
  p: number
}

/** Fewer tests on either side say nothing. */
export const leastOfEach = 3
const draws = 1999

const mean = (values: readonly number[]): number => values.reduce((a, b) => a + b, 0) / values.length

/**
 * What a condition (the exam's hour, tiredness, a place) did to scores, over tests of one candidate. Undefined where there are
 * fewer than `leastOfEach` tests with it or without. Two-sided permutation test of the difference of means; `seed` draws.
 */
export function conditionEffect(tests: readonly UnderCondition[], seed: number): ConditionEffect | undefined {
  const said = tests.filter(({ held }) => held !== undefined)
  const under = said.filter(({ held }) => held)
  const other = said.filter(({ held }) => !held)
  if (under.length < leastOfEach || other.length < leastOfEach) return undefined
  const all = [...under, ...other].map(({ residual }) => residual)
  const differenceOf = (values: readonly number[]) =>
    mean(values.slice(0, under.length)) - mean(values.slice(under.length))
  const difference = differenceOf(all)
  const random = randomFrom(seed)
  const mixed = [...all]
  let asLarge = 0
  for (let draw = 0; draw < draws; draw++) {
    shuffle(mixed, random)
    if (Math.abs(differenceOf(mixed)) >= Math.abs(difference) - 1e-9) asLarge += 1
  }
  return {
    with: under.map(({ id }) => id),
    without: other.map(({ id }) => id),
    difference,
    p: (asLarge + 1) / (draws + 1),
  }
}
