import type { Availability, Busy, PlanSession } from '@climber/contract'
import { dayNumber, type DayNumber, minuteOf, mondayOf, weekdayOf } from '../../time/day'
import { cutInto, shortestSession } from './cut'

export interface Span {
  from: number
  to: number
}

/** Without `nights`, nothing is planned before this minute or after that one. */
const earliest = 6 * 60
const latest = 23 * 60

/** Spans with others cut out of them. */
export function without(spans: Span[], taken: Span[]): Span[] {
  let rest = spans
  for (const { from, to } of taken)
    rest = rest.flatMap((span) =>
      to <= span.from || from >= span.to
        ? [span]
        : [
            { from: span.from, to: Math.min(span.to, from) },
            { from: Math.max(span.from, to), to: span.to },
          ].filter((left) => left.to > left.from),
    )
  return rest
}

/** What else is on, by its day, from a day to before another. */
function spansByDay(busy: Busy[], first: DayNumber, until: DayNumber): Map<DayNumber, Span[]> {
  const found = new Map<DayNumber, Span[]>()
  for (const { date, from, to } of busy) {
    const day = dayNumber(date)
    if (day < first || day >= until) continue
    const spans = found.get(day)
    const span = { from: minuteOf(from), to: minuteOf(to) }
    if (spans) spans.push(span)
    else found.set(day, [span])
  }
  return found
}

/**
 * Free time from today to the day before the exam, and what has been taken of it. Days are day numbers, times minutes
 * since midnight in the candidate's zone.
 */
export class Calendar {
  private readonly open = new Map<DayNumber, Span[]>()
  /** Windows that take light work only. */
  private readonly lightOpen = new Map<DayNumber, Span[]>()
  private readonly busy = new Map<DayNumber, Span[]>()
  /** Minutes taken, by day. */
  private readonly used = new Map<DayNumber, number>()
  private readonly freeSums = new Map<DayNumber, number>()
  private readonly weekUsed = new Map<DayNumber, number>()
  /** As `weekUsed`, with what was done earlier in the first week: the cap of a week counts that too. */
  private readonly weekTotal = new Map<DayNumber, number>()
  readonly weekFree = new Map<DayNumber, number>()
  /** As `weekFree`, without the breaks and remnants. */
  private readonly weekFits = new Map<DayNumber, number>()

  constructor(
    readonly availability: Availability,
    readonly first: DayNumber,
    readonly exam: DayNumber,
    private readonly options: {
      nowMinute: number
      breakMinutes: number
      slackShare: number
      longestBlock: number
      /** Length of a session: what is left of a window by breaks and remnants is no slack that could be used. */
      sessionMinutes: number
      /** Days that keep their place when the days of a week are too many. */
      prefer?: Set<DayNumber>
    },
    kept: PlanSession[],
    busy: Busy[] = [],
  ) {
    const off = new Set(availability.daysOff.map(dayNumber))
    const exceptions = new Map(availability.exceptions.map(({ date, windows }) => [dayNumber(date), windows]))
    const engaged = spansByDay(busy, first, exam)
    const byWeekday = new Map<number, { from: string; to: string; light?: boolean }[]>()
    for (const window of availability.windows)
      byWeekday.set(window.weekday, [...(byWeekday.get(window.weekday) ?? []), window])
    for (let day = first; day < exam; day++) {
      if (off.has(day)) continue
      const windows: { from: string; to: string; light?: boolean }[] =
        exceptions.get(day) ?? byWeekday.get(weekdayOf(day)) ?? []
      const spansOf = (light: boolean) =>
        without(
          windows
            .filter((window) => Boolean(window.light) === light)
            .map(({ from, to }) => this.clip(day, minuteOf(from), minuteOf(to))),
          engaged.get(day) ?? [],
        )
          .map(({ from, to }) => ({ from: Math.ceil(from / 5) * 5, to }))
          .filter((span) => span.to > span.from)
          .sort((a, b) => a.from - b.from)
      const [spans, light] = [spansOf(false), spansOf(true)]
      if (spans.length || light.length) this.open.set(day, spans)
      if (light.length) this.lightOpen.set(day, light)
    }
    const keptDays = new Set<DayNumber>()
    for (const session of kept) {
      const { status, minutes: due, minutesDone } = session
      if (status === 'skipped' || status === 'slipped') continue
      const day = dayNumber(session.date)
      if (day < mondayOf(first) || day >= exam) continue
      keptDays.add(day)
      if (day < first) {
        const monday = mondayOf(day)
        const spent = status === 'done' ? (minutesDone ?? due) : due
        this.weekTotal.set(monday, (this.weekTotal.get(monday) ?? 0) + spent)
      }
      // What ran long has taken that time too, from the slack of its week.
      const long = status === 'done' ? Math.max(due, minutesDone ?? 0) : due
      if (day >= first) this.take(day, minuteOf(session.start), long)
    }
    this.keepDays(keptDays)
    for (const day of this.open.keys()) {
      const monday = mondayOf(day)
      this.weekFree.set(
        monday,
        Math.min(
          availability.minutesPerWeek ?? Infinity,
          (this.weekFree.get(monday) ?? 0) + this.usable(day),
        ),
      )
      this.weekFits.set(
        monday,
        Math.min(
          availability.minutesPerWeek ?? Infinity,
          (this.weekFits.get(monday) ?? 0) + Math.min(availability.minutesPerDay, this.fits(day)),
        ),
      )
    }
  }

  private clip(day: DayNumber, from: number, to: number): Span {
    const { nights } = this.availability
    const start = Math.max(from, nights ? 0 : earliest, day === this.first ? this.options.nowMinute : 0)
    return { from: Math.ceil(start / 5) * 5, to: Math.min(to, nights ? 1440 : latest) }
  }

  /** Minutes of a day that may be used: its windows, up to the day's cap. */
  private usable(day: DayNumber): number {
    const open = (this.open.get(day) ?? []).reduce((sum, { from, to }) => sum + to - from, 0)
    return Math.min(open, this.availability.minutesPerDay)
  }

  /** Minutes of sessions, with their breaks between, that the windows of a day hold. */
  private fits(day: DayNumber): number {
    const { breakMinutes, sessionMinutes } = this.options
    const least = Math.min(shortestSession, sessionMinutes)
    return (this.open.get(day) ?? []).reduce(
      (sum, { from, to }) =>
        cutInto(to - from, sessionMinutes, breakMinutes, least).reduce((all, one) => all + one, sum),
      0,
    )
  }

  /** Keeps to the cap on days a week by closing the days with least time, but for one that can hold a whole test. */
  private keepDays(kept: Set<DayNumber>): void {
    const weeks = new Map<DayNumber, DayNumber[]>()
    for (const day of this.open.keys()) weeks.set(mondayOf(day), [...(weeks.get(mondayOf(day)) ?? []), day])
    for (const [monday, days] of weeks) {
      const keptHere = [...kept].filter((day) => mondayOf(day) === monday)
      const room = Math.max(0, this.availability.daysPerWeek - keptHere.length)
      const preferred = (day: DayNumber) => Number(this.options.prefer?.has(day) ?? false)
      const others = days
        .filter((day) => !kept.has(day))
        .sort((a, b) => preferred(b) - preferred(a) || this.usable(b) - this.usable(a) || a - b)
      const chosen = others.slice(0, room)
      const holds = (day: DayNumber) =>
        this.options.longestBlock <= this.availability.minutesPerDay &&
        this.open.get(day)!.some(({ from, to }) => to - from >= this.options.longestBlock)
      if (chosen.length && ![...keptHere, ...chosen].some((day) => this.open.has(day) && holds(day))) {
        const better = others.slice(room).find(holds)
        if (better !== undefined) chosen[chosen.length - 1] = better
      }
      for (const day of others) if (!chosen.includes(day)) this.open.delete(day)
    }
  }

  days(): DayNumber[] {
    return [...this.open.keys()].sort((a, b) => a - b)
  }

  /** Free spans of a day, breaks beside taken ones kept clear; those for light work only where `light`. */
  free(day: DayNumber, light = false): Span[] {
    const spans = (light ? this.open.has(day) && this.lightOpen.get(day) : this.open.get(day)) || []
    const { breakMinutes } = this.options
    const around = (this.busy.get(day) ?? []).map(({ from, to }) => ({
      from: from - breakMinutes,
      to: to + breakMinutes,
    }))
    return around.length ? without(spans, around) : spans
  }

  /** Whether a stretch lies in free time, and meets nothing that is taken; breaks are not asked for. */
  holds(day: DayNumber, from: number, minutes: number, light = false): boolean {
    const to = from + minutes
    const inside = (spans: Span[] | undefined) => spans?.some((span) => span.from <= from && to <= span.to)
    return (
      Boolean(
        inside(this.open.get(day)) || (light && this.open.has(day) && inside(this.lightOpen.get(day))),
      ) && !this.busy.get(day)?.some((taken) => taken.from < to && from < taken.to)
    )
  }

  /** Minutes of a day that can still be used, its caps counted. */
  roomOn(day: DayNumber): number {
    let minutes = this.freeSums.get(day)
    if (minutes === undefined) {
      minutes = this.free(day).reduce((sum, { from, to }) => sum + to - from, 0)
      this.freeSums.set(day, minutes)
    }
    return Math.min(this.dayRoom(day), minutes)
  }

  /** Minutes that the caps of the day and of the week still allow. */
  dayRoom(day: DayNumber): number {
    const { minutesPerDay, minutesPerWeek = Infinity } = this.availability
    return Math.min(
      minutesPerDay - (this.used.get(day) ?? 0),
      minutesPerWeek - (this.weekTotal.get(mondayOf(day)) ?? 0),
    )
  }

  /** Minutes taken on a day. */
  taken(day: DayNumber): number {
    return this.used.get(day) ?? 0
  }

  /** Minutes taken in a week from the first day on. */
  weekTaken(monday: DayNumber): number {
    return this.weekUsed.get(monday) ?? 0
  }

  /** Minutes that the week may still take before its slack begins. */
  weekRoom(day: DayNumber): number {
    const monday = mondayOf(day)
    return (this.weekFits.get(monday) ?? 0) * (1 - this.options.slackShare) - (this.weekUsed.get(monday) ?? 0)
  }

  take(day: DayNumber, from: number, minutes: number): void {
    this.freeSums.delete(day)
    this.busy.set(day, [...(this.busy.get(day) ?? []), { from, to: from + minutes }])
    this.used.set(day, (this.used.get(day) ?? 0) + minutes)
    const monday = mondayOf(day)
    this.weekUsed.set(monday, (this.weekUsed.get(monday) ?? 0) + minutes)
    this.weekTotal.set(monday, (this.weekTotal.get(monday) ?? 0) + minutes)
  }

  /** Undoes one `take`. */
  give(day: DayNumber, from: number, minutes: number): void {
    this.freeSums.delete(day)
    const rest = (this.busy.get(day) ?? []).filter((span) => span.from !== from || span.to !== from + minutes)
    this.busy.set(day, rest)
    this.used.set(day, (this.used.get(day) ?? 0) - minutes)
    const monday = mondayOf(day)
    this.weekUsed.set(monday, (this.weekUsed.get(monday) ?? 0) - minutes)
    this.weekTotal.set(monday, (this.weekTotal.get(monday) ?? 0) - minutes)
  }
}
