import fc from 'fast-check'
import { type AttemptCounts, type Counts, type ExamFormat, totalIssues } from '@climber/contract'
import { gardenExam, practice, sectionOf } from '../../test/fixture'
import { filledGroups, itemsOf, paperScore, scoredTests, scoreOfCounts } from '../index'

const counts = (right: number, wrong: number, blank: number): Counts => ({
  right,
  wrong,
  blank,
  notReached: 0,
})
const known = (more: Partial<AttemptCounts>): AttemptCounts => ({ groups: {}, topics: {}, ...more })
const sums = (groups: Record<string, Counts>) =>
  Object.values(groups).reduce(
    (sum, one) => [sum[0]! + one.right, sum[1]! + one.wrong, sum[2]! + one.blank],
    [0, 0, 0],
  )
/** Right, wrong and blank of `items` items. */
const anyCounts = (items: number) =>
  fc
    .tuple(fc.integer({ min: 0, max: items }), fc.integer({ min: 0, max: items }))
    .map(([a, b]) => counts(Math.min(a, b), Math.abs(a - b), items - Math.max(a, b)))

describe('a score from counts of any grain', () => {
  it('is that of the item groups where a section is marked in one way, whoever says it', () => {
    fc.assert(
      fc.property(anyCounts(60), anyCounts(30), (names, ledgers) => {
        const exact = paperScore(gardenExam, { 'names-items': names, 'ledgers-items': ledgers })
        expect(scoreOfCounts(gardenExam, known({ sections: { names, ledgers } }))).toEqual(exact)
        expect(
          scoreOfCounts(gardenExam, known({ sections: { names }, groups: { 'ledgers-items': ledgers } })),
        ).toEqual(exact)
        // One section and the whole tell the other.
        const total = counts(
          names.right + ledgers.right,
          names.wrong + ledgers.wrong,
          names.blank + ledgers.blank,
        )
        expect(scoreOfCounts(gardenExam, known({ sections: { names }, total }))).toEqual(exact)
      }),
      { numRuns: 60 },
    )
  })
  it('loses and makes no answer when a total is shared out', () => {
    fc.assert(
      fc.property(anyCounts(90), (total) => {
        const { groups } = filledGroups(gardenExam, known({ total }))
        sums(groups).forEach((sum, at) =>
          expect(sum).toBeCloseTo([total.right, total.wrong, total.blank][at]!, 6),
        )
        for (const [id, items] of [
          ['names-items', 60],
          ['ledgers-items', 30],
        ] as const) {
          const own = groups[id]!
          expect(own.right + own.wrong + own.blank).toBeCloseTo(items, 6)
          expect(Math.min(own.right, own.wrong, own.blank)).toBeGreaterThanOrEqual(0)
        }
      }),
    )
  })
  it('knows all from a total that is all right or all blank', () => {
    expect(scoreOfCounts(gardenExam, known({ total: counts(90, 0, 0) }))?.composite).toBe(600)
    const none = scoreOfCounts(gardenExam, known({ total: counts(0, 0, 90) }))!
    expect([none.composite, none.between]).toEqual([250, undefined])
  })
  it('says how far a total leaves the score open, and holds most of the splits', () => {
    let held = 0
    const tries = 200
    // Candidates whose sections differ by half a logit, drawn by another generator than the model's.
    let state = 12345
    const next = () => (state = (state * 16807) % 2147483647) / 2147483647
    const normal = () => Math.sqrt(-2 * Math.log(next())) * Math.cos(2 * Math.PI * next())
    for (let at = 0; at < tries; at++) {
      const level = normal() * 0.6
      const own = [60, 30].map((items) => {
        const p = 1 / (1 + Math.exp(-(level + 0.5 * normal())))
        const right = Array.from({ length: items }, () => next() < p).filter(Boolean).length
        return counts(right, items - right, 0)
      })
      const truth = paperScore(gardenExam, { 'names-items': own[0]!, 'ledgers-items': own[1]! })!.composite
      const right = own[0]!.right + own[1]!.right
      const score = scoreOfCounts(gardenExam, known({ total: counts(right, 90 - right, 0) }))!
      const { low, high } = score.between ?? { low: score.composite, high: score.composite }
      expect(low).toBeLessThanOrEqual(score.composite)
      expect(high).toBeGreaterThanOrEqual(score.composite)
      if (truth >= low && truth <= high) held += 1
    }
    expect(held / tries).toBeGreaterThan(0.68)
    expect(held / tries).toBeLessThan(0.95)
  })
  it('rises with every answer more', () => {
    let before = 0
    for (let right = 0; right <= 90; right++) {
      const { composite } = scoreOfCounts(gardenExam, known({ total: counts(right, 90 - right, 0) }))!
      expect(composite).toBeGreaterThanOrEqual(before)
      before = composite
    }
  })
  it('takes topics for their section, and says that they are not all of it', () => {
    const topics = { 'names-1': counts(6, 2, 2), 'names-2': counts(6, 2, 2) }
    const score = scoreOfCounts(gardenExam, known({ topics, sections: { ledgers: counts(15, 15, 0) } }))!
    // 12 of 20 right, 4 wrong: of 60 that is 36 right and 12 wrong.
    expect(score.sections[0]!.raw).toBeCloseTo(32, 6)
    expect(score.sections[0]!.between).toBeDefined()
    expect(score.sections[1]!.between).toBeUndefined()
  })
  it('says nothing where nothing is known of a section', () => {
    expect(scoreOfCounts(gardenExam, known({ sections: { names: counts(30, 20, 10) } }))).toBeUndefined()
  })
  it('takes a written part by its marks, and the second stage that the first one leads to', () => {
    const item = { kind: 'choice', items: 10, choices: 4, perRight: 1, perWrong: 0 } as const
    const table = (high: number) => ({
      points: [
        [0, 0],
        [20, high],
      ] as [number, number][],
      step: 1,
    })
    const exam: ExamFormat = {
      ...gardenExam,
      sections: [
        sectionOf('tides', 10, 30, table(100), {
          groups: [{ ...item, id: 'first' }],
          stages: [
            { id: 'low', title: 'Low', from: 0, groups: [{ ...item, id: 'easy' }], conversion: table(60) },
            { id: 'high', title: 'High', from: 6, groups: [{ ...item, id: 'hard' }], conversion: table(100) },
          ],
        }),
        sectionOf('report', 2, 30, table(100), {
          groups: [{ id: 'essay', kind: 'written', items: 2, perRight: 10, perWrong: 0 }],
        }),
      ],
    }
    const sections = { tides: counts(14, 6, 0), report: { ...counts(0, 0, 0), marks: 15 } }
    expect(totalIssues(exam, { sections })).toEqual([])
    const score = scoreOfCounts(exam, known({ sections }))!
    expect(score.sections.map(({ scaled, stage }) => [scaled, stage])).toEqual([
      [70, 'high'],
      [75, undefined],
    ])
    // 7 of 10 in the first stage is what an even split says; 5 would have led to the other table.
    expect(score.sections[0]!.between!.low).toBeLessThan(60)
    expect(itemsOf(exam.sections[0]!)).toBe(20)
  })
  it('stands among the scored tests', () => {
    const test = { ...practice(1, '2031-04-01', {}), counts: known({ total: counts(50, 40, 0) }) }
    const [scored] = scoredTests(gardenExam, [test])
    expect(scored!.score.between).toBeDefined()
  })
})

describe('counts in all and by section are held against the exam', () => {
  const message = (of: Parameters<typeof totalIssues>[1]) => totalIssues(gardenExam, of)[0]?.message
  it('accounts for every item', () => {
    expect(message({ total: counts(50, 30, 9) })).toBe(
      'right, wrong and blank add up to 89; the exam has 90 items to mark',
    )
    expect(message({ sections: { names: counts(61, 0, 0) } })).toContain('the section has 60 items')
    expect(message({ sections: { gulls: counts(1, 0, 0) } })).toBe('the exam has no section gulls')
    expect(message({ total: { ...counts(50, 30, 10), marks: 3 } })).toBe('nothing here is marked in marks')
    expect(message({ total: counts(50, 30, 10) })).toBeUndefined()
  })
  it('does not take a total that holds less than what is known of its sections', () => {
    const names = counts(40, 20, 0)
    expect(message({ total: counts(30, 60, 0), sections: { names } })).toBe(
      '30 right in all; the sections alone have 40',
    )
    expect(message({ total: counts(30, 60, 0), groups: { 'names-items': names } })).toContain('have 40')
    expect(message({ total: counts(70, 20, 0), sections: { names } })).toBeUndefined()
  })
})
