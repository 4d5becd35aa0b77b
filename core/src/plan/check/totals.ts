import { at, begins, ends, type Rule, sumOf, weekOf } from './facts'

/** No two sessions at once, unless both were there before. */
export const noOverlap: Rule = ({ byDay, keptIds }, fail) => {
  for (const sessions of byDay.values())
    sessions.forEach((session, place) => {
      for (const other of sessions.slice(place + 1))
        if (begins(other) < ends(session) && !(keptIds.has(session.id) && keptIds.has(other.id)))
          fail('overlap', `${session.id} and ${other.id} overlap on ${session.date}`)
    })
}

/** The cap of a day, as far as what was there before leaves it. */
export const dayCap: Rule = ({ input, byDay, keptIds, today }, fail) => {
  const cap = input.availability.minutesPerDay
  for (const [day, sessions] of byDay) {
    const total = sumOf(sessions)
    const bound = sumOf(sessions.filter(({ id }) => keptIds.has(id)))
    if (day >= today && total > Math.max(bound, cap) && total > bound)
      fail('day-cap', `${sessions[0]?.date} has ${total} minutes; the cap is ${cap}`)
  }
}

/** The caps of a week: its days, and its minutes. */
export const weekCaps: Rule = ({ input, live, byDay, keptIds, today }, fail) => {
  const { daysPerWeek, minutesPerWeek } = input.availability
  const weeks = new Map<number, { all: Set<number>; bound: Set<number> }>()
  for (const [day, sessions] of byDay) {
    const week = weeks.get(weekOf(day)) ?? { all: new Set(), bound: new Set() }
    week.all.add(day)
    if (sessions.some(({ id }) => keptIds.has(id))) week.bound.add(day)
    weeks.set(weekOf(day), week)
  }
  for (const [monday, { all, bound }] of weeks) {
    if (all.size > bound.size && all.size > daysPerWeek)
      fail('week-cap', `the week of day ${monday} has ${all.size} days of work; the cap is ${daysPerWeek}`)
    if (minutesPerWeek === undefined || monday < weekOf(today)) continue
    const own = live.filter(({ date }) => weekOf(at(date)) === monday)
    const total = sumOf(own)
    if (total > sumOf(own.filter(({ id }) => keptIds.has(id))) && total > minutesPerWeek)
      fail('week-cap', `the week of day ${monday} has ${total} minutes; the cap is ${minutesPerWeek}`)
  }
}
