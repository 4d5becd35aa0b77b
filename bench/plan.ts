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

const heap = (work: () => unknown): string => {
  const begun = process.memoryUsage().heapUsed
  const kept = work()
  const grown = process.memoryUsage().heapUsed - begun
  return kept ? (Math.max(0, grown) / 1e6).toFixed(1) : ''
}
table(
  'Memory: heap that making and holding a plan takes, before anything is collected',
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
