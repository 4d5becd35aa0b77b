import { analyse, checkPlan, dateOf, dayNumber, makePlan, type PlanInput } from '@climber/core'
import { inputsOf } from '../core/test/arbitrary'
import { gardenExam, gardenRecord } from '../core/test/fixture'
import { median, table } from './table'

const today = '2031-03-03'

/** The garden exam grown to `count` topics, and a sitting `weeks` away. */
function candidate(weeks: number, count: number) {
  const topics = Array.from({ length: count }, (_, at) => {
    const like = gardenExam.topics[at % gardenExam.topics.length]!
    const section = at % 2 ? 'ledgers' : 'names'
    return {
      ...like,
      id: `${section}-${at}`,
      section,
      share: 1 / Math.ceil((count - (at % 2)) / 2),
      prerequisites: [],
      hours: 4 + (at % 7),
    }
  })
  const exam = {
    ...gardenExam,
    topics,
    sittings: [{ ...gardenExam.sittings[0]!, date: dateOf(dayNumber(today) + weeks * 7) }],
  }
  return gardenRecord({ exam, diagnosis: { ...gardenRecord().diagnosis, topics: {} } })
}

function time(work: () => unknown, runs = 9): number {
  work()
  return median(
    Array.from({ length: runs }, () => {
      const begun = performance.now()
      work()
      return performance.now() - begun
    }),
  )
}

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

const record = candidate(12, 14)
table(
  'What the screens show of one candidate, 12 weeks, 14 topics',
  ['work', 'ms'],
  [
    [
      'analyse (verdict, levers, outlook, odds)',
      time(() => analyse(record, { date: today, minute: 420 })).toFixed(1),
    ],
  ],
)
