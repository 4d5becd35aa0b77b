import fc from 'fast-check'
import { sectionE, tableE } from '../../test/fixture'
import { bestGuessing, guessingOdds, guessValue, rawNeeded } from '../index'

describe('the worked examples', () => {
  it('value of a guess with 4, 3 and 2 options left', () => {
    expect(guessValue(4, 1, 1 / 3)).toBeCloseTo(0, 12)
    expect(guessValue(3, 1, 1 / 3)).toBeCloseTo(0.111, 3)
    expect(guessValue(2, 1, 1 / 3)).toBeCloseTo(0.333, 3)
  })
  it.each([
    [40, 0, 0.194, 18, 0.225],
    [44, 0.262, 0.593, 14, 0.659],
    // P(at most 3 of 48 wrong at .03) is .94447 in exact fractions.
    [48, 0.94447, 0.937, 2, 0.969],
  ])('%i safe answers for 240', (safe, none, all, best, odds) => {
    const found = bestGuessing({
      safe,
      safeRate: 0.97,
      unsure: 60 - safe,
      optionsLeft: 3,
      perRight: 1,
      perWrong: 1 / 3,
      rawNeeded: rawNeeded(sectionE, tableE, 240)!,
    })
    expect(found.none).toBeCloseTo(none, 3)
    expect(found.all).toBeCloseTo(all, 3)
    expect(found.best).toBe(best)
    expect(found.odds).toBeCloseTo(odds, 3)
  })
})

describe('odds', () => {
  it('agree with brute force on small papers', () => {
    const small = fc.record({
      safe: fc.integer({ min: 0, max: 5 }),
      unsure: fc.integer({ min: 0, max: 5 }),
      safeRate: fc.double({ min: 0, max: 1, noNaN: true }),
      optionsLeft: fc.integer({ min: 1, max: 5 }),
      perWrong: fc.constantFrom(0, 0.25, 1 / 3, 1),
      rawNeeded: fc.integer({ min: -4, max: 10 }),
    })
    fc.assert(
      fc.property(small, (doubts) => {
        const odds = guessingOdds({ ...doubts, perRight: 1 })
        odds.forEach((found, guessed) => {
          let sum = 0
          const items = doubts.safe + guessed
          for (let mask = 0; mask < 1 << items; mask++) {
            let chance = 1
            let raw = 0
            for (let item = 0; item < items; item++) {
              const p = item < doubts.safe ? doubts.safeRate : 1 / doubts.optionsLeft
              const right = (mask >> item) & 1
              chance *= right ? p : 1 - p
              raw += right ? 1 : -doubts.perWrong
            }
            if (raw >= doubts.rawNeeded - 1e-9) sum += chance
          }
          expect(Math.abs(found - sum)).toBeLessThan(1e-9)
        })
      }),
      { numRuns: 100 },
    )
  })
})
