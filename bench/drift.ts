import { randomFrom } from '@climber/core'
import { calibration } from '../core/src/attempts/says/calibration'
import { changedAnswers } from '../core/src/attempts/says/changes'
import { conditionEffect } from '../core/src/attempts/says/conditions'
import type { ReadItem } from '../core/src/attempts/says/item'
import { chanceOfRun, leastRun, missRuns } from '../core/src/attempts/says/runs'
import { alarms, plantedSection } from '../core/test/driftingTests'
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

// The other claims, where there is nothing to claim: how often each is made, of as many candidates.
const random = randomFrom(99)
const normal = () => random() + random() + random() + random() + random() + random() - 3
const share = (claimed: (candidate: number) => boolean): string => {
  let count = 0
  for (let one = 0; one < candidates; one++) if (claimed(one)) count += 1
  return percent(count / candidates)
}
const nothing = (items: number, candidate: number) =>
  plantedSection({ items, fall: 0, from: 2 / 3, error: 0 }, 5000 + candidate)
const runs = (items: number) =>
  share((one) => {
    const own = nothing(items, one)
    const longest = Math.max(0, ...missRuns('one', own).map((run) => run.items.length))
    return (
      longest >= leastRun &&
      chanceOfRun(
        own.map(({ expected }) => expected),
        longest,
      ) <= 0.05
    )
  })
const changes = (many: number) =>
  share((one) => {
    const own = nothing(many, one).map((item): ReadItem => {
      const toRight = random() < 0.5
      return {
        ...item,
        outcome: toRight ? 'right' : 'wrong',
        answer: toRight ? 'A' : 'B',
        key: 'A',
        changes: toRight ? ['B', 'A'] : ['A', 'B'],
      }
    })
    return changedAnswers(own).p <= 0.05
  })
const conditions = (tests: number) =>
  share((one) => {
    const own = Array.from({ length: tests }, (_, at) => ({
      id: String(at),
      residual: normal(),
      held: at % 2 === 0,
    }))
    return (conditionEffect(own, one)?.p ?? 1) <= 0.05
  })
/** How often the 80% range of what is right among the doubtful holds how often they are right in truth. */
const calibrated = (items: number, truth: number) =>
  share((one) => {
    const own = nothing(items, one).map((item): ReadItem => ({
      ...item,
      outcome: random() < truth ? 'right' : 'wrong',
      confidence: 'between two',
    }))
    const found = calibration(own).find(({ confidence }) => confidence === 'between two')!
    return found.low <= truth && truth <= found.high
  })
table(
  `Other claims where there is nothing, ${candidates} candidates`,
  ['what', 'size', 'claimed (range: holds the truth)'],
  [
    ...[30, 60, 120].map((items) => ['a run of misses', `${items} items`, runs(items)]),
    ...[5, 12, 30].map((many) => ['changing helps or harms', `${many} changes`, changes(many)]),
    ...[6, 10, 20].map((tests) => ['a condition', `${tests} tests`, conditions(tests)]),
    ...[10, 30, 100].map((items) => ['range of the doubtful', `${items} items`, calibrated(items, 0.5)]),
  ],
)
