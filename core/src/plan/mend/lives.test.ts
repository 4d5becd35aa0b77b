import type { Counts } from '@climber/contract'
import { gardenShelf, today } from '../../../test/arbitrary'
import { gardenExam, gardenRecord, morning } from '../../../test/fixture'
import { faultsOf, Life } from '../../../test/lives'
import { randomFrom } from '../../exact/random'
import { dayNumber, dateOf, itemsOf, previewPlan, withPlan } from '../../index'

/** Nobody who learns: papers come out as chance has them. What counts here is that every mended plan holds. */
const papers = (
  random: () => number,
): { groups: Record<string, Counts>; topics: Record<string, Counts> } => ({
  groups: Object.fromEntries(
    gardenExam.sections.flatMap((section) =>
      section.groups.map((group): [string, Counts] => {
        const right = Math.round(itemsOf({ ...section, groups: [group] }) * (0.3 + 0.5 * random()))
        return [group.id, { right, wrong: group.items - right, blank: 0, notReached: 0 }]
      }),
    ),
  ),
  topics: {},
})

describe('twelve messy weeks, mended every Monday', () => {
  it.each([3, 14, 15, 92, 65, 35])(
    'leave a plan that holds, with true words and no hole (seed %s)',
    (seed) => {
      const random = randomFrom(seed)
      const record = gardenRecord({
        ...(seed % 2 ? { materials: gardenShelf } : {}),
        exam: {
          ...gardenExam,
          sittings: [{ ...gardenExam.sittings[0]!, date: dateOf(dayNumber(today) + 100) }],
        },
      })
      const made = previewPlan(record, morning(today), seed)!
      const life = new Life(withPlan(record, made.plan), dayNumber(today), {
        random,
        works: () => undefined,
        sits: () => papers(random),
      })
      const happened: string[] = []
      for (let week = 0; week < 12; week++) {
        const lived = life.week()
        if (!lived) break
        happened.push(...lived.happened)
        expect(faultsOf(lived)).toEqual([])
      }
      expect(happened.length).toBeGreaterThan(10)
    },
  )
})
