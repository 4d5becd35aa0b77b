import type { ExamFormat, Section } from '@climber/contract'
import { minuteOf, timeOf } from '../time/day'

/** When a section starts and ends, in minutes of the exam day. */
export interface SectionClock {
  section: string
  paper?: string
  start: number
  end: number
  /** Minutes from its end to the next section; 0 after the last. */
  gap: number
}

/**
 * The sections in the order in which they are sat: neighbours of one paper whose order the exam leaves free (`anyOrder`)
 * stand as `order` wishes, those that it does not name after them; all others stay where the exam has them.
 */
export function inSatOrder(sections: Section[], order: string[] = []): Section[] {
  const place = ({ id }: Section) => (order.includes(id) ? order.indexOf(id) : order.length)
  const sorted: Section[] = []
  for (let at = 0; at < sections.length;) {
    const first = sections[at]!
    let to = at + 1
    while (
      first.anyOrder &&
      to < sections.length &&
      sections[to]!.anyOrder &&
      sections[to]!.paper === first.paper
    )
      to++
    sorted.push(...sections.slice(at, to).sort((a, b) => place(a) - place(b)))
    at = to
  }
  return sorted
}

/** Whether a section may change places with a neighbour. */
export const movable = (sections: Section[], at: number): boolean =>
  [at - 1, at + 1].some((other) => {
    const next = sections[other]
    return Boolean(sections[at]!.anyOrder && next?.anyOrder && next.paper === sections[at]!.paper)
  })

/**
 * The clock of every section of an exam as it is sat (accommodations already in its minutes and breaks), starting at
 * `start`, HH:MM. Breaks belong to the place between two sections, whichever stand there.
 */
export function sectionClocks(
  exam: Pick<ExamFormat, 'sections'>,
  timeFactor: number,
  start: string,
  order?: string[],
): SectionClock[] {
  let clock = minuteOf(start)
  const { sections } = exam
  return inSatOrder(sections, order).map((section, at) => {
    const begins = clock
    const ends = begins + Math.round(section.minutes * 60 * timeFactor) / 60
    const gap = at < sections.length - 1 ? sections[at]!.breakAfter : 0
    clock = ends + gap
    return { section: section.id, paper: section.paper, start: begins, end: ends, gap }
  })
}

/** Seconds as `m:ss`. */
export const clockWords = (seconds: number): string =>
  `${Math.floor(seconds / 60)}:${String(Math.round(seconds % 60)).padStart(2, '0')}`

/** A moment of the day so many seconds after a minute of it, as HH:MM:SS. */
export function onTheClock(startMinute: number, seconds: number): string {
  const whole = Math.round(startMinute * 60 + seconds)
  return `${timeOf(Math.floor(whole / 60) % 1440)}:${String(whole % 60).padStart(2, '0')}`
}
