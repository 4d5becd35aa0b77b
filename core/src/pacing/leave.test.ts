import fc from 'fast-check'
import { randomPaper } from '../../test/randomPapers'
import {
  bestFixedLimit,
  bestRate,
  byLeaveTimes,
  expectedSeconds,
  fitSolving,
  hazard,
  hazardPeak,
  type LeaveClass,
  leavePlan,
  LeaveTimes,
  leaveTime,
  markSeconds,
  meanOf,
  normalQuantile,
  randomFrom,
  sitMany,
  solvedBy,
} from '../index'

const solving = fc.record({
  p: fc.double({ min: 0.05, max: 0.98, noNaN: true }),
  median: fc.double({ min: 5, max: 400, noNaN: true }),
  s: fc.double({ min: 0.2, max: 1.2, noNaN: true }),
})
const classOf = fc
  .tuple(solving, fc.integer({ min: 1, max: 40 }), fc.double({ min: 0.1, max: 5, noNaN: true }))
  .map(([own, count, worth]): LeaveClass => ({ ...own, count, worth }))

describe('the worked example, mu of a mark in two minutes', () => {
  it.each([
    [0.8, 70, 127],
    [0.5, 110, 0],
    [0.2, 150, 0],
  ])('p %d, median %d s: leave at %d s', (p, median, seconds) => {
    // The last whole second at which staying pays.
    expect(Math.floor(leaveTime({ p, median, s: 0.5 }, 1, 1 / 120))).toBe(seconds)
  })
})

describe('solving times', () => {
  it('hazard and expected seconds agree with sums over small steps', () => {
    fc.assert(
      fc.property(solving, fc.double({ min: 0.3, max: 3, noNaN: true }), (own, share) => {
        const until = own.median * share
        const step = until / 4000
        let seconds = 0
        for (let t = step / 2; t < until; t += step) seconds += step * (1 - own.p * solvedBy(own, t))
        expect(Math.abs(expectedSeconds(own, until) / seconds - 1)).toBeLessThan(1e-3)
        const solvedNext = own.p * (solvedBy(own, until + step) - solvedBy(own, until))
        expect(hazard(own, until + step / 2) * step * (1 - own.p * solvedBy(own, until))).toBeCloseTo(
          solvedNext,
          5,
        )
      }),
      { numRuns: 40 },
    )
  })
  it('the hazard rises to its peak and falls from there', () => {
    fc.assert(
      fc.property(solving, (own) => {
        const peak = hazardPeak(own)
        const at = (share: number) => hazard(own, peak * share)
        for (const share of [0.3, 0.6, 0.9]) expect(at(share)).toBeLessThanOrEqual(at(share + 0.1) + 1e-12)
        for (const share of [1, 1.5, 2.5]) expect(at(share)).toBeGreaterThanOrEqual(at(share + 0.1) - 1e-12)
      }),
    )
  })
  it('no leave time brings more marks a second than the best rate', () => {
    fc.assert(
      fc.property(solving, fc.double({ min: 0.2, max: 4, noNaN: true }), (own, worth) => {
        const best = bestRate(own, worth, markSeconds)
        for (let share = 0.1; share < 6; share *= 1.2) {
          const t = own.median * share
          const solved = own.p * solvedBy(own, t)
          // Against leaving at once, which costs the seconds of a mark in the margin.
          const rate = (worth * solved) / (expectedSeconds(own, t) - markSeconds * solved)
          if (rate > 0) expect(rate).toBeLessThanOrEqual(best * (1 + 1e-6))
        }
      }),
    )
  })
})

describe('leave times', () => {
  it('fill the time there is to the second, whatever the paper', () => {
    fc.assert(
      fc.property(
        fc.array(classOf, { minLength: 1, maxLength: 6 }),
        fc.double({ min: 0.05, max: 0.95, noNaN: true }),
        (classes, share) => {
          const all = classes.reduce((sum, own) => sum + own.count * own.median * 1.2, 0)
          const least = classes.reduce((sum, own) => sum + own.count * markSeconds, 0)
          const seconds = least + share * all
          const plan = leavePlan(classes, seconds)
          if (plan.mu > 2e-7) expect(Math.abs(plan.time - seconds)).toBeLessThan(1)
          else expect(plan.time).toBeLessThanOrEqual(seconds + 1)
        },
      ),
      { numRuns: 80 },
    )
  })
  it('expect at least as much as any one limit for all items in the same time', () => {
    fc.assert(
      fc.property(
        fc.array(classOf, { minLength: 1, maxLength: 4 }),
        fc.double({ min: 10, max: 300, noNaN: true }),
        (classes, limit) => {
          const sums = classes.map((own) => {
            const solved = own.p * solvedBy(own, limit)
            return [
              own.count * (expectedSeconds(own, limit) + markSeconds * (1 - solved)),
              own.count * solved * own.worth,
            ]
          })
          const seconds = sums.reduce((sum, [time]) => sum + time!, 0)
          const marks = sums.reduce((sum, [, own]) => sum + own!, 0)
          expect(leavePlan(classes, seconds).marks).toBeGreaterThanOrEqual(marks - 1e-3)
        },
      ),
      { numRuns: 100 },
    )
  })
  it('more time, lower mu and more marks', () => {
    fc.assert(
      fc.property(fc.array(classOf, { minLength: 1, maxLength: 4 }), (classes) => {
        const whole = classes.reduce((sum, own) => sum + own.count * own.median, 0)
        let before = { mu: Infinity, marks: -1 }
        for (const share of [0.2, 0.4, 0.6, 0.8, 1]) {
          const plan = leavePlan(classes, share * whole + 300)
          expect(plan.mu).toBeLessThanOrEqual(before.mu * (1 + 1e-9))
          expect(plan.marks).toBeGreaterThanOrEqual(before.marks - 1e-9)
          before = plan
        }
      }),
      { numRuns: 20 },
    )
  })
  it('beat the best single limit on average over 50 random papers, and lose to it by 1% on none', () => {
    const gains = Array.from({ length: 50 }, (_, at) => {
      const paper = randomPaper(at + 1)
      const found = byLeaveTimes(new LeaveTimes(paper), 2, 900 + at)
      const fixed = bestFixedLimit(paper, 900 + at)
      const [marks, single] = [found, fixed].map(({ approach }) =>
        meanOf(sitMany(paper.paper, approach, 6000, 5000 + at).raw),
      )
      return marks! / single! - 1
    })
    expect(gains.reduce((a, b) => a + b, 0) / gains.length).toBeGreaterThan(0.05)
    expect(Math.min(...gains)).toBeGreaterThan(-0.01)
  }, 60_000)
})

describe('times and results of the record', () => {
  const draw = (many: number, p: number, median: number, s: number, limit: number, seed: number) => {
    const random = randomFrom(seed)
    return Array.from({ length: many }, () => {
      const could = random() < p
      const time = median * Math.exp(s * normalQuantile(Math.max(1e-9, random())))
      return could && time <= limit ? { seconds: time, solved: true } : { seconds: limit, solved: false }
    })
  }
  const prior = { p: 0.5, median: 100, s: 0.5, strength: 8 }
  it('recover what they were drawn from, though slow items were given up', () => {
    const found = fitSolving(draw(3000, 0.7, 60, 0.4, 90, 4), prior)
    expect(found.p).toBeCloseTo(0.7, 1)
    expect(found.median / 60).toBeCloseTo(1, 1)
    expect(found.s).toBeCloseTo(0.4, 1)
  })
  it('leave the prior as it is while there are none, and move it little by few', () => {
    expect(fitSolving([], prior)).toMatchObject({ p: 0.5, median: 100, s: 0.5 })
    const few = fitSolving(draw(2, 1, 40, 0.2, 400, 5), prior)
    expect(few.median).toBeGreaterThan(70)
    expect(few.p).toBeLessThan(0.65)
  })
})
