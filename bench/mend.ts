import { assess, dateOf, dayNumber, mend, makePlan, planInput } from '@climber/core'
import { candidate, time, today } from './shared/candidate'
import { table } from './table'

const rows: (string | number)[][] = []
for (const weeks of [4, 12, 26, 52, 104]) {
  const record = candidate(weeks, 60)
  const first = assess(record, { date: today, minute: 420 })
  const plan = makePlan(planInput(first, first.sitting!, 1))
  const on = dateOf(dayNumber(today) + 10)
  const lived = {
    ...record,
    plan: {
      ...plan,
      sessions: plan.sessions.map((session) =>
        session.date < dateOf(dayNumber(on) - 1) ? { ...session, status: 'done' as const } : session,
      ),
    },
  }
  const ms = time(() => {
    const now = assess(lived, { date: on, minute: 420 })
    return mend(planInput(now, now.sitting!, 1), lived.plan)
  })
  const now = assess(lived, { date: on, minute: 420 })
  const { diff } = mend(planInput(now, now.sitting!, 1), lived.plan)
  rows.push([
    weeks,
    plan.sessions.length,
    ms.toFixed(1),
    diff.moved.length,
    diff.added.length,
    diff.dropped.length,
    diff.kept,
  ])
}
table(
  'One slipped day mended, 60 topics, from the stored record (median of 9)',
  ['weeks', 'sessions', 'ms', 'moved', 'added', 'dropped', 'stay'],
  rows,
)
