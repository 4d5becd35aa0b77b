import type { ItemGroup, Section } from '@climber/contract'
import { square } from '../exact/functions'
import { normalCdf } from '../exact/normal'
import { convertExactly } from './conversion'
import { blindGuess, expectedRawOf } from './raw'

/** Variance of the raw score of item groups at a share of questions known: independent items, two outcomes each. */
export const rawVariance = (groups: ItemGroup[], known: number): number =>
  groups.reduce((sum, group) => {
    const p = Math.min(1, Math.max(0, known))
    return sum + group.items * p * (1 - p) * square(group.perRight - Math.min(0, blindGuess(group)))
  }, 0)

/** Chance of each second stage at a share of questions known; the first-stage score taken as normal. */
export function stageChances(section: Section, known: number): number[] {
  const stages = section.stages ?? []
  const mean = expectedRawOf(section.groups, known)
  const sd = Math.sqrt(Math.max(rawVariance(section.groups, known), 1e-6))
  const half = Math.min(...section.groups.map(({ perRight }) => perRight)) / 2
  /** P(first-stage raw >= from), and 1 for the first stage listed. */
  const reaches = stages.map(({ from }, at) => (at === 0 ? 1 : normalCdf((mean - from + half) / sd)))
  return reaches.map((reach, at) => reach - (reaches[at + 1] ?? 0))
}

/** The place of the greatest chance, the first of equal ones. */
export const likeliest = (chances: number[]): number => chances.indexOf(Math.max(...chances))

/**
 * Expected scaled score of a section, before rounding, at a share of questions known. An adaptive section's is the mean
 * over its second stages, each by its own table, weighted by the chance of being sent there.
 */
export function scaledAt(section: Section, known: number): number {
  if (!section.stages) return convertExactly(section.conversion, expectedRawOf(section.groups, known))
  const first = expectedRawOf(section.groups, known)
  const chances = stageChances(section, known)
  return section.stages.reduce(
    (sum, stage, at) =>
      sum + chances[at]! * convertExactly(stage.conversion, first + expectedRawOf(stage.groups, known)),
    0,
  )
}
