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
}

/** The days that are shown and the common ruler they lie on. */
export function useRuler(weeksShown: () => number): {
  days: ComputedRef<RulerDay[]>
  ruler: ComputedRef<{ from: number; to: number; hours: number[] }>
  left: (minute: number) => string
  wide: (minutes: number) => string
} {
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
  const ruler = computed(() => {
    const spans = [
      ...sessions.value.map(({ start, minutes }) => [minuteOf(start), minuteOf(start) + minutes]),
      ...(windows.value?.windows ?? []).map(({ from, to }) => [minuteOf(from), minuteOf(to)]),
    ] as [number, number][]
    const from = Math.floor(Math.min(9 * 60, ...spans.map(([start]) => start)) / 60) * 60
    const to = Math.ceil(Math.max(18 * 60, ...spans.map(([, end]) => end)) / 60) * 60
    return { from, to, hours: Array.from({ length: (to - from) / 60 + 1 }, (_, at) => from / 60 + at) }
  })
  const share = (minutes: number) => (100 * minutes) / (ruler.value.to - ruler.value.from)
  const days = computed(() => {
    const first = mondayOf(dayNumber(workspace.from || workspace.today))
    return Array.from({ length: weeksShown() * 7 }, (_, at) => first + at)
      .filter((day) => exam.value === undefined || day <= mondayOf(exam.value) + 6)
      .map((day) => ({
        day,
        date: dateOf(day),
        sessions: byDay.value.get(dateOf(day)) ?? [],
        free: freeOn(day),
        busy: (busyByDay.value.get(dateOf(day)) ?? []).flatMap(({ from, to }) => {
          // What lies outside the ruler is not drawn.
          const start = Math.max(minuteOf(from), ruler.value.from)
          const end = Math.min(minuteOf(to), ruler.value.to)
          return end > start ? [{ from, to }] : []
        }),
        monday: weekdayOf(day) === 1,
        exam: day === exam.value,
        off: daysOff.value.has(dateOf(day)),
        holiday: windows.value?.holidays?.find(({ date, work }) => date === dateOf(day) && !work)?.title,
        past: dateOf(day) < workspace.today,
      }))
  })
  return {
    days,
    ruler,
    left: (minute) => `${share(Math.max(0, minute - ruler.value.from))}%`,
    wide: (minutes) => `${share(minutes)}%`,
  }
}
