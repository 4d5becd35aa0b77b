import type { Busy } from '@climber/contract'
import { at, clock, type Rule, weekday } from './facts'

/** Ids are unique, and what was to stay stayed. */
export const keptAndUnique: Rule = ({ input, plan }, fail) => {
  const byId = new Map(plan.sessions.map((session) => [session.id, session]))
  if (byId.size !== plan.sessions.length) fail('unique', 'two sessions share an id')
  for (const before of input.kept)
    if (JSON.stringify(byId.get(before.id)) !== JSON.stringify(before))
      fail('kept', `${before.id} was to stay as it was`)
}

const nightFrom = 23 * 60
const nightTo = 6 * 60

/** Every session placed lies in the plan's days, in free time, in no commitment, by day, and easy in the taper. */
export const inFreeTime: Rule = ({ input, made, today, examDay }, fail) => {
  const { availability, settings } = input
  const off = new Set(availability.daysOff.map(at))
  const exceptions = new Map(availability.exceptions.map(({ date, windows }) => [at(date), windows]))
  const engaged = new Map<string, Busy[]>()
  for (const busy of input.busy) engaged.set(busy.date, [...(engaged.get(busy.date) ?? []), busy])
  for (const { id, date, start, minutes, kind } of made) {
    const day = at(date)
    const from = clock(start)
    const to = from + minutes
    if (day < today || day >= examDay) fail('range', `${id} on ${date} is outside the plan's days`)
    if (day === today && from < input.nowMinute) fail('range', `${id} starts in the past`)
    const windows: { from: string; to: string; light?: boolean }[] =
      exceptions.get(day) ?? availability.windows.filter((window) => window.weekday === weekday(day))
    const light = kind === 'light' || kind === 'errand'
    const inside = windows.some(
      (window) => clock(window.from) <= from && to <= clock(window.to) && (light || !window.light),
    )
    if (off.has(day) || !inside) fail('free', `${id} on ${date} ${start} is not inside free time`)
    for (const busy of engaged.get(date) ?? [])
      if (clock(busy.from) < to && from < clock(busy.to))
        fail('busy', `${id} on ${date} ${start} meets a commitment from ${busy.from}`)
    if (!availability.nights && (from < nightTo || to > nightFrom)) fail('free', `${id} runs into the night`)
    if (day >= examDay - settings.taperDays && !light) fail('taper', `${id} is ${kind} in the taper`)
  }
}
