import fc from 'fast-check'
import { parts } from '@climber/contract'
import { sectionOf, tableE } from '../../test/fixture'
import { PacingProblem, paceBudget, paceSection, ruleOfThumb, workingSeconds } from '../index'

const section = sectionOf('p', 36, 54, tableE)
const blocks = [
  { items: 20, parts: 40 },
  { items: 16, parts: 50 },
]
const wish = (more: object) => parts.pacing.parse({ sections: { p: more } }).sections['p']!

describe('the worked example', () => {
  it('36 items, 54 minutes, 4 in reserve', () => {
    const { finishBy } = paceBudget(blocks, workingSeconds(54 * 60, 1, 240))
    expect([1, 10, 20, 28, 36].map((item) => finishBy[item - 1])).toEqual([67, 667, 1333, 2167, 3000])
  })
  it('with a quarter more time and 5 minutes in reserve', () => {
    const { finishBy } = paceBudget(blocks, workingSeconds(54 * 60, 1.25, 300))
    expect([10, 20, 28, 36].map((item) => finishBy[item - 1])).toEqual([833, 1667, 2708, 3750])
  })
  it('100 seconds each ends at item 32 of 36', () => {
    expect(ruleOfThumb(100, 54 * 60, 36)).toBe(32)
  })
})

describe('budgets', () => {
  it('are whole, rise and end on the total', () => {
    const block = fc.record({
      items: fc.integer({ min: 1, max: 60 }),
      parts: fc.integer({ min: 1, max: 500 }),
    })
    fc.assert(
      fc.property(
        fc.array(block, { minLength: 1, maxLength: 6 }),
        fc.integer({ min: 600, max: 20000 }),
        (random, seconds) => {
          const { finishBy } = paceBudget(random, seconds)
          expect(finishBy[finishBy.length - 1]).toBe(seconds)
          finishBy.forEach((at, item) => {
            expect(Number.isInteger(at)).toBe(true)
            if (item) expect(at).toBeGreaterThanOrEqual(finishBy[item - 1]!)
          })
        },
      ),
    )
  })
})

describe('paceSection', () => {
  it('keeps the reserve after the last item', () => {
    const pace = paceSection(section, wish({ reserveMinutes: 4 }), 1)
    const last = pace.checkpoints[pace.checkpoints.length - 1]!
    expect(last).toEqual({ item: 36, number: 36, at: 3000, left: 240 })
    expect(pace.secondsEach).toBeCloseTo(83.333, 3)
    expect(pace.thumb).toBeUndefined()
  })
  it('says what a rounded rule of thumb leaves unanswered', () => {
    expect(paceSection(sectionOf('p', 36, 50, tableE), wish({}), 1).thumb).toEqual({
      secondsEach: 90,
      lastItem: 33,
    })
  })
  it('holds to a goal and puts a checkpoint there', () => {
    const pace = paceSection(section, wish({ goal: { items: 22, byMinutes: 30 } }), 1)
    expect(pace.finishBy[21]).toBe(1800)
    expect(pace.checkpoints.map(({ item }) => item)).toContain(22)
  })
  it('gives extra time in full', () => {
    expect(paceSection(section, wish({}), 1.5).sectionSeconds).toBe(54 * 90)
  })
  it.each([
    ['reserveMinutes', { reserveMinutes: 54 }],
    ['goals.0.items', { goal: { items: 37, byMinutes: 20 } }],
    ['goals.0.minutes', { goal: { items: 20, byMinutes: 54 } }],
    ['goals.0.minutes', { goals: [{ kind: 'by', items: 10, minutes: 60 }] }],
    [
      'goals.1.minutes',
      {
        goals: [
          { kind: 'by', items: 10, minutes: 20 },
          { kind: 'by', items: 20, minutes: 20.1 },
        ],
      },
    ],
    ['goals.0.items', { goals: [{ kind: 'sets', sets: 2, minutesEach: 5 }] }],
    ['goals.0.items', { goals: [{ kind: 'last', items: 36, minutes: 5 }] }],
  ])('names %s when it does not fit', (field, more) => {
    try {
      paceSection(section, wish(more), 1)
      throw new Error('no problem was found')
    } catch (problem) {
      expect(problem).toBeInstanceOf(PacingProblem)
      expect((problem as PacingProblem).field).toBe(field)
    }
  })
})
