import type { ExamDay, ExamFormat, Settings, Sitting } from '@climber/contract'
import { asSat } from '../exam/accommodation'
import { sectionMinutes } from '../plan/tests'
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

/** The day from its end backwards and forwards: when to get up, leave, be there, and each section and break. */
export function timetable(
  format: ExamFormat,
  sitting: Sitting,
  day: ExamDay,
  settings: Pick<Settings, 'timeFactor' | 'accommodation'>,
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
  exam.sections.forEach((section, at) => {
    const minutes = sectionMinutes(section, timeFactor)
    moments.push({ minute: clock, what: 'section', title: section.title, minutes })
    clock += minutes
    if (at < exam.sections.length - 1 && section.breakAfter > 0) {
      moments.push({ minute: clock, what: 'break', title: 'Break', minutes: Math.ceil(section.breakAfter) })
      clock += Math.ceil(section.breakAfter)
    }
  })
  return [...moments, { minute: clock, what: 'end', title: 'End' }]
}
