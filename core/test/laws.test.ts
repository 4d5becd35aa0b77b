import fc from 'fast-check'
import { parts } from '@climber/contract'
import {
  allocate,
  allocateWithCuts,
  assess,
  bestGuessing,
  checkpointSpacing,
  guessingOdds,
  guessValue,
  knownAfter,
  lossBudget,
  paceSection,
  planOdds,
  roundToStep,
  verdict,
} from '../src/index'
import { gardenRecord, morning, sectionE, sectionOf, tableE } from './fixture'

const share = fc.double({ min: 0.02, max: 0.98, noNaN: true })
describe('laws of the hours', () => {
  const topic = fc.record({
    value: fc.double({ min: 1, max: 50, noNaN: true }),
    known: fc.double({ min: 0, max: 0.95, noNaN: true }),
    tau: fc.double({ min: 1, max: 30, noNaN: true }),
  })
  it('no other split is better: moving an hour from one topic to another never gains', () => {
    fc.assert(
      fc.property(
        fc.array(topic, { minLength: 2, maxLength: 12 }),
        fc.double({ min: 2, max: 200, noNaN: true }),
        fc.nat(),
        fc.nat(),
        (topics, hours, a, b) => {
          const { hours: split, points } = allocate(topics, hours)
          const [from, to] = [a % topics.length, b % topics.length]
          const moved = Math.min(1, split[from]!)
          const other = split.map((h, index) => h + (index === to ? moved : 0) - (index === from ? moved : 0))
          const otherPoints = topics.reduce(
            (sum, one, index) => sum + one.value * knownAfter(one, other[index]!),
            0,
          )
          expect(otherPoints).toBeLessThanOrEqual(points + 1e-9)
        },
      ),
    )
  })
  it('a cut that is met costs points, never gains them, and takes from no topic more than it has', () => {
    fc.assert(
      fc.property(fc.array(topic, { minLength: 3, maxLength: 8 }), share, (topics, level) => {
        const cut = { topics: [0], cut: level, expected: ([known]: number[]) => known! }
        const found = allocateWithCuts(topics, 40, [cut])
        expect(found.points).toBeLessThanOrEqual(allocate(topics, 40).points + 1e-9)
        expect(Math.min(...found.hours)).toBeGreaterThanOrEqual(0)
        expect(found.hours.reduce((a, b) => a + b, 0)).toBeCloseTo(40, 6)
        if (!found.missed.length)
          expect(knownAfter(topics[0]!, found.hours[0]!)).toBeGreaterThanOrEqual(level - 1e-5)
      }),
    )
  })
})

describe('laws of pacing and scoring', () => {
  it('checkpoints of any section rise, end on the working time and leave the reserve', () => {
    const section = fc.record({
      items: fc.integer({ min: 1, max: 150 }),
      minutes: fc.integer({ min: 20, max: 240 }),
      reserve: fc.integer({ min: 0, max: 15 }),
      factor: fc.constantFrom(1, 1.25, 1.5, 2),
    })
    fc.assert(
      fc.property(section, ({ items, minutes, reserve, factor }) => {
        const wish = parts.pacing.parse({ sections: { x: { reserveMinutes: reserve } } }).sections['x']!
        const pace = paceSection(sectionOf('x', items, minutes, tableE), wish, factor)
        const times = pace.checkpoints.map((point) => point.at)
        expect([...times].sort((a, b) => a - b)).toEqual(times)
        expect(pace.checkpoints[pace.checkpoints.length - 1]).toEqual({
          item: items,
          number: items,
          at: minutes * 60 * factor - reserve * 60,
          left: reserve * 60,
        })
        expect(pace.checkpoints.length).toBeLessThanOrEqual(9)
      }),
    )
    expect([1, 8, 9, 36, 60, 100].map(checkpointSpacing)).toEqual([1, 1, 2, 5, 8, 15])
  })
  it('a loss budget falls as more is wrong and as the target rises', () => {
    for (let target = 110; target < 300; target += 10) {
      const budget = lossBudget(sectionE, tableE, target)!
      const harder = lossBudget(sectionE, tableE, target + 5)!
      budget.forEach(({ blank }, wrong) => {
        if (wrong) expect(blank).toBeLessThanOrEqual(budget[wrong - 1]!.blank)
        expect(harder[wrong]?.blank ?? -1).toBeLessThanOrEqual(blank)
      })
    }
  })
  it('rounding moves by half a step at most, and twice is once', () => {
    fc.assert(
      fc.property(
        fc.double({ min: -500, max: 500, noNaN: true }),
        fc.constantFrom(0.5, 1, 5, 10),
        (scaled, step) => {
          const rounded = roundToStep(scaled, step)
          expect(Math.abs(rounded - scaled)).toBeLessThanOrEqual(step / 2 + 1e-6)
          expect(roundToStep(rounded, step)).toBe(rounded)
        },
      ),
    )
  })
})

describe('laws of guessing', () => {
  it('fewer options left, or a smaller penalty, are never worse', () => {
    for (let left = 2; left < 6; left++) {
      expect(guessValue(left, 1, 0.25)).toBeGreaterThan(guessValue(left + 1, 1, 0.25))
      expect(guessValue(left, 1, 0)).toBeGreaterThan(guessValue(left, 1, 0.5))
    }
  })
  it('without a penalty answering everything is best', () => {
    const doubts = {
      safe: 30,
      safeRate: 0.95,
      unsure: 20,
      optionsLeft: 4,
      perRight: 1,
      perWrong: 0,
      rawNeeded: 36,
    }
    expect(bestGuessing(doubts).odds).toBeCloseTo(bestGuessing(doubts).all, 12)
    const odds = [...guessingOdds(doubts)]
    expect([...odds].sort((a, b) => a - b)).toEqual(odds)
  })
})

describe('laws of the verdict', () => {
  it('whatever the target and the hours, odds are chances and the forecast lies on the way', () => {
    const draw = fc.record({
      target: fc.integer({ min: 200, max: 600 }),
      to: fc.constantFrom('18:30', '19:30', '21:00', '23:00'),
      on: fc.constantFrom('2031-03-03', '2031-05-01', '2031-05-23'),
    })
    fc.assert(
      fc.property(draw, ({ target, to, on }) => {
        const record = gardenRecord({
          target: { scaled: target, sitting: 'spring' },
          availability: parts.availability.parse({
            windows: [1, 3, 5].map((weekday) => ({ weekday, from: '18:00', to })),
          }),
        })
        const assessment = assess(record, morning(on))
        const found = verdict(assessment)!
        for (const chance of [
          found.odds!,
          planOdds(assessment)!.odds!,
          ...found.cuts.map(({ odds }) => odds),
        ]) {
          expect(chance).toBeGreaterThanOrEqual(0)
          expect(chance).toBeLessThanOrEqual(1)
        }
        // Work ahead never leaves less than none would, which forgets.
        expect(found.forecast.mean).toBeGreaterThanOrEqual(planOdds(assessment)!.forecast.mean - 1e-9)
        expect(found.forecast.low).toBeLessThan(found.forecast.high)
      }),
      { numRuns: 40 },
    )
  })
})
