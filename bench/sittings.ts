import {
  bestApproach,
  bestFixedLimit,
  byLeaveTimes,
  fixedLimit,
  LeaveTimes,
  meanOf,
  type PacedPaper,
  sitMany,
  straightThrough,
} from '@climber/core'
import { randomPaper } from '../core/test/randomPapers'
import { median, table } from './table'

/** A paper of four classes with `items` items, in three quarters of the time that everything would take. */
function paperOf(items: number): PacedPaper {
  const classes = [0.9, 0.75, 0.55, 0.3].map((p, at) => ({
    p,
    median: 45 + 15 * at,
    s: 0.5,
    marks: 1,
    wrong: 0,
    blank: 0,
    guess: 0,
    levels: [-3, -2, -1, 0, 1, 2, 3, 4].map((away) => Math.min(0.99, p * (1 + away / 20))),
  }))
  const of = Array.from({ length: items }, (_, at) => at % 4)
  const first = { of, reading: of.map(() => 0), setStart: of.map((_, at) => at), until: items * 58 }
  return { paper: { classes, first }, worth: classes.map(({ marks }) => marks) }
}

/** The random numbers that some sittings draw, drawn in a loop that does nothing else. */
function bareDraws(draws: number): number {
  let sum = 0
  let state = 1
  for (let draw = 0; draw < draws; draw++) {
    state = (state + 0x6d2b79f5) | 0
    let mixed = Math.imul(state ^ (state >>> 15), 1 | state)
    mixed = (mixed + Math.imul(mixed ^ (mixed >>> 7), 61 | mixed)) ^ mixed
    sum = (sum + (mixed ^ (mixed >>> 14))) | 0
  }
  return sum
}
const clock = (work: () => unknown): number => {
  const begun = performance.now()
  work()
  return performance.now() - begun
}

const rows: (string | number)[][] = []
for (const items of [25, 50, 100, 200])
  for (const sittings of [25_000, 100_000]) {
    const own = paperOf(items)
    const times = new LeaveTimes(own)
    for (const [name, approach] of [
      ['straight', straightThrough(own)],
      ['one limit', fixedLimit(own, 70)],
      ['two passes', times.approach({ passes: 2, haste: 1, deferred: 1 })],
    ] as const) {
      const { draws } = sitMany(own.paper, approach, 1000, 1)
      // In turn, since the machine's speed changes from second to second.
      const runs = Array.from({ length: 7 }, () => [
        clock(() => sitMany(own.paper, approach, sittings, 1)),
        clock(() => bareDraws((draws * sittings) / 1000)),
      ])
      const ms = median(runs.map(([simulated]) => simulated!))
      const ratio = median(runs.map(([simulated, bare]) => simulated! / bare!))
      rows.push([
        name,
        items,
        sittings,
        ms.toFixed(0),
        ((items * sittings) / ms / 1000).toFixed(1),
        ((1e6 * ms) / (items * sittings)).toFixed(1),
        ratio.toFixed(1),
      ])
    }
  }
table(
  'Simulated sittings (median of 7)',
  ['way', 'items', 'sittings', 'ms', 'M items a second', 'ns an item', 'times a bare loop'],
  rows,
)

const gains: number[][] = Array.from({ length: 50 }, (_, at) => {
  const own = randomPaper(at + 1)
  const times = new LeaveTimes(own)
  const search = bestApproach(times, 900 + at)
  let step = search.next()
  while (!step.done) step = search.next()
  const fixed = bestFixedLimit(own, 900 + at)
  const marks = [
    fixed,
    ...([1, 2, 3] as const).map((passes) => byLeaveTimes(times, passes, 900 + at)),
    step.value,
  ].map(({ approach }) => meanOf(sitMany(own.paper, approach, 20_000, 5000 + at).raw))
  return marks.slice(1).map((own) => 100 * (own / marks[0]! - 1))
})
table(
  'Over the best single limit of 10 to 400 s, 50 random papers short of time, per cent of its marks',
  ['way', 'mean', 'median', 'worst'],
  ['leave times, one pass', 'two passes', 'three passes', 'best found'].map((name, at) => {
    const own = gains.map((gain) => gain[at]!)
    return [
      name,
      (own.reduce((a, b) => a + b, 0) / own.length).toFixed(1),
      median(own).toFixed(1),
      Math.min(...own).toFixed(2),
    ]
  }),
)
