import fc from 'fast-check'
import { allocate, allocateWithCuts, effective, knownAfter, retention, touched, yieldOf } from '../index'

const example = [
  { value: 40, known: 0.5, tau: 10 },
  { value: 30, known: 0.2, tau: 14 },
  { value: 20, known: 0.7, tau: 6 },
  { value: 10, known: 0.1, tau: 20 },
]

describe('allocate', () => {
  it('reproduces the worked example', () => {
    const { hours, marginal, points } = allocate(example, 40)
    expect(hours.map((h) => h.toFixed(2))).toEqual(['15.23', '19.16', '4.98', '0.63'])
    expect(marginal).toBeCloseTo(0.4361, 4)
    expect(points).toBeCloseTo(78.19, 2)
  })
  const topic = fc.record({
    value: fc.double({ min: 0, max: 50, noNaN: true }),
    known: fc.double({ min: 0, max: 1, noNaN: true }),
    tau: fc.double({ min: 0.5, max: 60, noNaN: true }),
  })
  it('meets the optimality conditions on random problems', () => {
    fc.assert(
      fc.property(
        fc.array(topic, { minLength: 1, maxLength: 60 }),
        fc.double({ min: 0.1, max: 900, noNaN: true }),
        (topics, hours) => {
          const found = allocate(topics, hours)
          const spent = found.hours.reduce((a, b) => a + b, 0)
          if (topics.some((t) => yieldOf(t) > 1e-12))
            expect(Math.abs(spent - hours)).toBeLessThan(1e-6 * Math.max(1, hours))
          topics.forEach((t, at) => {
            const slope = yieldOf({ ...t, known: knownAfter(t, found.hours[at]!) })
            if (found.hours[at]! > 0)
              expect(Math.abs(slope - found.marginal)).toBeLessThan(1e-9 * Math.max(1, found.marginal))
            else expect(slope).toBeLessThanOrEqual(found.marginal * (1 + 1e-9))
          })
        },
      ),
      { numRuns: 500 },
    )
  })
  it('gives nothing for no hours, and the first hour to the best yield', () => {
    expect(allocate(example, 0).hours).toEqual([0, 0, 0, 0])
    expect(allocate(example, 0.01).hours[0]).toBeCloseTo(0.01, 9)
  })
})

describe('section cuts', () => {
  const cut = (level: number, topics = [3]) => ({
    topics,
    cut: level,
    expected: (known: number[]) => known.reduce((a, b) => a + b, 0),
  })
  it('shift hours to a section that would miss its cut, no more than needed', () => {
    const found = allocateWithCuts(example, 40, [cut(0.5)])
    expect(knownAfter(example[3]!, found.hours[3]!)).toBeCloseTo(0.5, 4)
    expect(found.missed).toEqual([])
    expect(found.points).toBeLessThan(allocate(example, 40).points)
  })
  it('leave the optimum alone where every cut is met', () => {
    expect(allocateWithCuts(example, 40, [cut(0.05)]).hours).toEqual(allocate(example, 40).hours)
  })
  it('say which cut is out of reach', () => {
    expect(allocateWithCuts(example, 5, [cut(0.99)]).missed).toEqual([0])
  })
})

describe('retention', () => {
  it('falls with the gap and rises with spaced touches only', () => {
    const once = touched(undefined, 0)
    expect(retention(once, 4)).toBeCloseTo(Math.exp(-1), 12)
    expect(touched(once, 0).stability).toBe(4)
    const spaced = touched(once, 3)
    expect(spaced.stability).toBeCloseTo(7.2, 12)
    expect(retention(spaced, 3)).toBe(1)
    expect(effective(0.8, 0)).toBeCloseTo(0.24, 12)
    expect(effective(0.8, 1)).toBeCloseTo(0.8, 12)
  })
})
