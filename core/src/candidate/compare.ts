import type { PlanSession, SessionKind, Settings } from '@climber/contract'
import { isTest, isWhole, topicsOf } from '../sessions/session'
import type { CandidateRecord, Moment } from './moment'
import type { Odds } from './odds'
import { previewPlan } from './preview'

/** One way to prepare, as a plan would come out of it. */
export interface Compared {
  title: string
  odds?: number
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

/** Plans made from the same record under different settings, side by side; nothing is stored. */
export function compareSchools(
  record: CandidateRecord,
  now: Moment,
  seed: number,
  ways: { title: string; settings: Settings }[],
): Compared[] {
  return ways.flatMap(({ title, settings }): Compared[] => {
    const found = previewPlan({ ...record, settings }, now, seed)
    if (!found) return []
    const { plan, odds } = found
    const sessions = plan.sessions.filter(open)
    const hours: Compared['hours'] = {}
    for (const { kind, minutes } of sessions) hours[kind] = (hours[kind] ?? 0) + minutes / 60
    const byWeek = plan.weeks.map(({ from, plannedMinutes }) => ({ from, hours: plannedMinutes / 60 }))
    const total = sessions.reduce((sum, { minutes }) => sum + minutes / 60, 0)
    const met = new Set(sessions.flatMap(topicsOf))
    const missed = record.exam.topics.filter(({ id }) => !met.has(id))
    const sections = record.exam.sections.length
    return [
      {
        title,
        odds: odds?.odds,
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
          share: missed.reduce((sum, topic) => sum + topic.share / sections, 0),
        },
        notices: plan.notices.length,
      },
    ]
  })
}

const rangeOf = (odds: Odds | undefined) =>
  odds && { mean: odds.forecast.mean, low: odds.forecast.low, high: odds.forecast.high }
