import type { PlanSession } from '@climber/contract'
import { dateOf, dayNumber, type DayNumber, minuteOf, mondayOf, timeOf } from '../time/day'
import type { Span } from './calendar'
import type { PlanInput } from './input'
import { groundOf } from './makePlan'
import { endOf, isActive, isEasy, lengthOf, startOf } from './session'
import { resitAfterDays } from './tests'
import { usualRetestDays } from './around'

export interface Spot {
  date: string
  start: string
  minutes: number
}

/** What is put somewhere by hand: a session of the plan, or one from the tray. */
export type Piece = Pick<
  PlanSession,
  'id' | 'kind' | 'minutes' | 'topics' | 'form' | 'sections' | 'of' | 'seen'
>

export const shortestByHand = 10
export const longestByHand = 600

/** Which topic must wait for which: an order is broken where one is begun before what it builds on. */
export class TopicOrder {
  private readonly needs: Map<string, string[]>
  private readonly builds = new Map<string, string[]>()
  private readonly begun: Set<string>

  constructor(topics: PlanInput['topics']) {
    this.needs = new Map(topics.map(({ id, prerequisites }) => [id, prerequisites]))
    this.begun = new Set(topics.flatMap(({ id, touches }) => (touches.length ? [id] : [])))
    for (const { id, prerequisites } of topics)
      for (const before of prerequisites) this.builds.set(before, [...(this.builds.get(before) ?? []), id])
  }

  /** When each topic is first met, in minutes, by the sessions given. */
  static firsts(sessions: Pick<PlanSession, 'date' | 'start' | 'topics'>[]): Map<string, number> {
    const first = new Map<string, number>()
    for (const session of sessions)
      for (const topic of session.topics)
        first.set(topic, Math.min(first.get(topic) ?? Infinity, startOf(session)))
    return first
  }

  /** The pair [topic, what it builds on] out of order once `topics` are met at `minute`; undefined where all is well. */
  broken(topics: string[], minute: number, first: Map<string, number>): [string, string] | undefined {
    for (const topic of topics) {
      if (this.begun.has(topic)) continue
      const own = Math.min(minute, first.get(topic) ?? Infinity)
      for (const before of this.needs.get(topic) ?? []) {
        const there = Math.min(first.get(before) ?? Infinity, topics.includes(before) ? minute : Infinity)
        if (!this.begun.has(before) && there !== Infinity && there >= own) return [topic, before]
      }
      for (const later of this.builds.get(topic) ?? []) {
        const there = first.get(later)
        if (!this.begun.has(later) && there !== undefined && !topics.includes(later) && there <= own)
          return [later, topic]
      }
    }
    return undefined
  }

  /** All pairs out of order. */
  faults(first: Map<string, number>): [string, string][] {
    return [...first].flatMap(([topic, own]) =>
      this.begun.has(topic)
        ? []
        : (this.needs.get(topic) ?? [])
            .filter((before) => !this.begun.has(before) && (first.get(before) ?? -Infinity) >= own)
            .map((before): [string, string] => [topic, before]),
    )
  }
}

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
    this.live = sessions.filter(isActive)
  }

  /** Why `piece` cannot stand at `spot`; undefined where it can. */
  refusal(piece: Piece, spot: Spot): string | undefined {
    const { input, ground } = this
    const day = dayNumber(spot.date)
    const from = minuteOf(spot.start)
    const to = from + spot.minutes
    const others = this.live.filter(({ id }) => id !== piece.id)
    const last = ground.taper < ground.exam ? ground.taper : ground.exam
    if (day < ground.first || (day === ground.first && from < input.nowMinute)) return 'That time is over.'
    if (day >= ground.exam) return 'The plan ends with the exam.'
    const easy = isEasy(piece)
    if (day >= last && !easy)
      return `The last ${input.settings.taperDays} days before the exam are kept free but for light work.`
    if (piece.kind === 'test') {
      const due = lengthOf(this.input, piece)
      if (spot.minutes !== due) return `A test lasts its full ${due} minutes.`
    }
    if (spot.minutes < shortestByHand) return `A session lasts ${shortestByHand} minutes at least.`
    if (spot.minutes > longestByHand) return `A session lasts ${longestByHand} minutes at most.`
    const free = this.freeOn(day, easy)
    if (!free.some((span) => span.from <= from && to <= span.to))
      return free.length
        ? `Not free then: that day is free ${spanWords(free)}.`
        : input.availability.daysOff.includes(spot.date)
          ? 'A day off.'
          : 'No free time that day.'
    const sameDay = others.filter(({ date }) => date === spot.date)
    const met = sameDay.find(
      (other) => minuteOf(other.start) < to && from < minuteOf(other.start) + other.minutes,
    )
    if (met) return `${met.title} is there from ${met.start}.`
    return this.overCap(spot, day, others, sameDay) ?? this.outOfOrder(piece, spot, others)
  }

  private overCap(
    spot: Spot,
    day: DayNumber,
    others: PlanSession[],
    sameDay: PlanSession[],
  ): string | undefined {
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
    const start = startOf(spot)
    const end = start + spot.minutes
    const tests = others.filter(({ kind }) => kind === 'test')
    if (piece.kind === 'test') {
      const parts = tests.filter(({ form, sections }) => sections && piece.sections && form === piece.form)
      const own = others.filter(
        ({ kind, of }) => kind === 'review' && (of === piece.id || parts.some(({ id }) => id === of)),
      )
      if (own.some((review) => startOf(review) < end))
        return 'Its review would come before it. Move the review first.'
      for (const other of tests) {
        if (parts.includes(other)) continue
        const reviews = others.filter(({ kind, of }) => kind === 'review' && of === other.id)
        if (startOf(other) < start && reviews.some((review) => endOf(review) > start))
          return `The review of ${other.title} would not be finished before it.`
        if (startOf(other) >= end && own.some((review) => endOf(review) > startOf(other)))
          return `Its review would not be finished before ${other.title}.`
        if (
          other.form === piece.form &&
          Math.abs(dayNumber(other.date) - dayNumber(spot.date)) < resitAfterDays
        )
          return `The same form stands on ${other.date}; ${resitAfterDays} days must lie between.`
      }
      return this.spent(piece, spot)
    }
    if (piece.kind === 'review') {
      const test = tests.find(({ id }) => id === piece.of)
      if (test && start < endOf(test)) return `${test.title} has to come first.`
      const next = test && tests.filter((other) => startOf(other) > startOf(test) && other.form !== test.form)
      const late = next?.find((other) => startOf(other) < end)
      if (late) return `It must be finished before the next test, ${late.title} on ${late.date}.`
      const { retestDays = usualRetestDays } = this.input.settings
      const retest = others.find(({ kind, of }) => kind === 'retest' && of === piece.of)
      if (retest && retestDays !== null && dayNumber(retest.date) - dayNumber(spot.date) < retestDays)
        return `Its retest on ${retest.date} would come less than ${retestDays} days after it.`
      return undefined
    }
    if (piece.kind === 'retest') {
      const { retestDays = usualRetestDays } = this.input.settings
      const after = Math.max(
        ...others
          .filter(({ kind, of }) => kind === 'review' && of === piece.of)
          .map(({ date }) => dayNumber(date)),
      )
      if (retestDays !== null && dayNumber(spot.date) - after < retestDays)
        return `A retest comes ${retestDays} days after its review, from ${dateOf(after + retestDays)} on.`
    }
    const broken = this.order.broken(piece.topics, start, TopicOrder.firsts(others))
    return (
      broken &&
      `${this.titles.get(broken[0])} would be begun before ${this.titles.get(broken[1])}, which it builds on.`
    )
  }

  /** A form of the publisher's outside rehearsal, or one that was sat too lately. */
  private spent(piece: Piece, spot: Spot): string | undefined {
    const form = this.input.exam.forms.find(({ id }) => id === piece.form)
    const late = this.input.sat.find(
      (sat) => sat.form === piece.form && dayNumber(spot.date) - dayNumber(sat.date) < resitAfterDays,
    )
    if (late) return `This form was sat on ${late.date}; ${resitAfterDays} days must lie between.`
    const baseline =
      !this.input.measured && !this.live.some(({ kind, date }) => kind === 'test' && date < spot.date)
    const rehearsal = this.rehearsal.some(({ from, to }) => from <= spot.date && spot.date <= to)
    return form?.source === 'publisher' && !piece.seen && !rehearsal && !baseline && this.rehearsal.length
      ? `${form.title} is one of the publisher's: kept for rehearsal, from ${this.rehearsal[0]!.from} on.`
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
export const rehearsalsOf = (
  phases: { name: string; from: string; to: string }[],
  stages: { name: string; rehearsal: boolean }[] | undefined,
): { from: string; to: string }[] =>
  phases.filter(({ name }) =>
    stages
      ? stages.some((stage) => stage.rehearsal && stage.name === name)
      : name === 'Rehearse' || name === 'Sprint',
  )
