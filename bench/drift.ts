import { alarms } from '../core/test/driftingTests'
import { table } from './table'

/** How often drift is found where there is none, and where accuracy falls by 15 points from two thirds on. */
const candidates = Number(process.env.CLIMBER_TRIES ?? 1000)
const percent = (share: number) => `${(100 * share).toFixed(1)}%`
const rows: string[][] = []
for (const items of [30, 60, 120])
  for (const tests of [1, 2, 4, 8]) {
    const none = alarms({ items, fall: 0, from: 2 / 3, error: 0 }, tests, candidates, 1)
    const misjudged = alarms({ items, fall: 0, from: 2 / 3, error: 0.1 }, tests, candidates, 2)
    const planted = alarms({ items, fall: 0.15, from: 2 / 3, error: 0 }, tests, candidates, 3)
    const unsure = alarms({ items, fall: 0.15, from: 2 / 3, error: 0.1 }, tests, candidates, 5)
    const strong = alarms({ items, fall: 0.3, from: 2 / 3, error: 0 }, tests, candidates, 4)
    rows.push([
      String(items),
      String(tests),
      percent(none.share),
      percent(misjudged.share),
      `${percent(planted.share)}, ${planted.off}`,
      `${percent(unsure.share)}, ${unsure.off}`,
      `${percent(strong.share)}, ${strong.off}`,
    ])
  }
table(
  `Drift, ${candidates} candidates a line`,
  [
    'items',
    'tests',
    'no drift: alarms',
    'topics known to .1: alarms',
    '15 points: found, off at median',
    '15 points, topics known to .1',
    '30 points: found, off at median',
  ],
  rows,
)
