import { type ForecastModel, forecast, frechet, normalCdf, oddsOf } from '../index'
import { randomFrom } from '../exact/random'

const model: ForecastModel = { start: 200, startSd: 12, rateSd: 0.5, walk: 0.5, offsetSd: 10, dayOfSd: 8 }
const at = { day: 84, gain: 60 }

describe('the worked examples', () => {
  it('no tests yet', () => {
    const found = forecast({ ...model, walk: 1 }, [], at)
    expect(found.mean).toBeCloseTo(260, 9)
    expect(found.sd).toBeCloseTo(34.5, 1)
    expect(oddsOf(found, 240, 1)).toBeCloseTo(0.724, 3)
  })
  it('three tests, one of another maker', () => {
    const found = forecast(
      model,
      [
        { day: 0, gain: 0, score: 204, sd: 8, source: 'publisher' },
        { day: 21, gain: 18, score: 214, sd: 8, source: 'other' },
        { day: 42, gain: 34, score: 236, sd: 8, source: 'publisher' },
      ],
      at,
    )
    expect(found.mean).toBeCloseTo(260.4, 1)
    expect(found.sd).toBeCloseTo(15.9, 1)
    expect(oddsOf(found, 240, 1)).toBeCloseTo(0.907, 3)
  })
})

describe('forecast', () => {
  it('a logged score moves it towards the score and narrows it', () => {
    const before = forecast(model, [], at)
    const low = forecast(model, [{ day: 20, gain: 15, score: 190, sd: 8, source: 'publisher' }], at)
    expect(low.mean).toBeLessThan(before.mean)
    expect(low.sd).toBeLessThan(before.sd)
  })
  it("believes another maker's score less", () => {
    const score = { day: 20, gain: 15, score: 190, sd: 8 }
    const ours = forecast(model, [{ ...score, source: 'publisher' }], at)
    const theirs = forecast(model, [{ ...score, source: 'other' }], at)
    expect(theirs.mean).toBeGreaterThan(ours.mean)
    expect(theirs.offset).toBeLessThan(0)
  })
  it('is calibrated on candidates drawn from its own model', () => {
    const random = randomFrom(7)
    const normal = () => Math.sqrt(-2 * Math.log(1 - random())) * Math.cos(2 * Math.PI * random())
    let inside = 0
    const runs = 4000
    for (let run = 0; run < runs; run++) {
      const start = 200 + 12 * normal()
      const rate = 1 + 0.5 * normal()
      const offset = 10 * normal()
      let walk = 0
      let day = 0
      const level = (to: number, gain: number) => {
        walk += Math.sqrt(0.5 * (to - day)) * normal()
        day = to
        return start + rate * gain + walk
      }
      const tests = [14, 35, 63].map((when, place) => ({
        day: when,
        gain: when * 0.7,
        score: level(when, when * 0.7) + (place === 1 ? offset : 0) + 8 * normal(),
        sd: 8,
        source: place === 1 ? ('other' as const) : ('publisher' as const),
      }))
      const outcome = level(84, 60) + 8 * normal()
      const { low, high } = forecast(model, tests, at)
      if (outcome >= low && outcome <= high) inside++
    }
    expect(inside / runs).toBeGreaterThan(0.77)
    expect(inside / runs).toBeLessThan(0.83)
  })
})

describe('chances', () => {
  it('the normal distribution function', () => {
    expect(normalCdf(0)).toBe(0.5)
    expect(normalCdf(1.959963984540054)).toBeCloseTo(0.975, 12)
    expect(normalCdf(-3)).toBeCloseTo(0.0013498980316301, 12)
    expect(normalCdf(9)).toBe(1)
  })
  it("Frechet's bounds", () => {
    const { low, high } = frechet([0.9, 0.8])
    expect(low).toBeCloseTo(0.7, 12)
    expect(high).toBe(0.8)
  })
})
