import { diagnosed, gardenBaseline, gardenRecord } from '../../test/fixture'
import { posterior } from '../index'

describe('posterior', () => {
  it('5 right, 3 wrong of 4-choice items with m = .55', () => {
    const { mean, low, high } = posterior(0.55, { right: 5, wrong: 3, skipped: 0 }, 4)
    expect(mean).toBeCloseTo(0.51, 3)
    expect(low).toBeCloseTo(0.29, 2)
    expect(high).toBeCloseTo(0.72, 2)
  })
  it('no evidence leaves the prior', () => {
    const { mean, low, high } = posterior(0.55, { right: 0, wrong: 0, skipped: 0 }, 4)
    expect(mean).toBeCloseTo(0.55, 3)
    expect(low).toBeCloseTo(0.24, 2)
    expect(high).toBeCloseTo(0.84, 2)
  })
  it('a skipped item tells more than a wrong guess, and a numeric item more than a choice', () => {
    const mean = (evidence: { right: number; wrong: number; skipped: number }, choices = 4) =>
      posterior(0.5, evidence, choices).mean
    expect(mean({ right: 0, wrong: 0, skipped: 4 })).toBeCloseTo(mean({ right: 0, wrong: 4, skipped: 0 }), 9)
    expect(mean({ right: 6, wrong: 0, skipped: 0 }, Infinity)).toBeGreaterThan(
      mean({ right: 6, wrong: 0, skipped: 0 }, 2),
    )
  })
  it('agrees with the exact Beta posterior where there is no guessing', () => {
    // Beta(2.2, 1.8) and 7 of 10: Beta(9.2, 4.8).
    expect(posterior(0.55, { right: 7, wrong: 3, skipped: 0 }, Infinity).mean).toBeCloseTo(9.2 / 14, 4)
  })
})

describe('diagnose', () => {
  const result = diagnosed(gardenRecord())
  const topic = (id: string) => result.topics.find((state) => state.topic === id)!
  it('leaves items not reached out of what is known', () => {
    expect(result.sections[0]!.evidence).toEqual({ right: 30, wrong: 18, skipped: 8 })
    expect(result.sections[0]!.notReached).toBe(4)
  })
  it('moves the prior by the self-rating and keeps a wide range without counts', () => {
    expect(topic('names-2').mean).toBeCloseTo(result.sections[0]!.mean - 0.2, 2)
    expect(topic('names-4').mean).toBeCloseTo(result.sections[0]!.mean + 0.2, 2)
    expect(topic('ledgers-4').priorMean).toBe(0.05)
    expect(topic('names-1').high - topic('names-1').low).toBeGreaterThan(0.5)
  })
  it('sharpens a topic with counts of its own', () => {
    const counts = { right: 9, wrong: 1, blank: 0, notReached: 0 }
    const own = { ...gardenBaseline, counts: { ...gardenBaseline.counts, topics: { 'names-1': counts } } }
    const sharper = diagnosed(gardenRecord({ attempts: [own], ratings: {} }))
    const found = sharper.topics.find((state) => state.topic === 'names-1')!
    expect(found.mean).toBeGreaterThan(topic('names-1').mean)
    expect(found.high - found.low).toBeLessThan(topic('names-1').high - topic('names-1').low)
  })
  it('without any count rests on ratings and says so', () => {
    const guess = diagnosed(gardenRecord({ attempts: [], ratings: { topics: { 'names-1': 'strong' } } }))
    expect(guess.measured).toBe(false)
    expect(guess.sections[0]!.sd).toBeGreaterThan(0.15)
  })
})
