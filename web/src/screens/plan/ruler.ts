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
import { type Elastic, elastic, type Stretch } from './elastic'

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

const stretchOf = ({ from, to }: { from: string; to: string }): Stretch => [minuteOf(from), minuteOf(to)]

/** Room for the word of the exam, from its bell on. */
const examOf = (start: string): Stretch => [minuteOf(start), Math.min(1440, minuteOf(start) + 180)]

/** The days that are shown and the common ruler they lie on, which folds what is of no use on any of them. */
export function useRuler(weeksShown: () => number): {
  days: ComputedRef<RulerDay[]>
  ruler: ComputedRef<Elastic>
  /** Where a time of day lies, and how wide a stretch is, as CSS has it. */
  left: (minute: number) => string
  wide: (from: number, to: number) => string
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
  const days = computed(() => {
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
      }))
  })
  const ruler = computed(() =>
    elastic([
      ...days.value.flatMap((day) => [
        ...day.free.map(stretchOf),
        ...day.sessions.map(({ start, minutes }): Stretch => [minuteOf(start), minuteOf(start) + minutes]),
        ...(day.exam ? [examOf(workspace.sitting!.start)] : []),
      ]),
      // Weeks that have little in them, such as the last, lie as the others do.
      ...(windows.value?.windows ?? []).map(stretchOf),
    ]),
  )
  const percent = (share: number) => `${100 * share}%`
  return {
    days,
    ruler,
    left: (minute) => percent(ruler.value.at(minute)),
    wide: (from, to) => percent(ruler.value.at(to) - ruler.value.at(from)),
  }
}
