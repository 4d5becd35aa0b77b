import fc from 'fast-check'
import { elastic, perMinuteOf, seam, type Stretch, stretchesOf } from '../src/screens/plan/elastic'

const evenings: Stretch[] = [[17 * 60 + 30, 20 * 60]]
const saturday: Stretch[] = [
  [9 * 60, 13 * 60],
  [17 * 60, 18 * 60],
]
const used = fc.array(
  fc
    .tuple(fc.integer({ min: 0, max: 1430 }), fc.integer({ min: 5, max: 600 }))
    .map(([from, long]): Stretch => [from, Math.min(1440, from + long)]),
  { maxLength: 30 },
)

describe('an elastic ruler', () => {
  it('folds a day’s own hours in which nobody is free', () => {
    const line = elastic(stretchesOf(saturday), 2)
    expect(line.folds).toEqual([[780, 1020]])
    expect(line.hours).toEqual([9, 10, 11, 12, 13, 17, 18])
    expect(line.at(780)).toBe(480)
    expect(line.at(1020)).toBe(480 + seam)
    expect(line.at(1080)).toBe(480 + seam + 120)
  })
  it('begins where the day does: an evening has the whole width', () => {
    const line = elastic(stretchesOf(evenings), 3)
    expect([line.at(0), line.at(17 * 60 + 30), line.at(20 * 60), line.at(1440)]).toEqual([0, 0, 450, 450])
  })
  it('leaves a short break as it is, and has a working day where there is nothing', () => {
    expect(
      stretchesOf([
        [540, 600],
        [630, 700],
      ]),
    ).toEqual([[540, 705]])
    expect(elastic([], 1).stretches).toEqual([[540, 1080]])
  })
  it('gives an hour the same width on all days, as wide as the longest of them lets it be', () => {
    const days = [evenings, saturday, []].map(stretchesOf)
    expect(perMinuteOf(days, 634)).toBe((634 - seam) / 300)
    // A day with little in it does not swell, nor does one without anything.
    expect(perMinuteOf([[[600, 630]]], 800)).toBe(5)
    expect(perMinuteOf([[]], 800)).toBe(5)
  })
  it('has a place for each minute, in order, within the width, and finds the minute of a place again', () => {
    fc.assert(
      fc.property(fc.array(used, { minLength: 1, maxLength: 7 }), (days) => {
        const stretches = days.map(stretchesOf)
        const perMinute = perMinuteOf(stretches, 640)
        for (const [at, own] of stretches.entries()) {
          const line = elastic(own, perMinute)
          if (own.length) expect(line.at(1440)).toBeLessThanOrEqual(640 + 1e-6)
          for (const [from, to] of own)
            for (let minute = from; minute <= to; minute += 35)
              expect(line.minuteAt(line.at(minute))).toBeCloseTo(minute, 6)
          for (let minute = 0; minute < 1440; minute += 60)
            expect(line.at(minute + 60)).toBeGreaterThanOrEqual(line.at(minute))
          // What is used is never folded.
          for (const [from, to] of days[at]!)
            expect(line.at(to) - line.at(from)).toBeCloseTo((to - from) * perMinute, 6)
        }
      }),
    )
  })
})
