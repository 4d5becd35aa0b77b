import { allocate, forecast, type ForecastModel, posterior } from '@climber/core'
import { randomFrom } from '../core/src/exact/random'
import { table } from './table'

// Calibration: over candidates drawn from the model, how often the stated 80% range holds the outcome.
const random = randomFrom(11)
const normal = () => Math.sqrt(-2 * Math.log(1 - random())) * Math.cos(2 * Math.PI * random())
const model: ForecastModel = { start: 200, startSd: 12, rateSd: 0.5, walk: 0.5, offsetSd: 10, dayOfSd: 8 }
const runs = 20_000
const rows = [0, 1, 3, 6].map((count) => {
  let inside = 0
  let width = 0
  for (let run = 0; run < runs; run++) {
    const [start, rate, offset] = [200 + 12 * normal(), 1 + 0.5 * normal(), 10 * normal()]
    let [walk, day] = [0, 0]
    const level = (to: number, gain: number) => {
      walk += Math.sqrt(0.5 * (to - day)) * normal()
      day = to
      return start + rate * gain + walk
    }
    const tests = Array.from({ length: count }, (_, at) => {
      const when = Math.round(((at + 1) * 70) / count)
      const source = at % 2 ? ('other' as const) : ('publisher' as const)
      return {
        day: when,
        gain: when * 0.7,
        score: level(when, when * 0.7) + (source === 'other' ? offset : 0) + 8 * normal(),
        sd: 8,
        source,
      }
    })
    const found = forecast(model, tests, { day: 84, gain: 60 })
    const outcome = level(84, 60) + 8 * normal()
    if (outcome >= found.low && outcome <= found.high) inside++
    width += found.high - found.low
  }
  return [count, `${((100 * inside) / runs).toFixed(1)}%`, (width / runs).toFixed(1)]
})
table(
  `Forecast: how often the 80% range holds the outcome, ${runs} simulated candidates`,
  ['tests', 'held', 'mean width'],
  rows,
)

const topics = Array.from({ length: 400 }, () => ({
  value: 50 * random(),
  known: random(),
  tau: 1 + 30 * random(),
}))
const begun = performance.now()
for (let at = 0; at < 200; at++) allocate(topics, 300)
const allocation = (performance.now() - begun) / 200
const started = performance.now()
for (let at = 0; at < 200; at++) posterior(0.5, { right: 5 + (at % 3), wrong: 3, skipped: 1 }, 4)
table(
  'Small computations',
  ['work', 'ms'],
  [
    ['allocation of 300 h over 400 topics', allocation.toFixed(2)],
    ['posterior of one topic', ((performance.now() - started) / 200).toFixed(3)],
  ],
)
