import type { Section } from '@climber/contract'
import { type DayNumber, minuteOf, mondayOf } from '../../time/day'
import type { Calendar } from '../calendar/calendar'
import { shortestSession } from '../calendar/cut'
import type { PlanInput } from '../input'
import { testMinutes } from './lengths'

const shortestReview = shortestSession
/** Within so many days the next part of a test follows the last. */
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
    this.reviewMinutes = this.reviewOf(this.full)
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

  private minutesOf(sections: Section[]): number {
    return testMinutes(sections, this.input.settings.timeFactor)
  }

  /** The first stretch of a day that holds some sections in one. */
  private partOn(day: DayNumber, sections: Section[]): Block | undefined {
    const { calendar } = this
    const minutes = this.minutesOf(sections)
    if (calendar.dayRoom(day) < minutes) return undefined
    const span = calendar.free(day).find(({ from, to }) => to - from >= minutes)
    return span && { day, from: span.from, minutes, sections: sections.map(({ id }) => id) }
  }

  /** As many of the sections as a day holds in one stretch, from the first on, but not all of them. */
  private firstOf(day: DayNumber, sections: Section[], most: number): Block | undefined {
    for (let count = most; count >= 1; count--) {
      const block = this.partOn(day, sections.slice(0, count))
      if (block) return block
    }
    return undefined
  }

  /** The test in parts, sections in order: the first on `day`, each other soon after the last, all before `until`. */
  splitOn(day: DayNumber, until: DayNumber, within = splitWithin): Block[] | undefined {
    const { sections } = this.input.exam
    const blocks: Block[] = []
    let rest = sections
    let last = day
    for (const on of this.days) {
      if (on < day) continue
      if (on >= until || on > last + within || !rest.length) break
      const block = this.firstOf(on, rest, Math.min(rest.length, sections.length - 1))
      if (!block) {
        if (on === day) return undefined
        continue
      }
      // Taken for the moment, since a cap on the week counts every part.
      this.take(block)
      blocks.push(block)
      rest = rest.slice(block.sections?.length ?? rest.length)
      last = on
    }
    for (const block of blocks) this.give(block)
    return rest.length ? undefined : blocks
  }

  /** Some sections in one stretch of a day, at their exam length. */
  sectionsOn(day: DayNumber, sections: Section[]): Block | undefined {
    return this.partOn(day, sections)
  }

  /** What is sat by itself from a section on: that section, with its neighbours where it alone would be a crumb. */
  unitFrom(at: number): Section[] {
    const { sections } = this.input.exam
    let count = 1
    while (at + count < sections.length && this.minutesOf(sections.slice(at, at + count)) < shortestSession)
      count++
    const unit = sections.slice(at, at + count)
    // The last section may be one, with none after it.
    return at > 0 && this.minutesOf(unit) < shortestSession ? sections.slice(at - 1) : unit
  }

  /** Minutes of review that so many minutes of test are worth. */
  reviewOf(minutes: number): number {
    return Math.round((minutes * this.input.settings.reviewRatio) / 5) * 5
  }

  /**
   * So many minutes of review in session-sized pieces, from the day after the test, all before `until`; undefined if they do not fit, or
   * as many as do where `short`. A week without the test keeps room for timed work of its own.
   */
  reviewAfter(test: Block, until: DayNumber, minutes: number, short = false): Block[] | undefined {
    const pieces: Block[] = []
    let rest = minutes
    for (const day of this.days) {
      if (day <= test.day) continue
      if (day >= until || rest <= 0) break
      const kept = mondayOf(day) > test.day ? this.input.settings.sessionMinutes : 0
      for (
        let piece = this.pieceOn(day, rest, kept);
        piece && rest > 0;
        piece = this.pieceOn(day, rest, kept)
      ) {
        this.take(piece)
        pieces.push(piece)
        rest -= piece.minutes
      }
    }
    if (rest <= 0 || short) return pieces
    for (const piece of pieces) this.give(piece)
    return undefined
  }

  /** The first piece of review that a day holds, of at most `rest` minutes, none left over that would be too short. */
  private pieceOn(day: DayNumber, rest: number, kept: number): Block | undefined {
    const { calendar } = this
    if (rest <= 0) return undefined
    const least = Math.min(shortestReview, rest)
    const span = calendar.free(day).find(({ from, to }) => to - from >= least)
    if (!span) return undefined
    const room = Math.min(span.to - span.from, calendar.dayRoom(day), calendar.weekRoom(day) - kept)
    const pieces = Math.min(
      Math.ceil(rest / this.input.settings.sessionMinutes),
      Math.max(1, Math.floor(rest / least)),
    )
    const even = Math.min(rest, Math.ceil(rest / pieces / 5) * 5)
    const fits = Math.floor(Math.min(even, room) / 5) * 5
    const minutes = rest - fits > 0 && rest - fits < least ? (room >= rest ? rest : rest - least) : fits
    return minutes < least ? undefined : { day, from: span.from, minutes }
  }

  /** Minutes that may be planned from a day to before another. */
  openMinutes(from: DayNumber, to: DayNumber): number {
    return this.days.reduce(
      (sum, day) => (day >= from && day < to ? sum + this.calendar.roomOn(day) : sum),
      0,
    )
  }
}
