import type { Availability, Busy, ExamFormat, Plan, PlanSession, Settings, Sitting } from '@climber/contract'

/** The independent checker's own view of a plan. It shares no code with the planner, dates and lengths included. */
export interface CheckInput {
  exam: ExamFormat
  sitting: Sitting
  today: string
  nowMinute: number
  availability: Availability
  busy: Busy[]
  settings: Settings
  sat: { form: string; date: string; sections?: string[] }[]
  /** Forms of other makers that are kept for rehearsal all the same. */
  reserved?: string[]
  measured: boolean
  kept: PlanSession[]
  /** Topics touched before today. */
  begun: string[]
}

export interface Violation {
  rule:
    | 'unique'
    | 'kept'
    | 'range'
    | 'free'
    | 'overlap'
    | 'day-cap'
    | 'week-cap'
    | 'busy'
    | 'retest'
    | 'test-length'
    | 'test-said'
    | 'review'
    | 'reserved'
    | 'timed'
    | 'resit'
    | 'order'
    | 'taper'
  message: string
}

const dayMs = 86_400_000
/** Days and minutes are asked for again and again; the answers are kept. */
const once = <K, V>(work: (key: K) => V): ((key: K) => V) => {
  const found = new Map<K, V>()
  return (key) => {
    const known = found.get(key)
    if (known !== undefined) return known
    const value = work(key)
    found.set(key, value)
    return value
  }
}
/** A date as a day number. */
export const at = once((date: string): number => Math.round(Date.parse(`${date}T00:00:00Z`) / dayMs))
/** A time of day in minutes. */
export const clock = once((time: string): number => {
  const [hours, minutes] = time.split(':').map(Number)
  return (hours ?? 0) * 60 + (minutes ?? 0)
})
export const weekday = once((day: number): number => new Date(day * dayMs).getUTCDay() || 7)
export const weekOf = (day: number): number => day - (weekday(day) - 1)
/** Minutes since 1970. */
export const begins = (session: PlanSession): number => at(session.date) * 1440 + clock(session.start)
export const ends = (session: PlanSession): number => begins(session) + session.minutes

export interface Facts {
  input: CheckInput
  plan: Plan
  today: number
  examDay: number
  keptIds: Set<string>
  /** Sessions that this plan placed. */
  made: PlanSession[]
  /** Sessions that stand, in order of time. */
  live: PlanSession[]
  /** The same by day. */
  byDay: Map<number, PlanSession[]>
}

const stands = ({ status }: PlanSession): boolean => status !== 'slipped' && status !== 'skipped'

export function factsOf(input: CheckInput, plan: Plan): Facts {
  const keptIds = new Set(input.kept.map(({ id }) => id))
  const live = plan.sessions.filter(stands).sort((a, b) => begins(a) - begins(b))
  const byDay = new Map<number, PlanSession[]>()
  for (const session of live) byDay.set(at(session.date), [...(byDay.get(at(session.date)) ?? []), session])
  return {
    input,
    plan,
    today: at(input.today),
    examDay: at(input.sitting.date),
    keptIds,
    made: plan.sessions.filter(({ id }) => !keptIds.has(id)),
    live,
    byDay,
  }
}

export type Fail = (rule: Violation['rule'], message: string) => void
export type Rule = (facts: Facts, fail: Fail) => void

export const sumOf = (sessions: PlanSession[]): number =>
  sessions.reduce((sum, { minutes }) => sum + minutes, 0)
