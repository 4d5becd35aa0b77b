import { exp } from '../exact/functions'
/**
 * Exponential forgetting between touches (Ebbinghaus 1885; Wickelgren 1974) with a stability that grows with spaced
 * success (Cepeda et al. 2006). Stability in days; a touch on the heels of the last one does not count as spaced.
 */
export const firstStability = 4
export const growth = 1.8
/** A touch is spaced when at least this share of the stability has passed. */
const spacedShare = 0.25
const floor = 0.3

export interface Memory {
  stability: number
  lastDay: number
}

export const retention = (memory: Memory, day: number): number =>
  exp(-Math.max(0, day - memory.lastDay) / memory.stability)

/** Stability after one more successful touch `gap` days after the last; 0 stands for a topic not touched yet. */
export function afterTouch(stability: number, gap: number): number {
  if (!stability) return firstStability
  return gap >= Math.max(1, stability * spacedShare) ? stability * growth : stability
}

/** The memory after one more successful touch. */
export const touched = (memory: Memory | undefined, day: number): Memory => ({
  stability: afterTouch(memory?.stability ?? 0, memory ? day - memory.lastDay : 0),
  lastDay: day,
})

/** What can be used of knowledge k at retention R: k x (0.3 + 0.7 R). */
export const effective = (known: number, kept: number): number => known * (floor + (1 - floor) * kept)

/** Retention on a day of what was touched on `days`, ascending; each touch a success. */
export function keptAfter(days: number[], day: number): number {
  const memory = days.reduce<Memory | undefined>(touched, undefined)
  return memory ? retention(memory, day) : 1
}
