import fc from 'fast-check'
import { elastic, seam } from '../src/screens/plan/elastic'

describe('an elastic ruler', () => {
  it('folds the hours in which nobody is free', () => {
    const line = elastic([
      [17 * 60 + 30, 20 * 60],
      [9 * 60, 13 * 60],
      [19 * 60, 21 * 60 + 10],
    ])
    expect([line.from, line.to]).toEqual([540, 1275])
    expect(line.folds).toEqual([[780, 1050]])
    expect(line.hours).toEqual([9, 10, 11, 12, 13, 18, 19, 20, 21])
    expect(line.at(780)).toBeCloseTo(((1 - seam) * 240) / 465)
    expect(line.at(1050)).toBeCloseTo(line.at(780) + seam)
  })
  it('leaves a short break as it is, and shows a working day where there is nothing', () => {
    expect(
      elastic([
        [540, 600],
        [630, 700],
      ]).folds,
    ).toEqual([])
    expect(elastic([])).toMatchObject({ from: 540, to: 1080, folds: [] })
  })
  it('has a place for each minute, in order, and finds the minute of a place again', () => {
    const stretch = fc
      .tuple(fc.integer({ min: 0, max: 1430 }), fc.integer({ min: 5, max: 600 }))
      .map(([from, long]): [number, number] => [from, Math.min(1440, from + long)])
    fc.assert(
      fc.property(fc.array(stretch, { maxLength: 30 }), (used) => {
        const line = elastic(used)
        expect(line.at(line.from)).toBe(0)
        expect(line.at(line.to)).toBeCloseTo(1)
        for (let minute = line.from; minute < line.to; minute += 7) {
          expect(line.at(minute + 7)).toBeGreaterThanOrEqual(line.at(minute))
          if (minute <= line.to) expect(line.minuteAt(line.at(minute))).toBeCloseTo(minute, 6)
        }
        // What is used is never folded, and an hour of it is as wide as any other.
        const [first] = used
        const hour = (from: number, to: number) => (line.at(to) - line.at(from)) / (to - from)
        for (const [from, to] of used) expect(hour(from, to)).toBeCloseTo(hour(first![0], first![1]), 9)
      }),
    )
  })
})
