import { isActive, isTimed } from '../../sessions/session'
import { dayNumber, type DayNumber, mondayOf } from '../../time/day'
import type { PlanInput } from '../input'
import type { PlacedStage } from '../phases'
import type { TestRoom } from './blocks'
import type { TestPlacing } from './place'
import { testEveryOf } from './wishes'

/** A full week of study, Monday to Sunday, that nothing timed stands in. */
function weeksWithout(stages: PlacedStage[], first: DayNumber, taper: DayNumber, testDays: DayNumber[]) {
  const weeks: { monday: DayNumber; stage: PlacedStage }[] = []
  for (let monday = mondayOf(first + 6); monday + 7 <= taper; monday += 7) {
    const stage = stages.find(({ from, to }) => monday >= from && monday < to)
    if (stage && !testDays.some((day) => day >= monday && day < monday + 7)) weeks.push({ monday, stage })
  }
  return weeks
}

/** A section at its exam length in each full week without a test: the one longest not sat under the clock, where it fits. */
export function placeSections(
  input: PlanInput,
  room: TestRoom,
  placing: TestPlacing,
  stages: PlacedStage[],
  first: DayNumber,
  taper: DayNumber,
) {
  const standing = [...input.kept]
    .filter((session) => isTimed(session) && isActive(session))
    .map(({ date }) => dayNumber(date))
  const sat = new Map<string, number>()
  const worth = new Map<string, number>()
  for (const { section, value, known } of input.topics)
    worth.set(section, (worth.get(section) ?? 0) + value * (1 - known))
  const testDays = [...standing, ...placing.placed.flatMap(({ blocks }) => blocks.map(({ day }) => day))]
  for (const { monday, stage } of weeksWithout(stages, first, taper, testDays)) {
    if (!testEveryOf(input, stage)) continue
    const order = input.exam.sections
      .flatMap((section, at) => (section.timed === false ? [] : [{ id: section.id, at }]))
      .sort(
        (a, b) =>
          (sat.get(a.id) ?? -1) - (sat.get(b.id) ?? -1) || (worth.get(b.id) ?? 0) - (worth.get(a.id) ?? 0),
      )
    const units = order.map(({ at }) => room.unitFrom(at))
    const found = placing.section(units, stage, monday, monday + 6, taper)
    for (const { id } of found?.sections ?? []) sat.set(id, monday)
  }
}
