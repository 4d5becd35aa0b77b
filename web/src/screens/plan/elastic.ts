import { scaleLinear } from 'd3'

/** A stretch of a day, in minutes after midnight. */
export type Stretch = readonly [from: number, to: number]

/** A day's times along a line from which its empty hours are folded away. Places are pixels from the line's beginning. */
export interface Elastic {
  stretches: readonly Stretch[]
  /** Full hours in sight. */
  hours: number[]
  /** What is folded between the stretches: `seam` pixels each. */
  folds: Stretch[]
  /** Where a minute lies; what is outside lies at the nearer end. */
  at: (minute: number) => number
  /** The minute that lies there. */
  minuteAt: (pixels: number) => number
}

/** Minutes of nothing from which on they are folded. */
const least = 45
/** Pixels that a fold takes: room for the time at which the day goes on. */
export const seam = 34
/** Pixels of a minute at most: a day with little in it does not swell. */
const mostPerMinute = 5
/** A day in which there is nothing at all. */
const empty: readonly Stretch[] = [[9 * 60, 18 * 60]]

/** The stretches of a day in which something is, or may be: those near each other joined, to full quarters of an hour. */
export function stretchesOf(used: readonly Stretch[]): Stretch[] {
  const all: [number, number][] = []
  for (const [from, to] of [...used].sort((a, b) => a[0] - b[0])) {
    const [start, end] = [Math.floor(from / 15) * 15, Math.min(1440, Math.ceil(to / 15) * 15)]
    const last = all[all.length - 1]
    if (last && start - last[1] < least) last[1] = Math.max(last[1], end)
    else if (end > start) all.push([start, end])
  }
  return all
}

/** Pixels that a minute takes where so many are there for each of some days: the same on all, so that an hour is as long on each. */
export function perMinuteOf(days: readonly (readonly Stretch[])[], pixels: number): number {
  const each = days
    .filter(({ length }) => length)
    .map(
      (stretches) =>
        (pixels - seam * (stretches.length - 1)) / stretches.reduce((sum, [from, to]) => sum + to - from, 0),
    )
  return Math.max(0.1, Math.min(mostPerMinute, ...each))
}

/** A day's stretches one after another, with a seam between them. */
export function elastic(own: readonly Stretch[], perMinute: number): Elastic {
  const stretches = own.length ? own : empty
  const places: number[] = []
  let along = 0
  for (const [from, to] of stretches) {
    places.push(along, along + (to - from) * perMinute)
    along += (to - from) * perMinute + seam
  }
  const scale = scaleLinear(stretches.flat(), places).clamp(true)
  const within = (hour: number) => stretches.some(([from, to]) => hour * 60 >= from && hour * 60 <= to)
  return {
    stretches,
    hours: Array.from({ length: 25 }, (_, hour) => hour).filter(within),
    folds: stretches.slice(1).map(([next], before): Stretch => [stretches[before]![1], next]),
    at: scale,
    minuteAt: (where) => scale.invert(where),
  }
}
