import fc from 'fast-check'
import { gardenExam, sectionE, sectionOf, tableE } from '../../test/fixture'
import {
  composite,
  convert,
  endsEarly,
  lossBudget,
  rawNeeded,
  rawOfGroup,
  reachableRaws,
  roundToStep,
  paperScore,
} from '../index'

describe('the worked example of table E', () => {
  it('scores 41 right, 12 wrong, 7 blank as raw 37 and scaled 223', () => {
    const raw = rawOfGroup(sectionE.groups[0]!, { right: 41, wrong: 12 })
    expect(raw).toBeCloseTo(37, 12)
    expect(convert(tableE, raw)).toBe(223)
  })
  it('needs raw 43 1/3 for 240', () => {
    expect(rawNeeded(sectionE, tableE, 240)).toBeCloseTo(43 + 1 / 3, 9)
  })
  it('gives the loss budget for 240', () => {
    const budget = lossBudget(sectionE, tableE, 240)!
    const blanks = (wrong: number) => budget.find((entry) => entry.wrong === wrong)?.blank
    expect([0, 3, 6, 9, 12].map(blanks)).toEqual([16, 12, 8, 4, 0])
    expect(blanks(13)).toBeUndefined()
  })
})

describe('conversion', () => {
  it('clamps at the ends and rounds half up', () => {
    expect(convert(tableE, -30)).toBe(100)
    expect(convert(tableE, 99)).toBe(300)
    expect(roundToStep(222.5, 1)).toBe(223)
    expect(roundToStep(-0.5, 1)).toBe(-0 + 0)
    expect(roundToStep(12.5, 5)).toBe(15)
  })
  it('says what it means that a table ends before the full marks', () => {
    const [raw, scaled] = tableE.points.at(-1)!
    expect(endsEarly(tableE, raw)).toBeUndefined()
    expect(endsEarly(tableE, raw - 1)).toBeUndefined()
    expect(endsEarly(tableE, raw + 2)).toContain(
      `ends at raw ${raw}, but ${raw + 2} can be reached: whoever has more than ${raw} gets ${scaled}`,
    )
    expect(convert(tableE, raw + 2)).toBe(scaled)
    expect(endsEarly({ points: [], step: 1 }, 5)).toBeUndefined()
  })
})

/** A random rising table over the raw range of a section of `items`. */
const randomTable = (items: number) =>
  fc
    .tuple(
      fc.uniqueArray(fc.integer({ min: -items, max: items }), { minLength: 2, maxLength: 7 }),
      fc.array(fc.integer({ min: 0, max: 40 }), { minLength: 7, maxLength: 7 }),
      fc.constantFrom(0.5, 1, 5, 10),
    )
    .map(([raws, rises, step]) => {
      let scaled = 100
      return {
        points: raws
          .sort((a, b) => a - b)
          .map((raw, at) => [raw, (scaled += rises[at]!)] as [number, number]),
        step,
      }
    })

describe('inverse scoring agrees with brute force', () => {
  const cases = fc
    .record({
      items: fc.integer({ min: 1, max: 14 }),
      perWrong: fc.constantFrom(0, 0.25, 1 / 3, 0.5, 1),
      target: fc.integer({ min: 90, max: 380 }),
    })
    .chain((base) => randomTable(base.items).map((table) => ({ ...base, table })))
  const sectionWith = (items: number, perWrong: number) => {
    const section = sectionOf('x', items, 30, tableE)
    return { ...section, groups: [{ ...section.groups[0]!, perWrong }] }
  }
  it('raw needed', () => {
    fc.assert(
      fc.property(cases, ({ items, perWrong, target, table }) => {
        const section = sectionWith(items, perWrong)
        let least: number | undefined
        for (let right = 0; right <= items; right++)
          for (let wrong = 0; right + wrong <= items; wrong++) {
            const raw = right - wrong * perWrong
            if (convert(table, raw) >= target && (least === undefined || raw < least)) least = raw
          }
        const found = rawNeeded(section, table, target)
        if (least === undefined) expect(found).toBeUndefined()
        else expect(found).toBeCloseTo(least, 6)
      }),
      { numRuns: 300 },
    )
  })
  it('loss budget', () => {
    fc.assert(
      fc.property(cases, ({ items, perWrong, target, table }) => {
        const budget = lossBudget(sectionWith(items, perWrong), table, target)!
        for (let wrong = 0; wrong <= items; wrong++) {
          let most = -1
          for (let blank = 0; wrong + blank <= items; blank++)
            if (convert(table, items - wrong - blank - wrong * perWrong) >= target)
              most = Math.max(most, blank)
          expect(budget.find((entry) => entry.wrong === wrong)?.blank ?? -1).toBe(most)
        }
      }),
      { numRuns: 300 },
    )
  })
})

describe('sections of several groups', () => {
  const section = {
    ...sectionE,
    groups: [
      { id: 'a', kind: 'choice' as const, items: 3, choices: 4, perRight: 1, perWrong: 0.5 },
      { id: 'b', kind: 'numeric' as const, items: 2, perRight: 2, perWrong: 0 },
    ],
  }
  it('reach every sum of their groups, and have no single price of a wrong answer', () => {
    const raws = reachableRaws(section)
    expect(raws[0]).toBe(-1.5)
    expect(raws[raws.length - 1]).toBe(7)
    expect(raws).toContain(2.5)
    expect(lossBudget(section, tableE, 140)).toBeUndefined()
  })
})

describe('standing', () => {
  const counts = {
    'names-items': { right: 41, wrong: 12, blank: 7, notReached: 0 },
    'ledgers-items': { right: 15, wrong: 0, blank: 15, notReached: 0 },
  }
  it('adds scaled sections and tests every cut', () => {
    const result = paperScore(gardenExam, counts)!
    expect(result.sections.map(({ scaled }) => scaled)).toEqual([223, 200])
    expect(result.composite).toBe(423)
    expect(result.passed).toBe(true)
    expect(result.sections[0]!.ownTable).toBe(false)
  })
  it("uses the form's own table and says so", () => {
    const form = {
      ...gardenExam.forms[0]!,
      conversions: {
        names: {
          points: [
            [0, 100],
            [60, 160],
          ] as [number, number][],
          step: 1,
        },
      },
    }
    const result = paperScore(gardenExam, counts, form)!
    expect(result.sections[0]).toMatchObject({ scaled: 137, ownTable: true })
    expect(result.passed).toBe(false)
  })
  it('is unknown while counts are missing', () => {
    expect(paperScore(gardenExam, { 'names-items': counts['names-items'] })).toBeUndefined()
  })
  it('weighs sections as the exam says', () => {
    expect(composite({ ...gardenExam, composite: { kind: 'mean', step: 1 } }, [200, 101])).toBe(151)
    expect(
      composite(
        { ...gardenExam, composite: { kind: 'weighted', weights: { names: 0.25, ledgers: 0.5 }, step: 10 } },
        [200, 101],
      ),
    ).toBe(100)
  })
})
