import { setFlagsFromString } from 'node:v8'
import { runInNewContext } from 'node:vm'
import { overview, checkPlan, makePlan, type PlanInput } from '@climber/core'
import { inputsOf } from '../core/test/arbitrary'
import { candidate, time, today } from './shared/candidate'
import { table } from './table'

const rows: (string | number)[][] = []
for (const weeks of [1, 4, 12, 26, 52, 104])
  for (const topics of [20, 60, 200]) {
    const record = candidate(weeks, topics)
    const make = (): PlanInput => inputsOf({ record, minute: 420, seed: 1 }, today).plan
    const plan = makePlan(make())
    const { check } = inputsOf({ record, minute: 420, seed: 1 }, today)
    rows.push([
      weeks,
      topics,
      time(() => makePlan(make())).toFixed(1),
      plan.sessions.length,
      plan.sessions.filter(({ kind }) => kind === 'test').length,
      checkPlan(check, plan).length,
    ])
  }
table(
  'A plan from the stored record, core time (median of 9)',
  ['weeks', 'topics', 'ms', 'sessions', 'tests', 'rules broken'],
  rows,
)

setFlagsFromString('--expose-gc')
const collect = runInNewContext('gc') as () => void
/** Megabytes that what some work makes takes while it is held, as the mean of so many. */
const held = 20
const heap = (work: () => unknown): string => {
  collect()
  const begun = process.memoryUsage().heapUsed
  const kept = Array.from({ length: held }, work)
  collect()
  const grown = process.memoryUsage().heapUsed - begun
  return (grown / kept.length / 1e6).toFixed(2)
}
table(
  'Memory: heap that a plan takes while it is held',
  ['weeks', 'topics', 'MB'],
  [12, 52, 104].map((weeks) => {
    const input = inputsOf({ record: candidate(weeks, 60), minute: 420, seed: 1 }, today).plan
    return [weeks, 60, heap(() => makePlan(input))]
  }),
)

const record = candidate(12, 14)
table(
  'What the screens show of one candidate, 12 weeks, 14 topics',
  ['work', 'ms'],
  [
    [
      'overview (verdict, levers, outlook, odds)',
      time(() => overview(record, { date: today, minute: 420 })).toFixed(1),
    ],
  ],
)
