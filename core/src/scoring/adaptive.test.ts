import fc from 'fast-check'
import type { ExamFormat, ItemGroup, Section } from '@climber/contract'
import { gardenExam, sectionOf, tableE } from '../../test/fixture'
import {
  bandOf,
  composite,
  compositeExactly,
  compositeSlopes,
  convert,
  itemsOf,
  lossBudget,
  mustReach,
  percentileOf,
  rawNeeded,
  rawOfGroup,
  rawOfSection,
  scaledAt,
  scaledAtPercentile,
  stageChances,
  stageNeeds,
  stageTaken,
  paperScore,
} from '../index'

const group = (id: string, items: number, more: Partial<ItemGroup> = {}): ItemGroup => ({
  id,
  kind: 'choice',
  items,
  choices: 4,
  perRight: 1,
  perWrong: 0,
  ...more,
})
const rising = (length: number) =>
  fc.array(fc.tuple(fc.integer({ min: 1, max: 6 }), fc.integer({ min: 0, max: 30 })), {
    minLength: length,
    maxLength: length,
  })
const tableFrom = (low: number, steps: [number, number][], step: number) => {
  let [raw, scaled] = [low, 100]
  return {
    step,
    points: steps.map(([dr, ds]) => [(raw += dr), (scaled += ds)] as [number, number]),
  }
}
const steps = fc.constantFrom(0.5, 1, 5, 10)
const penalties = fc.constantFrom(0, 0.25, 1 / 3, 0.5, 1)

/** Every (right, wrong, blank) of a group, or every mark of a written one. */
function* everyCount(one: ItemGroup) {
  if (one.kind === 'written') {
    for (let blank = 0; blank <= one.items; blank++)
      for (let marks = 0; marks <= (one.items - blank) * one.perRight; marks++)
        yield { right: 0, wrong: 0, blank, notReached: 0, marks }
    return
  }
  for (let right = 0; right <= one.items; right++)
    for (let wrong = 0; right + wrong <= one.items; wrong++)
      yield { right, wrong, blank: one.items - right - wrong, notReached: 0 }
}

const mixed = fc
  .record({
    first: fc.record({
      items: fc.integer({ min: 1, max: 6 }),
      perWrong: penalties,
      perBlank: fc.constantFrom(0, 0.2, -0.5),
    }),
    second: fc.record({
      kind: fc.constantFrom('numeric' as const, 'written' as const),
      items: fc.integer({ min: 1, max: 3 }),
      perRight: fc.constantFrom(1, 2, 3),
    }),
    table: rising(5),
    step: steps,
    target: fc.integer({ min: 95, max: 260 }),
  })
  .map(({ first, second, table, step, target }) => ({
    groups: [
      group('a', first.items, { perWrong: first.perWrong, perBlank: first.perBlank }),
      group('b', second.items, { kind: second.kind, perRight: second.perRight, choices: undefined }),
    ],
    conversion: tableFrom(-4, table, step),
    target,
  }))

describe('inverse scoring of mixed sections agrees with brute force over every count', () => {
  it('the raw needed', () => {
    fc.assert(
      fc.property(mixed, ({ groups, conversion, target }) => {
        let least: number | undefined
        for (const a of everyCount(groups[0]!))
          for (const b of everyCount(groups[1]!)) {
            const raw = rawOfGroup(groups[0]!, a) + rawOfGroup(groups[1]!, b)
            if (convert(conversion, raw) >= target && (least === undefined || raw < least)) least = raw
          }
        const found = rawNeeded({ groups }, conversion, target)
        if (least === undefined) expect(found).toBeUndefined()
        else expect(found).toBeCloseTo(least, 6)
      }),
      { numRuns: 200 },
    )
  })
  it('the loss budget where a blank earns or costs something', () => {
    fc.assert(
      fc.property(mixed, ({ groups, conversion, target }) => {
        const section = { ...sectionOf('x', 1, 30, conversion), groups: [groups[0]!] }
        const budget = lossBudget(section, conversion, target)!
        const { items } = groups[0]!
        for (let wrong = 0; wrong <= items; wrong++) {
          let most = -1
          for (let blank = 0; wrong + blank <= items; blank++)
            if (
              convert(conversion, rawOfGroup(groups[0]!, { right: items - wrong - blank, wrong, blank })) >=
              target
            )
              most = blank
          expect(budget.find((entry) => entry.wrong === wrong)?.blank ?? -1).toBe(most)
        }
      }),
      { numRuns: 200 },
    )
  })
})

const adaptive = fc
  .record({
    items: fc.tuple(
      fc.integer({ min: 2, max: 5 }),
      fc.integer({ min: 1, max: 4 }),
      fc.integer({ min: 1, max: 4 }),
    ),
    perWrong: penalties,
    from: fc.integer({ min: 1, max: 4 }),
    tables: fc.tuple(rising(4), rising(4)),
    step: steps,
    target: fc.integer({ min: 95, max: 220 }),
  })
  .map(({ items, perWrong, from, tables, step, target }) => {
    const stage = (at: 0 | 1) => ({
      id: `stage-${at}`,
      title: `Stage ${at}`,
      from: at * from,
      groups: [group(`stage-${at}-items`, items[at + 1]!, { perWrong })],
      conversion: tableFrom(-3, tables[at], step),
    })
    const section: Section = {
      ...sectionOf('x', items[0]!, 30, tableE),
      groups: [group('first', items[0]!, { perWrong })],
      stages: [stage(0), stage(1)],
    }
    return { section, target }
  })

describe('adaptive sections', () => {
  it('what each second stage asks agrees with brute force over every count of both stages', () => {
    fc.assert(
      fc.property(adaptive, ({ section, target }) => {
        const least = new Map<string, number>()
        const lead = new Map<string, number>()
        for (const first of everyCount(section.groups[0]!)) {
          const taken = stageTaken(section, { first })!
          const raw1 = rawOfGroup(section.groups[0]!, first)
          lead.set(taken.id, Math.min(lead.get(taken.id) ?? Infinity, raw1))
          for (const second of everyCount(taken.groups[0]!)) {
            const counts = { first, [taken.groups[0]!.id]: second }
            const raw = rawOfSection(section, counts)!
            expect(raw).toBeCloseTo(raw1 + rawOfGroup(taken.groups[0]!, second), 9)
            if (convert(taken.conversion, raw) >= target)
              least.set(taken.id, Math.min(least.get(taken.id) ?? Infinity, raw))
          }
        }
        for (const [at, need] of stageNeeds(section, target).entries()) {
          if (least.has(need.stage)) expect(need.raw).toBeCloseTo(least.get(need.stage)!, 6)
          else expect(need.raw).toBeUndefined()
          if (at > 0 && lead.has(need.stage)) expect(need.first).toBeCloseTo(lead.get(need.stage)!, 6)
        }
      }),
      { numRuns: 200 },
    )
  })
  it('expect a score between the tables, every stage by its chance', () => {
    fc.assert(
      fc.property(adaptive, fc.double({ min: 0, max: 1, noNaN: true }), ({ section }, known) => {
        const chances = stageChances(section, known)
        expect(chances.reduce((a, b) => a + b, 0)).toBeCloseTo(1, 12)
        for (const chance of chances) expect(chance).toBeGreaterThanOrEqual(-1e-12)
        const all = section.stages!.flatMap(({ conversion }) => conversion.points.map(([, scaled]) => scaled))
        expect(scaledAt(section, known)).toBeGreaterThanOrEqual(Math.min(...all) - 1e-9)
        expect(scaledAt(section, known)).toBeLessThanOrEqual(Math.max(...all) + 1e-9)
      }),
    )
  })
  it('count as long as their longest way, and score nothing while a stage that was met is not counted', () => {
    const section: Section = {
      ...sectionOf('x', 10, 30, tableE),
      groups: [group('first', 10)],
      stages: [
        { id: 'low', title: 'Low', from: 0, groups: [group('low-items', 5)], conversion: tableE },
        { id: 'high', title: 'High', from: 6, groups: [group('high-items', 8)], conversion: tableE },
      ],
    }
    const first = { right: 6, wrong: 4, blank: 0, notReached: 0 }
    expect(itemsOf(section)).toBe(18)
    expect(stageTaken(section, { first })!.id).toBe('high')
    expect(rawOfSection(section, { first })).toBeUndefined()
    expect(rawOfSection(section, { first, 'high-items': { ...first, right: 8, wrong: 0 } })).toBe(14)
  })
})

const withTable = (kind: ExamFormat['composite']['kind'], more: object = {}): ExamFormat => ({
  ...gardenExam,
  composite: { kind, step: 5, ...more },
})
describe('composites', () => {
  const kinds = fc.oneof(
    fc.constant(withTable('sum')),
    fc.constant(withTable('mean')),
    fc
      .tuple(fc.constantFrom(0.2, 0.5, 1), fc.constantFrom(0.3, 1, 2))
      .map(([names, ledgers]) => withTable('weighted', { weights: { names, ledgers } })),
    fc.tuple(rising(4), steps).map(([table, step]) =>
      withTable('table', {
        step,
        table: tableFrom(
          200,
          table.map(([a, b]) => [a * 30, b]),
          1,
        ),
      }),
    ),
  )
  it('what a section must reach is the least that makes the rounded composite, against every score of its scale', () => {
    fc.assert(
      fc.property(
        kinds,
        fc.integer({ min: 100, max: 300 }),
        fc.integer({ min: 90, max: 620 }),
        fc.constantFrom(0, 1),
        (exam, other, wanted, at) => {
          const scores = (own: number) => (at === 0 ? [own, other] : [other, own])
          const need = mustReach(exam, scores(0), at, wanted)!
          for (let own = 100; own <= 300; own += 0.5) {
            const reaches = composite(exam, scores(own)) >= wanted - 1e-9
            if (Math.abs(own - need) > 1e-6) expect(own > need).toBe(reaches)
          }
        },
      ),
      { numRuns: 200 },
    )
  })
  it('a table is read at the weighted sum, and its slope is that of the table there', () => {
    const exam = withTable('table', {
      table: {
        step: 1,
        points: [
          [200, 0],
          [400, 50],
          [600, 250],
        ],
      },
      weights: { names: 1, ledgers: 1 },
    })
    expect(compositeExactly(exam, [150, 150])).toBe(25)
    expect(compositeSlopes(exam, [250, 280])[0]).toBeCloseTo(1, 1)
    expect(compositeSlopes(exam, [130, 140])[0]).toBeCloseTo(0.25, 1)
  })
  it('bands and percentiles name a score; the score of a percentile is the least with that many below', () => {
    const exam: ExamFormat = {
      ...gardenExam,
      bands: [
        { title: 'Pass', from: 420 },
        { title: 'High', from: 500 },
      ],
      percentiles: [
        [200, 1],
        [400, 41],
        [600, 99],
      ],
    }
    expect([300, 420, 510].map((score) => bandOf(exam, score))).toEqual([undefined, 'Pass', 'High'])
    expect(percentileOf(exam, 300)).toBeCloseTo(21, 9)
    for (let percent = 1; percent <= 99; percent += 3.5) {
      const score = scaledAtPercentile(exam, percent)!
      expect(percentileOf(exam, score)).toBeGreaterThanOrEqual(percent - 1e-9)
      if (percent > 1) expect(percentileOf(exam, score - 1)).toBeLessThan(percent)
    }
    expect(scaledAtPercentile(exam, 99.5)).toBeUndefined()
    expect(scaledAtPercentile(gardenExam, 50)).toBeUndefined()
  })
  it('written marks and stages come into the standing, with the table that was used', () => {
    const exam: ExamFormat = {
      ...gardenExam,
      sections: [
        {
          ...gardenExam.sections[0]!,
          groups: [group('essay', 4, { kind: 'written', perRight: 15, choices: undefined })],
        },
        {
          ...gardenExam.sections[1]!,
          groups: [group('first', 10)],
          stages: [
            {
              id: 'low',
              title: 'Low',
              from: 0,
              groups: [group('low-items', 5)],
              conversion: {
                step: 1,
                points: [
                  [0, 0],
                  [15, 15],
                ],
              },
            },
            {
              id: 'high',
              title: 'High',
              from: 6,
              groups: [group('high-items', 5)],
              conversion: {
                step: 1,
                points: [
                  [0, 0],
                  [15, 30],
                ],
              },
            },
          ],
        },
      ],
    }
    const zero = { right: 0, wrong: 0, blank: 0, notReached: 0 }
    const found = paperScore(exam, {
      essay: { ...zero, marks: 40 },
      first: { ...zero, right: 7, wrong: 3 },
      'high-items': { ...zero, right: 5 },
    })!
    expect(found.sections[0]).toMatchObject({ raw: 40, scaled: 230 })
    expect(found.sections[1]).toMatchObject({ raw: 12, scaled: 24, stage: 'high' })
  })
})
