import fc from 'fast-check'
import { cutInto } from './cut'

const sum = (list: number[]) => list.reduce((a, b) => a + b, 0)

describe('a stretch of free time', () => {
  it.each([
    [60, [60]],
    [90, [40, 40]],
    [120, [55, 55]],
    [150, [45, 45, 40]],
    [240, [55, 55, 50, 50]],
    [20, []],
    [25, [25]],
  ])('of %s minutes, at fifty and ten', (minutes, sessions) => {
    expect(cutInto(minutes, 50, 10, 25)).toEqual(sessions)
  })
  it('is cut into sessions alike that fit, none too short or long, and little is lost', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 5, max: 720 }),
        fc.constantFrom(20, 25, 30, 45, 50, 60, 90, 120, 180),
        fc.constantFrom(0, 5, 10, 15),
        (minutes, session, rest) => {
          const least = Math.min(25, session)
          const found = cutInto(minutes, session, rest, least)
          const taken = sum(found) + Math.max(0, found.length - 1) * rest
          expect(taken).toBeLessThanOrEqual(minutes)
          for (const one of found) {
            expect(one).toBeGreaterThanOrEqual(least)
            expect(one).toBeLessThanOrEqual(1.25 * session)
            expect(one % 5).toBe(0)
          }
          expect(Math.max(0, ...found) - Math.min(...found, Infinity)).toBeLessThanOrEqual(5)
          if (minutes >= least) expect(found.length).toBeGreaterThan(0)
          if (session >= 45 && minutes >= 2 * session) expect(minutes - taken).toBeLessThan(session / 2)
        },
      ),
      { numRuns: 500 },
    )
  })
})
