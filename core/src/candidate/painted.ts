import type { Availability } from '@climber/contract'
import { minuteOf, timeOf } from '../time/day'

/** Free time is painted in pieces of so many minutes, between these minutes of the day. */
const piece = 30
const earliest = 7 * 60
const latest = 22 * 60 + 30

type Windows = Availability['windows']
const lengthOf = ({ from, to }: Windows[number]): number => minuteOf(to) - minuteOf(from)

/** A day's windows with `minutes` more: after its last one, else before its first; undefined where there is no room. */
function longer(own: Windows, weekday: number, minutes: number): Windows | undefined {
  const sorted = [...own].sort((a, b) => a.from.localeCompare(b.from))
  const [first, last] = [sorted[0], sorted[sorted.length - 1]]
  if (!first || !last) return [{ weekday, from: '18:00', to: timeOf(18 * 60 + minutes) }]
  const end = minuteOf(last.to)
  if (!last.light && end + minutes <= latest)
    return [...sorted.slice(0, -1), { ...last, to: timeOf(end + minutes) }]
  if (end + minutes <= latest) return [...sorted, { weekday, from: last.to, to: timeOf(end + minutes) }]
  const start = minuteOf(first.from)
  if (start - minutes < earliest) return undefined
  return first.light
    ? [{ weekday, from: timeOf(start - minutes), to: first.from }, ...sorted]
    : [{ ...first, from: timeOf(start - minutes) }, ...sorted.slice(1)]
}

/**
 * Free time with so many minutes more a week, in half-hours where there is room: on days that have some, the one with least first, then
 * on others, up to the most of a day and as many days as there may be. What is more than the week can hold is left out. A cap on the
 * week is lifted by as much.
 */
export function paintMore(availability: Availability, minutes: number): Availability {
  let windows = availability.windows
  const worked = (weekday: number) =>
    windows
      .filter((one) => one.weekday === weekday && !one.light)
      .reduce((sum, window) => sum + lengthOf(window), 0)
  let left = minutes
  while (left > 0) {
    const more = Math.min(piece, left)
    const used = [1, 2, 3, 4, 5, 6, 7].filter((weekday) => worked(weekday) > 0)
    const order = [1, 2, 3, 4, 5, 6, 7]
      .filter(
        (weekday) =>
          worked(weekday) + more <= availability.minutesPerDay &&
          (used.includes(weekday) || used.length < availability.daysPerWeek),
      )
      .sort((a, b) => Number(used.includes(b)) - Number(used.includes(a)) || worked(a) - worked(b) || a - b)
    const found = order.flatMap((weekday) => {
      const own = windows.filter((one) => one.weekday === weekday)
      const painted = longer(own, weekday, more)
      return painted ? [{ weekday, painted }] : []
    })[0]
    if (!found) break
    windows = [...windows.filter(({ weekday }) => weekday !== found.weekday), ...found.painted]
    left -= more
  }
  const { minutesPerWeek } = availability
  return {
    ...availability,
    windows,
    ...(minutesPerWeek !== undefined && { minutesPerWeek: Math.min(6300, minutesPerWeek + minutes - left) }),
  }
}
