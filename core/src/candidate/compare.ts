import type { PlanSession, SessionKind, Settings } from '@climber/contract'
import { examShares } from '../exam/coverage'
import { isTest, isWhole, topicsOf } from '../sessions/session'
import { assess } from './assessment'
import type { CandidateRecord, Moment } from './moment'
import type { Odds } from './odds'
import { type OthersSay, othersSay, varianceOf } from './others'
import { previewPlan } from './preview'

/** One way to prepare, as a plan would come out of it. */
export interface Compared {
  title: string
  odds?: number
  /** By how much the odds differ between plans made in the same way with other luck, as a standard deviation. */
  luck?: number
  /** What learners of other kinds than the model score with such plans, in points of the composite. */
  others?: OthersSay
  forecast?: { mean: number; low: number; high: number }
  hours: Partial<Record<SessionKind, number>>
  total: number
  tests: number
  /** Hours of the fullest week, and of an average one. */
  fullest: number
  average: number
  byWeek: { from: string; hours: number }[]
  /** Topics of the exam that no session treats, and the share of the exam they are. */
  untouched: { topics: string[]; share: number }
  notices: number
}

const open = ({ status }: PlanSession) => status === 'planned' || status === 'running'

/** So many plans are made of each way, so that the luck of their making is seen. */
const makings = 3

/** Plans made from the same record under different settings, side by side; nothing is stored. The first way is what others are held against. */
export function compareSchools(
  record: CandidateRecord,
  now: Moment,
  seed: number,
  ways: { title: string; settings: Settings }[],
): Compared[] {
  const made = ways.flatMap(({ title, settings }) => {
    const own = { ...record, settings }
    const found = Array.from({ length: makings }, (_, luck) => previewPlan(own, now, seed + luck))
    const plans = found.flatMap((one) => (one ? [one] : []))
    return plans[0] ? [{ title, plans, first: plans[0] }] : []
  })
  const others = othersSay(
    assess(record, now),
    made.map(({ plans }) => plans.map(({ plan }) => plan)),
  )
  return made.map(({ title, plans, first: { plan, odds } }, way): Compared => {
    const chances = plans.flatMap((one) => one.odds?.odds ?? [])
    const sessions = plan.sessions.filter(open)
    const hours: Compared['hours'] = {}
    for (const { kind, minutes } of sessions) hours[kind] = (hours[kind] ?? 0) + minutes / 60
    const byWeek = plan.weeks.map(({ from, plannedMinutes }) => ({ from, hours: plannedMinutes / 60 }))
    const total = sessions.reduce((sum, { minutes }) => sum + minutes / 60, 0)
    const met = new Set(sessions.flatMap(topicsOf))
    const shares = examShares(record.exam)
    const missed = record.exam.topics.flatMap(({ id, title }, at) =>
      met.has(id) ? [] : [{ title, share: shares[at]! }],
    )
    return {
      title,
      odds: odds?.odds,
      luck: chances.length > 1 ? Math.sqrt(varianceOf(chances)) : undefined,
      others: others[way],
      forecast: rangeOf(odds),
      hours,
      total,
      tests: sessions.filter(
        (session) => isTest(session) && isWhole(session) && (session.split?.number ?? 1) === 1,
      ).length,
      fullest: Math.max(0, ...byWeek.map((week) => week.hours)),
      average: byWeek.length ? total / byWeek.length : 0,
      byWeek,
      untouched: {
        topics: missed.map((topic) => topic.title),
        share: missed.reduce((sum, topic) => sum + topic.share, 0),
      },
      notices: plan.notices.length,
    }
  })
}

const rangeOf = (odds: Odds | undefined) =>
  odds && { mean: odds.forecast.mean, low: odds.forecast.low, high: odds.forecast.high }
