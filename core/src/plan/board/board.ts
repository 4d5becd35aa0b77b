import type { Phase, PlanSession, TestSession, Unplaced } from '@climber/contract'
import { haveInCommon, resitAfterDays } from '../../attempts/sat'
import { retestDaysOf } from '../../sessions/ways'
import {
  endOf,
  followsOf,
  formOfSession,
  isActive,
  isEasy,
  isSeen,
  isTest,
  ofKind,
  otherPartsOf,
  partOf,
  reviewsOf,
  startOf,
  topicsOf,
} from '../../sessions/session'
import { wordsFor, type Words } from '../../sessions/words'
import { dateOf, dayNumber, type DayNumber, minuteOf, mondayOf, timeOf } from '../../time/day'
import type { Span } from '../calendar/calendar'
import { groundOf } from '../ground'
import type { PlanInput } from '../input'
import { lengthOf } from '../tests/lengths'
import { TopicOrder } from './order'

export interface Spot {
  date: string
  start: string
  minutes: number
}

/** What is put somewhere by hand: a session of the plan, or one from the tray. */
export type Piece = PlanSession | Unplaced

export const shortestByHand = 10
export const longestByHand = 600

/** Free time in words: `18:00 to 20:00`. */
const spanWords = (spans: Span[]) =>
  spans.map(({ from, to }) => `${timeOf(from)} to ${timeOf(to)}`).join(', ')

/**
 * The plan laid out for moving things by hand: says of any piece and spot whether a rule of docs/models.md, 4, stands
 * against it, and which. Made once when a drag begins; each question then takes a few microseconds.
 */
export class Board {
  private readonly ground: ReturnType<typeof groundOf>
  private readonly order: TopicOrder
  private readonly titles: Map<string, string>
  private readonly words: Words
  private readonly live: PlanSession[]
  private readonly windows = new Map<string, Span[]>()

  constructor(
    private readonly input: PlanInput,
    sessions: PlanSession[],
    private readonly rehearsal: { from: string; to: string }[] = [],
  ) {
    // Days a week are counted here by hand, so the calendar must not close any for that.
    const availability = { ...input.availability, daysPerWeek: 7 }
    this.ground = groundOf({ ...input, availability }, [])
    this.order = new TopicOrder(input.topics)
    this.titles = new Map(input.topics.map(({ id, title }) => [id, title]))
    this.words = wordsFor({ ...input, forms: input.exam.forms })
    this.live = sessions.filter(isActive)
  }

  /** Why `piece` cannot stand at `spot`; undefined where it can. */
  refusal(piece: Piece, spot: Spot): string | undefined {
    const others = this.live.filter(({ id }) => id !== piece.id)
    return this.outOfTime(piece, spot) ?? this.taken(spot, others) ?? this.outOfOrder(piece, spot, others)
  }

  /** Outside the plan, of another length than it must have, or not in free time. */
  private outOfTime(piece: Piece, spot: Spot): string | undefined {
    const { input, ground } = this
    const day = dayNumber(spot.date)
    const from = minuteOf(spot.start)
    const to = from + spot.minutes
    const last = ground.taper < ground.exam ? ground.taper : ground.exam
    if (day < ground.first || (day === ground.first && from < input.nowMinute)) return 'That time is over.'
    if (day >= ground.exam) return 'The plan ends with the exam.'
    const easy = isEasy(piece)
    if (day >= last && !easy)
      return `The last ${input.settings.taperDays} days before the exam are kept free but for light work.`
    if (piece.kind === 'test') {
      const due = lengthOf(input, piece)
      if (spot.minutes !== due) return `A test lasts its full ${due} minutes.`
    }
    if (spot.minutes < shortestByHand) return `A session lasts ${shortestByHand} minutes at least.`
    if (spot.minutes > longestByHand) return `A session lasts ${longestByHand} minutes at most.`
    const free = this.freeOn(day, easy)
    if (free.some((span) => span.from <= from && to <= span.to)) return undefined
    if (free.length) return `Not free then: that day is free ${spanWords(free)}.`
    return input.availability.daysOff.includes(spot.date) ? 'A day off.' : 'No free time that day.'
  }

  /** Something else stands there, or a cap of the day or the week would be broken. */
  private taken(spot: Spot, others: PlanSession[]): string | undefined {
    const day = dayNumber(spot.date)
    const from = minuteOf(spot.start)
    const to = from + spot.minutes
    const sameDay = others.filter(({ date }) => date === spot.date)
    const met = sameDay.find(
      (other) => minuteOf(other.start) < to && from < minuteOf(other.start) + other.minutes,
    )
    if (met) return `${this.words.title(met)} is there from ${met.start}.`
    const { minutesPerDay, minutesPerWeek, daysPerWeek } = this.input.availability
    const ofDay = sameDay.reduce((sum, { minutes }) => sum + minutes, 0)
    if (ofDay + spot.minutes > minutesPerDay)
      return `That day would have ${ofDay + spot.minutes} minutes; the cap is ${minutesPerDay}.`
    const monday = mondayOf(day)
    const ofWeek = others.filter(({ date }) => mondayOf(dayNumber(date)) === monday)
    const minutes = ofWeek.reduce((sum, session) => sum + session.minutes, 0)
    if (minutesPerWeek !== undefined && minutes + spot.minutes > minutesPerWeek)
      return `That week would have ${minutes + spot.minutes} minutes; the cap is ${minutesPerWeek}.`
    const days = new Set(ofWeek.map(({ date }) => date)).add(spot.date)
    return !sameDay.length && days.size > daysPerWeek
      ? `That week would have ${days.size} days of work; the cap is ${daysPerWeek}.`
      : undefined
  }

  private outOfOrder(piece: Piece, spot: Spot, others: PlanSession[]): string | undefined {
    switch (piece.kind) {
      case 'test':
        return this.testOutOfOrder(piece, spot, others) ?? this.spent(piece, spot)
      case 'review':
        return this.reviewOutOfOrder(piece, spot, others)
      case 'retest':
        return this.retestTooSoon(piece, spot, others)
      default: {
        const broken = this.order.broken(topicsOf(piece), startOf(spot), TopicOrder.firsts(others))
        return (
          broken &&
          `${this.titles.get(broken[0])} would be begun before ${this.titles.get(broken[1])}, which it builds on.`
        )
      }
    }
  }

  private testOutOfOrder(piece: Piece, spot: Spot, others: PlanSession[]): string | undefined {
    const start = startOf(spot)
    const end = start + spot.minutes
    const tests = others.filter(isTest)
    const form = formOfSession(piece)
    const parts = isTest(piece) ? otherPartsOf(piece, tests) : []
    const own = ofKind(others, 'review').filter(
      ({ of }) => of === piece.id || parts.some(({ id }) => id === of),
    )
    if (own.some((review) => startOf(review) < end))
      return 'Its review would come before it. Move the review first.'
    for (const other of tests) {
      if (parts.includes(other)) continue
      if (startOf(other) < start && reviewsOf(other.id, others).some((review) => endOf(review) > start))
        return `The review of ${this.words.title(other)} would not be finished before it.`
      if (startOf(other) >= end && own.some((review) => endOf(review) > startOf(other)))
        return `Its review would not be finished before ${this.words.title(other)}.`
      if (
        form !== undefined &&
        other.form === form &&
        haveInCommon(partOf(other), partOf(piece)) &&
        Math.abs(dayNumber(other.date) - dayNumber(spot.date)) < resitAfterDays
      )
        return `The same form stands on ${other.date}; ${resitAfterDays} days must lie between.`
    }
    return undefined
  }

  private reviewOutOfOrder(piece: Piece, spot: Spot, others: PlanSession[]): string | undefined {
    const start = startOf(spot)
    const end = start + spot.minutes
    const tests = others.filter(isTest)
    const follows = followsOf(piece)
    const test = tests.find(({ id }) => id === follows)
    if (test && start < endOf(test)) return `${this.words.title(test)} has to come first.`
    const parts = test ? otherPartsOf(test, tests) : []
    const next: TestSession[] = test
      ? tests.filter((other) => startOf(other) > startOf(test) && !parts.includes(other))
      : []
    const late = next.find((other) => startOf(other) < end)
    if (late) return `It must be finished before the next test, ${this.words.title(late)} on ${late.date}.`
    const days = retestDaysOf(this.input.settings)
    const retest = ofKind(others, 'retest').find(({ of }) => of === follows)
    return retest && days !== null && dayNumber(retest.date) - dayNumber(spot.date) < days
      ? `Its retest on ${retest.date} would come less than ${days} days after it.`
      : undefined
  }

  private retestTooSoon(piece: Piece, spot: Spot, others: PlanSession[]): string | undefined {
    const days = retestDaysOf(this.input.settings)
    const after = Math.max(...reviewsOf(followsOf(piece) ?? '', others).map(({ date }) => dayNumber(date)))
    return days !== null && dayNumber(spot.date) - after < days
      ? `A retest comes ${days} days after its review, from ${dateOf(after + days)} on.`
      : undefined
  }

  /** A form of the publisher's outside rehearsal, or one that was sat too lately. */
  private spent(piece: Piece, spot: Spot): string | undefined {
    const wanted = formOfSession(piece)
    const form = this.input.exam.forms.find(({ id }) => id === wanted)
    const late = this.input.sat.find(
      (sat) =>
        sat.form === wanted &&
        haveInCommon(sat.sections, partOf(piece)) &&
        dayNumber(spot.date) - dayNumber(sat.date) < resitAfterDays,
    )
    if (late) return `This form was sat on ${late.date}; ${resitAfterDays} days must lie between.`
    const baseline =
      !this.input.measured && !this.live.some(({ kind, date }) => kind === 'test' && date < spot.date)
    const rehearsal = this.rehearsal.some(({ from, to }) => from <= spot.date && spot.date <= to)
    const [firstRehearsal] = this.rehearsal
    return form?.source === 'publisher' && !isSeen(piece) && !rehearsal && !baseline && firstRehearsal
      ? `${form.title} is one of the publisher's: kept for rehearsal, from ${firstRehearsal.from} on.`
      : undefined
  }

  /** Free time of a day as it is painted, commitments taken out, whatever is planned in it. */
  freeOn(day: DayNumber, easy = false): Span[] {
    const key = `${day}.${easy}`
    const known = this.windows.get(key)
    if (known) return known
    const { calendar } = this.ground
    const spans = [...calendar.free(day), ...(easy ? calendar.free(day, true) : [])].sort(
      (a, b) => a.from - b.from,
    )
    this.windows.set(key, spans)
    return spans
  }

  /** The nearest place that `piece` may stand at, by days from `date`, then by time from `start`; undefined where none is. */
  nearest(piece: Piece, { date, start, minutes }: Spot, within = 21): Spot | undefined {
    const wished = dayNumber(date)
    const days = this.ground.calendar.days().filter((day) => Math.abs(day - wished) <= within)
    days.sort((a, b) => Math.abs(a - wished) - Math.abs(b - wished) || a - b)
    for (const day of days) {
      const starts = this.freeOn(day, isEasy(piece))
        .flatMap(({ from, to }) => {
          const list: number[] = []
          for (let at = from; at + minutes <= to; at += 15) list.push(at)
          return list
        })
        .sort((a, b) => Math.abs(a - minuteOf(start)) - Math.abs(b - minuteOf(start)) || a - b)
      for (const at of starts) {
        const spot = { date: dateOf(day), start: timeOf(at), minutes }
        if (!this.refusal(piece, spot)) return spot
      }
    }
    return undefined
  }
}

/** Where the plan's rehearsals lie, for the board. */
export const rehearsalsOf = (phases: Phase[]): Phase[] => phases.filter(({ rehearsal }) => rehearsal)
