import { computed, type ComputedRef } from 'vue'
import type { StoredSession } from '@climber/contract'
import {
  busyOf,
  commitmentDays,
  dateOf,
  dayNumber,
  daysOffOf,
  minuteOf,
  mondayOf,
  weekdayOf,
} from '@climber/core'
import { useWorkspace } from '../../stores/workspace'
import { type Stretch, stretchesOf } from './elastic'

export interface RulerDay {
  day: number
  date: string
  sessions: StoredSession[]
  free: { from: string; to: string; light?: boolean }[]
  busy: { from: string; to: string }[]
  monday: boolean
  exam: boolean
  off: boolean
  /** The public holiday that nothing is planned on. */
  holiday?: string
  past: boolean
  /** When something is, or may be: what its ruler shows. */
  stretches: Stretch[]
}

const stretchOf = ({ from, to }: { from: string; to: string }): Stretch => [minuteOf(from), minuteOf(to)]

/** Room for the word of the exam, from its bell on. */
const examOf = (start: string): Stretch => [minuteOf(start), Math.min(1440, minuteOf(start) + 180)]

/** The days that are shown, with what lies on each. */
export function useDays(weeksShown: () => number): ComputedRef<RulerDay[]> {
  const workspace = useWorkspace()
  const sessions = computed(() => workspace.plan?.sessions ?? [])
  const byDay = computed(() => {
    const map = new Map<string, StoredSession[]>()
    for (const session of sessions.value) map.set(session.date, [...(map.get(session.date) ?? []), session])
    return map
  })
  const busyByDay = computed(() => {
    const map = new Map<string, { from: string; to: string }[]>()
    const { record } = workspace
    if (!record) return map
    const start = dayNumber(workspace.overview?.start ?? workspace.today)
    for (const span of busyOf(record.commitments, start, exam.value ?? start + commitmentDays))
      map.set(span.date, [...(map.get(span.date) ?? []), span])
    return map
  })
  const exam = computed(() => (workspace.sitting ? dayNumber(workspace.sitting.date) : undefined))
  const windows = computed(() => workspace.record?.availability)
  const daysOff = computed(() => new Set(windows.value ? daysOffOf(windows.value) : []))
  const freeOn = (day: number) => {
    const availability = windows.value
    if (!availability || (exam.value !== undefined && day >= exam.value) || daysOff.value.has(dateOf(day)))
      return []
    const exception = availability.exceptions.find(({ date }) => dayNumber(date) === day)
    return exception
      ? exception.windows
      : availability.windows.filter(({ weekday }) => weekday === weekdayOf(day))
  }
  /** When there is usually time on that day of the week: the same days lie alike in all weeks, but for the exam's own. */
  const usual = (day: number) =>
    day === exam.value
      ? []
      : (windows.value?.windows ?? []).filter(({ weekday }) => weekday === weekdayOf(day))
  const stretchesOn = (day: number) =>
    stretchesOf([
      ...[...usual(day), ...freeOn(day)].map(stretchOf),
      ...(byDay.value.get(dateOf(day)) ?? []).map(({ start, minutes }): Stretch => [
        minuteOf(start),
        minuteOf(start) + minutes,
      ]),
      ...(day === exam.value ? [examOf(workspace.sitting!.start)] : []),
    ])
  return computed(() => {
    const first = mondayOf(dayNumber(workspace.from || workspace.today))
    return Array.from({ length: weeksShown() * 7 }, (_, at) => first + at)
      .filter((day) => exam.value === undefined || day <= mondayOf(exam.value) + 6)
      .map((day) => ({
        day,
        date: dateOf(day),
        sessions: byDay.value.get(dateOf(day)) ?? [],
        free: freeOn(day),
        busy: busyByDay.value.get(dateOf(day)) ?? [],
        monday: weekdayOf(day) === 1,
        exam: day === exam.value,
        off: daysOff.value.has(dateOf(day)),
        holiday: windows.value?.holidays?.find(({ date, work }) => date === dateOf(day) && !work)?.title,
        past: dateOf(day) < workspace.today,
        stretches: stretchesOn(day),
      }))
  })
}
