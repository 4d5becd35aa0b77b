import type { Attempt, CandidateRecord, Counts, PlanSession, TestSession } from '@climber/contract'
import {
  Board,
  checkPlan,
  dateOf,
  dayNumber,
  falseWords,
  followsOf,
  isOpen,
  isStudy,
  isWhole,
  type Moment,
  otherPartsOf,
  partOf,
  rehearsalsOf,
  restOf,
  type Replanned,
  replan,
  sessionsSat,
  sourceOf,
  withPlan,
  wordsFor,
} from '../src/index'
import { givenUp } from '../src/plan/mend/shift'
import { inputsOf } from './arbitrary'
import { toldInputOf } from './graded'

/** Who lives a plan: what comes of each thing that is done. */
export interface Hands {
  /** Numbers between 0 and 1. */
  random: () => number
  works(session: PlanSession, minutes: number, day: number): void
  /** A paper, or some sections of it, on a day that is so much better or worse than others, in logarithms of odds. */
  sits(day: number, mood: number, of: Pick<TestSession, 'form' | 'minutes'>): Attempt['counts']
}

/** A week that was lived, and the plan mended at its end. */
export interface Week {
  /** The record before the plan was mended, and its moment. */
  record: CandidateRecord
  now: Moment
  /** What went otherwise than planned. */
  happened: string[]
  found: Replanned
}

const chance = {
  slip: 0.12,
  half: 0.08,
  sick: 0.08,
  commitment: 0.1,
  early: 0.1,
  late: 0.15,
  mood: 0.3,
  moved: 0.04,
  target: 0.08,
}

/** Twelve weeks as they come: what is planned is done, missed, half done, sat early or late; plans are mended every Monday. */
export class Life {
  private readonly happened: string[] = []
  private attempts = 0

  constructor(
    public record: CandidateRecord,
    private day: number,
    private readonly hands: Hands,
  ) {}

  private happens(what: keyof typeof chance, times = 1): boolean {
    if (this.hands.random() >= times * chance[what]) return false
    this.happened.push(what)
    return true
  }
  private put(sessions: PlanSession[]): void {
    const plan = this.record.plan!
    const own = new Map(sessions.map((session) => [session.id, session]))
    this.record = {
      ...this.record,
      plan: { ...plan, sessions: plan.sessions.map((session) => own.get(session.id) ?? session) },
    }
  }

  /** A test sat on a day, whatever it was planned for; some of its sections where it is no whole one. */
  private sit(test: TestSession, day: number): void {
    const { random } = this.hands
    const mood = this.happens('mood') ? (random() < 0.5 ? -1 : 1) : 0
    const counts = this.hands.sits(day, mood, test)
    const { exam } = this.record
    const sections = isWhole(test) ? undefined : partOf(test)
    const groups = new Set(
      exam.sections.flatMap(({ id, groups: own }) =>
        sections && !sections.includes(id) ? [] : own.map((group) => group.id),
      ),
    )
    const told = (all: Record<string, Counts> = {}) =>
      Object.fromEntries(Object.entries(all).filter(([id]) => groups.has(id)))
    const attempt = {
      id: `00000000-0000-4000-8000-${String(++this.attempts).padStart(12, '0')}`,
      kind: sections ? 'section' : 'practice',
      date: dateOf(day),
      ...(test.form === undefined ? { session: test.id } : { form: test.form }),
      source: sourceOf(exam, { form: test.form }),
      ...(sections && { scope: { sections } }),
      counts: sections ? { groups: told(counts.groups), topics: {} } : counts,
    } as Attempt
    const done = sessionsSat(this.record.plan!, attempt)
    this.put(done)
    this.record = { ...this.record, attempts: [...this.record.attempts, attempt] }
    for (const one of done) this.hands.works(one, one.minutes, day)
  }

  /** One session on its day; what is not done stays as it is, and slips. */
  private lives(session: PlanSession, day: number): void {
    const follows = followsOf(session)
    const before = this.record.plan!.sessions.find(({ id }) => id === follows)
    if (before && before.status !== 'done') return
    if (this.happens('slip')) return
    if (session.kind === 'test') {
      const { sessions } = this.record.plan!
      const parts = otherPartsOf(session, sessions)
      const open = parts.filter((part) => isOpen(part, '0000-00-00') && part.date > session.date)
      // The last part of a test is when it is logged; a part before it is sat, and nothing is known yet.
      if (open.length) this.put([{ ...session, status: 'done' }])
      else if (!this.happens('late')) this.sit(session, day)
      else if (day + 1 < dayNumber(this.record.exam.sittings[0]!.date)) this.sit(session, day + 1)
      return
    }
    const half = session.kind !== 'errand' && this.happens('half')
    const minutes = half ? Math.max(5, Math.round(session.minutes / 10) * 5) : session.minutes
    const done = { ...session, status: 'done' as const, minutesDone: minutes }
    const left = restOf(done)
    // Half of those who leave a session half done have the rest placed.
    const restMinutes = left && this.hands.random() < 0.5 ? { restMinutes: left } : {}
    this.put([{ ...done, ...restMinutes }])
    this.hands.works(session, minutes, day)
  }

  /** What comes up in a week: a commitment, a sitting that is moved, another target, a paper sat before its day. */
  private comesUp(): void {
    const { random } = this.hands
    const { windows } = this.record.availability
    if (windows.length > 2 && this.happens('commitment')) {
      const gone = Math.floor(random() * windows.length)
      const kept = windows.filter((_, at) => at !== gone)
      this.record = { ...this.record, availability: { ...this.record.availability, windows: kept } }
    }
    if (this.happens('moved')) {
      const { exam } = this.record
      const days = [-7, 7, 14][Math.floor(random() * 3)]!
      const sittings = exam.sittings.map((one) => ({ ...one, date: dateOf(dayNumber(one.date) + days) }))
      this.record = { ...this.record, exam: { ...exam, sittings } }
    }
    const { target } = this.record
    if (target.kind === 'number' && target.scaled !== undefined && this.happens('target'))
      this.record = {
        ...this.record,
        target: { ...target, scaled: Math.round(target.scaled * (0.92 + 0.16 * random())) },
      }
    const next = this.record
      .plan!.sessions.filter((one): one is TestSession => isWhole(one) && isOpen(one, dateOf(this.day)))
      .find((test) => !('split' in test) && dayNumber(test.date) > this.day + 2)
    if (next && dayNumber(next.date) < this.day + 15 && this.happens('early')) this.sit(next, this.day)
  }

  /** One week from Monday to Sunday, and the plan mended on the Monday after; undefined where the exam has come. */
  week(): Week | undefined {
    this.happened.length = 0
    this.comesUp()
    const exam = dayNumber(this.record.exam.sittings[0]!.date)
    const next = this.day + 7
    if (next >= exam - 1) return undefined
    const sick = this.happens('sick')
    for (let day = this.day; day < next && !sick; day++) {
      const due = this.record.plan!.sessions.filter(
        ({ date, status }) => date === dateOf(day) && status === 'planned',
      )
      for (const { id } of due) {
        const session = this.record.plan!.sessions.find((one) => one.id === id)!
        if (session.status === 'planned') this.lives(session, day)
      }
    }
    this.day = next
    const now = { date: dateOf(next), minute: 420 }
    const { record } = this
    const found = replan(record, now, 1, { kind: 'none' }, 'mend')!
    this.record = withPlan(record, found.plan)
    return { record, now, happened: [...this.happened], found }
  }
}

/** Minutes of an empty stretch, and days from where it stood, within which work that was left out would have had a place. */
const longestHole = 60
const reach = 21

/**
 * What is wrong with a mended plan: rules that it breaks, reviews and retests without their test, and hours that stay empty while work of
 * the plan before was left out for want of a place.
 */
export function faultsOf({ record, now, found }: Week): string[] {
  const { plan, diff } = found
  const { plan: input, check } = inputsOf({ record, minute: now.minute, seed: 1 }, now.date)
  const moved = new Set(diff.moved.map(({ after }) => after.id))
  const stood = new Set(input.kept.filter(({ id }) => !moved.has(id)).map(({ id }) => id))
  const kept = plan.sessions.filter(({ id, status }) => status !== 'planned' || stood.has(id))
  const faults = checkPlan({ ...check, kept }, plan).map((one) => JSON.stringify(one))
  const sat = new Set(
    [...input.lived, ...plan.sessions]
      .filter(({ kind, status }) => kind === 'test' && (status === 'planned' || status === 'done'))
      .map(({ id }) => id),
  )
  for (const one of plan.sessions)
    if (
      (one.kind === 'review' || one.kind === 'retest') &&
      one.status === 'planned' &&
      !sat.has(one.of ?? '')
    )
      faults.push(`${one.id} on ${one.date} follows ${one.of ?? 'nothing'}, which is not sat`)
  const { why } = wordsFor({ ...input, forms: input.exam.forms })
  faults.push(...falseWords(toldInputOf(input), plan, why).map((words) => `not so: ${words}`))
  const board = new Board(input, plan.sessions, rehearsalsOf(plan.phases))
  const pause = 2 * record.settings.breakMinutes
  for (const { session, why } of diff.dropped) {
    if (!isStudy(session) || session.timed || why === givenUp) continue
    const { date } = session
    const spot = {
      date: date > now.date ? date : now.date,
      start: session.start,
      minutes: longestHole + pause,
    }
    const hole = board.nearest({ ...session, id: 'hole' }, spot, reach)
    if (hole) faults.push(`${session.id} of ${date} was left out, and ${hole.date} ${hole.start} is free`)
  }
  return faults
}
