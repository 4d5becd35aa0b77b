import { Attempt, type CandidateRecord, type Counts } from '@climber/contract'
import { assess, dateOf, dayNumber, makePlan, overview, planInput } from '@climber/core'
import { candidate, today } from './shared/candidate'
import { numbers } from './shared/numbers'
import { median, table } from './table'

/**
 * The overview of a long record: tests of 120 items, each item's topic known, over 60 topics, and a plan that was lived. Each run has a
 * record of its own, so that nothing is remembered of it.
 */
const first = dayNumber(today)
const topicsThen = 60

function longRecord(tests: number, seed: number): CandidateRecord {
  const random = numbers(seed + 1)
  const fresh = candidate(12, topicsThen)
  const exam = {
    ...fresh.exam,
    sections: fresh.exam.sections.map((section) => ({
      ...section,
      groups: section.groups.map((group) => ({ ...group, items: 60 })),
    })),
  }
  const record = { ...fresh, exam }
  const start = assess(record, { date: today, minute: 420 })
  const plan = makePlan(planInput(start, start.sitting!, 1))
  const on = dateOf(first + 6 * 7)
  const attempts = Array.from({ length: tests }, (_, at) => {
    const none = (): Counts => ({ right: 0, wrong: 0, blank: 0, notReached: 0 })
    const groups: Record<string, Counts> = {}
    const topics: Record<string, Counts> = {}
    for (const section of exam.sections)
      for (let item = 0; item < 60; item++) {
        const own = exam.topics.filter((topic) => topic.section === section.id)
        const topic = own[item % own.length]!
        const outcome = random() < 0.5 + at / 60 ? 'right' : random() < 0.8 ? 'wrong' : 'blank'
        ;(groups[section.groups[0]!.id] ??= none())[outcome]++
        ;(topics[topic.id] ??= none())[outcome]++
      }
    return Attempt.parse({
      id: `00000000-0000-4000-8000-${String(at + 1).padStart(12, '0')}`,
      kind: 'practice',
      date: dateOf(first + 1 + 2 * at),
      counts: { groups, topics },
    })
  })
  return {
    ...record,
    attempts: [...record.attempts, ...attempts],
    plan: {
      ...plan,
      sessions: plan.sessions.map((session) =>
        session.date < on ? { ...session, status: 'done' as const } : session,
      ),
    },
  }
}

const rows = [0, 6, 20].map((tests) => {
  const now = { date: dateOf(first + 6 * 7), minute: 420 }
  const times = Array.from({ length: 9 }, (_, seed) => {
    const record = longRecord(tests, seed)
    const begun = performance.now()
    assess(record, now)
    const worked = performance.now()
    overview(record, now)
    return [worked - begun, performance.now() - begun]
  }).slice(2)
  return [tests, ...[0, 1].map((at) => median(times.map((one) => one[at]!)).toFixed(0))]
})
table(
  `Overview of 120 items a test, ${topicsThen} topics (ms, median of 7)`,
  ['tests', 'learner', 'all of the overview'],
  rows,
)
