import type { Section } from '@climber/contract'
import { type DayNumber, minuteOf } from '../../time/day'
import type { Calendar } from '../calendar/calendar'
import type { PlanInput } from '../input'
import { testMinutes } from './lengths'

const shortestReview = 20
/** Within so many days the second part of a split test follows the first. */
const splitWithin = 3

/** A stretch of a day that a test, a part of one, or a piece of its review takes. */
export interface Block {
  day: DayNumber
  from: number
  minutes: number
  sections?: string[]
}

/** Where the whole of a test, a part of it, or its review finds room in the calendar. */
export class TestRoom {
  /** Length of the whole test, and of its review, in minutes. */
  readonly full: number
  readonly reviewMinutes: number
  readonly days: DayNumber[]
  private readonly examStart: number
  private readonly holdsWhole: Set<DayNumber>

  constructor(
    private readonly input: PlanInput,
    private readonly calendar: Calendar,
    taper: DayNumber,
  ) {
    const { exam, settings, sitting } = input
    this.full = testMinutes(exam.sections, settings.timeFactor)
    this.reviewMinutes = Math.round((this.full * settings.reviewRatio) / 5) * 5
    this.examStart = minuteOf(sitting.start)
    this.days = calendar.days().filter((day) => day < taper)
    this.holdsWhole = new Set(this.days.filter((day) => this.wholeOn(day)))
  }

  take({ day, from, minutes }: Block): void {
    this.calendar.take(day, from, minutes)
  }
  give({ day, from, minutes }: Block): void {
    this.calendar.give(day, from, minutes)
  }

  /** A start for the whole test on a day, at the exam's own where it can be; `late` where it cannot. */
  wholeOn(day: DayNumber): { from: number; late: boolean } | undefined {
    const { calendar, full, examStart } = this
    if (calendar.dayRoom(day) < full) return undefined
    const spans = calendar.free(day).filter(({ from, to }) => to - from >= full)
    if (spans.some(({ from, to }) => from <= examStart && examStart + full <= to))
      return { from: examStart, late: false }
    const [nearest] = spans
      .map(({ from, to }) => Math.min(Math.max(from, examStart), to - full))
      .sort((a, b) => Math.abs(a - examStart) - Math.abs(b - examStart) || a - b)
    return nearest === undefined ? undefined : { from: nearest, late: true }
  }

  /** Some day within `reach` of another could hold a whole test, were it empty. */
  wholeNear(day: DayNumber, reach: number): boolean {
    return this.days.some((one) => Math.abs(one - day) <= reach && this.holdsWhole.has(one))
  }

  private partOn(day: DayNumber, sections: Section[]): Block | undefined {
    const { calendar } = this
    const minutes = testMinutes(sections, this.input.settings.timeFactor)
    if (calendar.dayRoom(day) < minutes) return undefined
    const span = calendar.free(day).find(({ from, to }) => to - from >= minutes)
    return span && { day, from: span.from, minutes, sections: sections.map(({ id }) => id) }
  }

  /** The test in two parts, the first on `day`, the other soon after and before `until`. */
  splitOn(day: DayNumber, until: DayNumber): Block[] | undefined {
    const { sections } = this.input.exam
    for (let cut = sections.length - 1; cut >= 1; cut--) {
      const one = this.partOn(day, sections.slice(0, cut))
      if (!one) continue
      // Taken for the moment, since a cap on the week counts both parts.
      this.take(one)
      const rest = sections.slice(cut)
      const next = this.days.find(
        (other) => other > day && other <= day + splitWithin && other < until && this.partOn(other, rest),
      )
      const two = next === undefined ? undefined : this.partOn(next, rest)
      this.give(one)
      if (two) return [one, two]
    }
    return undefined
  }

  /** Review in session-sized pieces, from the day after the test, all of it before `until`; undefined if it does not fit. */
  reviewAfter(test: Block, until: DayNumber): Block[] | undefined {
    const pieces: Block[] = []
    let rest = this.reviewMinutes
    for (const day of this.days) {
      if (day <= test.day) continue
      if (day >= until || rest <= 0) break
      for (let piece = this.pieceOn(day, rest); piece && rest > 0; piece = this.pieceOn(day, rest)) {
        this.take(piece)
        pieces.push(piece)
        rest -= piece.minutes
      }
    }
    if (rest <= 0) return pieces
    for (const piece of pieces) this.give(piece)
    return undefined
  }

  /** The first piece of review that a day holds, of at most `rest` minutes, none left over that would be too short. */
  private pieceOn(day: DayNumber, rest: number): Block | undefined {
    const { calendar } = this
    if (rest <= 0) return undefined
    const span = calendar.free(day).find(({ from, to }) => to - from >= Math.min(shortestReview, rest))
    if (!span) return undefined
    const room = Math.min(
      span.to - span.from,
      calendar.dayRoom(day),
      calendar.weekRoom(day),
      this.input.settings.sessionMinutes,
      rest,
    )
    const minutes =
      rest - room > 0 && rest - room < shortestReview ? Math.min(room, rest - shortestReview) : room
    const whole = Math.floor(minutes / 5) * 5
    return whole < Math.min(shortestReview, rest) ? undefined : { day, from: span.from, minutes: whole }
  }

  /** Minutes that may be planned from a day to before another. */
  openMinutes(from: DayNumber, to: DayNumber): number {
    return this.days.reduce(
      (sum, day) => (day >= from && day < to ? sum + this.calendar.roomOn(day) : sum),
      0,
    )
  }
}
