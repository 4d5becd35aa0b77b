import { scaleLinear } from 'd3'

/** A stretch of a day, in minutes after midnight. */
export type Stretch = readonly [from: number, to: number]

/** Times of day along a line whose empty hours are folded away. */
export interface Elastic {
  /** The first and the last minute that it shows. */
  from: number
  to: number
  /** Full hours in sight, those at which a fold begins or ends among them. */
  hours: number[]
  /** What is folded: each of them takes `seam` of the line. */
  folds: Stretch[]
  /** Where a minute lies, from 0 to 1; what is outside lies at the nearer end. */
  at: (minute: number) => number
  /** The minute that lies there. */
  minuteAt: (share: number) => number
}

/** Minutes of nothing from which on they are folded. */
const least = 45
/** Share of the line that a fold takes. */
export const seam = 0.012

/** What is used, from the first to the last, those near each other joined; to full quarters of an hour. */
function joined(used: readonly Stretch[]): [number, number][] {
  const all: [number, number][] = []
  for (const [from, to] of [...used].sort((a, b) => a[0] - b[0])) {
    const [start, end] = [Math.floor(from / 15) * 15, Math.min(1440, Math.ceil(to / 15) * 15)]
    const last = all[all.length - 1]
    if (last && start - last[1] < least) last[1] = Math.max(last[1], end)
    else if (end > start) all.push([start, end])
  }
  return all
}

/**
 * A line for the times of day in which something is, or may be: between them, three quarters of an hour and more of nothing are
 * folded to a seam. With nothing at all, from nine to six.
 */
export function elastic(used: readonly Stretch[]): Elastic {
  const open = joined(used)
  if (!open.length) open.push([9 * 60, 18 * 60])
  const minutes = open.reduce((sum, [from, to]) => sum + to - from, 0)
  const each = (1 - seam * (open.length - 1)) / minutes
  const shares: number[] = []
  let share = 0
  for (const [from, to] of open) {
    shares.push(share, share + (to - from) * each)
    share += (to - from) * each + seam
  }
  const scale = scaleLinear(open.flat(), shares).clamp(true)
  const within = (hour: number) => open.some(([from, to]) => hour * 60 >= from && hour * 60 <= to)
  return {
    from: open[0]![0],
    to: open[open.length - 1]![1],
    hours: Array.from({ length: 25 }, (_, hour) => hour).filter(within),
    folds: open.slice(1).map(([next], before): Stretch => [open[before]![1], next]),
    at: scale,
    minuteAt: (where) => scale.invert(where),
  }
}
