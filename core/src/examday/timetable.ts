import type { ExamDay, ExamFormat, Settings, Sitting } from '@climber/contract'
import { asSat } from '../exam/accommodation'
import { inSatOrder } from '../pacing/clock'
import { sectionMinutes } from '../plan/tests/lengths'
import { dayNumber, minuteOf } from '../time/day'

export interface Moment {
  /** Minutes since midnight of exam day; below 0 is the evening before. */
  minute: number
  what: 'up' | 'leave' | 'there' | 'section' | 'break' | 'end'
  title: string
  minutes?: number
}

/** Days from `today` to the sitting; 0 on the day, negative after it. */
export const daysUntil = (sitting: Sitting, today: string): number =>
  dayNumber(sitting.date) - dayNumber(today)

/**
 * The day from its end backwards and forwards: when to get up, leave, be there, and each section and break. `order` is of
 * sections, where the exam leaves it free.
 */
export function timetable(
  format: ExamFormat,
  sitting: Sitting,
  day: ExamDay,
  settings: Pick<Settings, 'timeFactor' | 'accommodation'>,
  order?: string[],
): Moment[] {
  const { exam, timeFactor } = asSat(format, settings)
  const start = minuteOf(sitting.start)
  const there = start - day.earlyMinutes
  const leave = there - day.travelMinutes
  const moments: Moment[] = [
    { minute: leave - day.readyMinutes, what: 'up', title: 'Get up' },
    { minute: leave, what: 'leave', title: 'Leave home', minutes: day.travelMinutes },
    {
      minute: there,
      what: 'there',
      title: sitting.place ? `Be at ${sitting.place}` : 'Be there',
      minutes: day.earlyMinutes,
    },
  ]
  let clock = start
  inSatOrder(exam.sections, order).forEach((section, at) => {
    const minutes = sectionMinutes(section, timeFactor)
    moments.push({ minute: clock, what: 'section', title: section.title, minutes })
    clock += minutes
    // Breaks belong to the place between two sections, whichever stand there.
    const pause = Math.ceil(exam.sections[at]!.breakAfter)
    if (at < exam.sections.length - 1 && pause > 0) {
      moments.push({ minute: clock, what: 'break', title: 'Break', minutes: pause })
      clock += pause
    }
  })
  return [...moments, { minute: clock, what: 'end', title: 'End' }]
}
