import type { Plan, PlanSession, StudySession, TestSession } from '@climber/contract'
import { formsWithin, metTooNear } from '../../attempts/sat'
import { byTime, isActive, isEasy, isStudy, isTest, partOf, slippedLately } from '../../sessions/session'
import { wordsFor, type Words } from '../../sessions/words'
import { dateOf, dayNumber, type DayNumber, minuteOf, timeOf } from '../../time/day'
import { TopicOrder } from '../board/order'
import type { Span } from '../calendar/calendar'
import { shortestSession } from '../calendar/cut'
import { type Ground, groundOf } from '../ground'
import type { PlanInput } from '../input'
import { numbering } from '../numbering'
import { keptForms } from '../tests/forms'
import { lengthOf } from '../tests/lengths'
import { lastRehearsalWithin } from '../tests/place'

/** No piece of work is shorter, in minutes. */
export const shortestPiece = shortestSession

/** So near the day that a rehearsal was asked for. */
const rehearsalReach = 3
/** Days from today that are left alone where they can be. */
export const nearDays = 2

/** A plan on the way from what it was to what it can be: what stands, what waits for a place, what was dropped and why. */
export class Mending {
  readonly today: DayNumber
  readonly ground: Ground
  readonly days: DayNumber[]
  readonly name: (key: string) => string
  readonly order: TopicOrder
  readonly words: Words
  /** Forms that are kept for the end: the publisher's, and what the shelf reserves. */
  readonly keptForms: Set<string>
  /** What stays whatever happens: done, running and pinned sessions. */
  readonly bound: PlanSession[]
  /** Ids of those, and of what slipped. */
  readonly keptIds: Set<string>
  readonly placed = new Map<string, PlanSession>()
  /** Work that cannot stay where it stood, and work that slipped. */
  readonly displaced: PlanSession[] = []
  readonly slipped: PlanSession[]
  readonly dropped = new Map<string, PlanSession>()
  readonly reasons = new Map<string, string>()
  /** Followers of a test that were dealt with along with it. */
  readonly settled = new Set<string>()

  constructor(
    readonly input: PlanInput,
    readonly previous: Plan,
  ) {
    this.today = dayNumber(input.today)
    this.keptIds = new Set(input.kept.map(({ id }) => id))
    this.keptForms = keptForms(input)
    this.bound = input.kept.filter(isActive)
    this.slipped = input.kept.filter((session) => slippedLately(session, input.today))
    const movable = previous.sessions.filter(
      ({ id, date }) => !this.keptIds.has(id) && dayNumber(date) >= this.today,
    )
    const days = new Set(movable.map(({ date }) => dayNumber(date)))
    this.ground = groundOf(input, [...input.lived, ...this.bound], {
      prefer: days,
      madeOn: dayNumber(previous.madeOn),
    })
    this.days = this.ground.calendar.days()
    this.name = numbering(previous.sessions, input.taken)
    this.order = new TopicOrder(input.topics)
    this.words = wordsFor({ ...input, forms: input.exam.forms })
    for (const session of [...movable].sort(byTime)) this.leaveOrDisplace(session)
  }

  /** What can stay, stays. */
  private leaveOrDisplace(session: PlanSession): void {
    const { calendar, exam, taper } = this.ground
    const day = dayNumber(session.date)
    const due = session.kind === 'test' ? lengthOf(this.input, session) : session.minutes
    const early = session.kind === 'test' && this.isKeptForm(session) && !this.rehearses(day)
    const lately = session.kind === 'test' && this.metLately(session)
    const stays =
      session.minutes === due &&
      !early &&
      !lately &&
      day < exam &&
      (day < taper || isEasy(session)) &&
      calendar.holds(day, minuteOf(session.start), session.minutes, isEasy(session)) &&
      calendar.dayRoom(day) >= session.minutes
    if (stays) this.take(session)
    else this.displaced.push(session.minutes === due ? session : { ...session, minutes: due })
  }

  /** The same form was sat so lately that its day has to wait; on another day than planned, perhaps. */
  private metLately(test: TestSession): boolean {
    const met = [...this.input.sat, ...formsWithin(this.bound.filter(isTest))]
    return metTooNear(met, { form: test.form, sections: partOf(test) }, dayNumber(test.date)) !== undefined
  }
  private rehearsedBefore({ date }: TestSession): boolean {
    return this.previous.phases.some(({ rehearsal, from, to }) => rehearsal && from <= date && date <= to)
  }
  /** Whether an unseen form of the publisher's was kept for the rehearsals. */
  isKeptForm(test: TestSession): boolean {
    const form = this.input.exam.forms.find(({ id }) => id === test.form)
    return form?.source === 'publisher' && !test.seen && this.rehearsedBefore(test)
  }
  /** Whether rehearsals may stand on a day: in their stage, or at a distance from the exam that was asked for. */
  rehearses(day: DayNumber): boolean {
    const { stages, exam } = this.ground
    return (
      stages.some(({ rehearsal, from, to }) => rehearsal && day >= from && day < to) ||
      day >= exam - lastRehearsalWithin ||
      (this.input.settings.rehearsals ?? []).some((ahead) => Math.abs(exam - ahead - day) <= rehearsalReach)
    )
  }
  /** The day that a test without a place is wished for: rehearsals keep their distance from an exam that was moved. */
  wishedFor(test: TestSession): DayNumber {
    const last = this.previous.phases[this.previous.phases.length - 1]
    const moved = last ? this.ground.exam - dayNumber(last.to) : 0
    return dayNumber(test.date) + (this.rehearsedBefore(test) ? moved : 0)
  }

  active(): PlanSession[] {
    return [...this.bound, ...this.placed.values()]
  }
  tests(): TestSession[] {
    return this.active().filter(isTest)
  }
  /** Study that stands from today on, in order of time. */
  ahead(): StudySession[] {
    return this.active()
      .filter(isStudy)
      .filter(({ date, status }) => status === 'planned' && dayNumber(date) >= this.today)
      .sort(byTime)
  }
  /** Everything that stands or waits, but what was bound; each once, where it stands now. */
  everyone(): PlanSession[] {
    // As it was when it lost its place last: what slipped may have found one since, in another length.
    const waiting = [...this.slipped, ...this.displaced].filter(({ id }) => !this.placed.has(id))
    return [...this.placed.values(), ...new Map(waiting.map((session) => [session.id, session])).values()]
  }

  take(session: PlanSession): void {
    this.ground.calendar.take(dayNumber(session.date), minuteOf(session.start), session.minutes)
    this.placed.set(session.id, session)
  }
  lift(session: PlanSession): void {
    this.ground.calendar.give(dayNumber(session.date), minuteOf(session.start), session.minutes)
    this.placed.delete(session.id)
  }
  drop(session: PlanSession, why: string): void {
    this.dropped.set(session.id, session)
    this.reasons.set(session.id, why)
  }

  /** Does something as if no study stood beyond the next days; study that is in the way of it waits for another place. */
  clearing<T>(work: () => T): T {
    const lifted = [...this.placed.values()].filter(
      (one) => isStudy(one) && !one.pinned && dayNumber(one.date) > this.today + nearDays,
    )
    for (const one of lifted) this.lift(one)
    const { calendar } = this.ground
    const days = [...new Set(lifted.map(({ date }) => dayNumber(date)))]
    const before = new Map(days.map((day) => [day, calendar.taken(day)]))
    const done = work()
    const untouched = new Set(days.filter((day) => calendar.taken(day) === before.get(day)))
    for (const one of lifted) {
      const [day, from] = [dayNumber(one.date), minuteOf(one.start)]
      const stands = untouched.has(day)
        ? calendar.dayRoom(day) >= one.minutes
        : this.gaps(day, one.minutes).some((span) => span.from <= from && from + one.minutes <= span.to)
      if (stands) this.take(one)
      else this.displaced.push(one)
    }
    return done
  }

  /** Free stretches of a day that hold so many minutes. */
  gaps(day: DayNumber, minutes: number): Span[] {
    const { calendar } = this.ground
    return calendar.dayRoom(day) >= minutes
      ? calendar.free(day).filter(({ from, to }) => to - from >= minutes)
      : []
  }
  /** Usable days from today on, nearest to `wished` first. */
  near(wished: DayNumber, reach: number, until = this.ground.taper): DayNumber[] {
    return this.days
      .filter(
        (day) => day >= this.today && day < until && Math.abs(day - Math.max(wished, this.today)) <= reach,
      )
      .sort((a, b) => Math.abs(a - wished) - Math.abs(b - wished) || a - b)
  }
}

/** A session at another place. */
export const movedTo = <S extends PlanSession>(
  session: S,
  day: DayNumber,
  from: number,
  minutes = session.minutes,
): S => ({ ...session, date: dateOf(day), start: timeOf(from), minutes, status: 'planned' })
