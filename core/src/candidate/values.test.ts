import fc from 'fast-check'
import { parts } from '@climber/contract'
import { gardenExam, gardenRecord, morning } from '../../test/fixture'
import { assess, gap, makePlan, planInput, topicsOf, wordsFor } from '../index'
import { meets, slopesOf } from '../learner/demand'
import { normals } from '../learner/draws'
import { demandsOf } from './odds'
import { afterHours, valuesOf } from './values'

const on = morning('2031-03-03')
const day = 22425
const withCut = (cut: number, ledgersCut?: number) => ({
  ...gardenExam,
  sections: gardenExam.sections.map((section) => ({
    ...section,
    cut: section.id === 'names' ? cut : ledgersCut,
  })),
})
const pointsCount = parts.settings.parse({ schools: { counts: 'points' } })
const within = (exam: typeof gardenExam, settings = parts.settings.parse({})) =>
  assess(gardenRecord({ exam, settings, target: { scaled: 380, sitting: 'spring' } }), on)

describe('what an hour counts by', () => {
  it('by points where there is no target, or where that was chosen', () => {
    expect(valuesOf(within(gardenExam), 60, day).by).toBe('odds')
    const asked = valuesOf(within(gardenExam, pointsCount), 60, day)
    expect(asked.by).toBe('points')
    expect(asked.chances).toBeUndefined()
    const bare = { ...gardenExam, composite: { ...gardenExam.composite, cut: undefined } }
    expect(valuesOf(assess(gardenRecord({ exam: bare, target: {} }), on), 60, day).by).toBe('points')
  })
  it('the hours that there are are shared out, whatever they count by', () => {
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 300 }), fc.boolean(), (hours, odds) => {
        const { hours: split, values } = valuesOf(
          within(gardenExam, odds ? undefined : pointsCount),
          hours,
          day,
        )
        expect(split.reduce((sum, own) => sum + own, 0)).toBeCloseTo(hours, 6)
        for (const value of values) expect(value).toBeGreaterThanOrEqual(0)
      }),
      { numRuns: 12 },
    )
  })
  it('a section short of its cut counts more than one that passes, and its hours come to it in the plan', () => {
    const short = within(withCut(200, 100))
    const [names, ledgers] = valuesOf(short, 60, day).counts!
    expect(names).toBeGreaterThan(1.3 * ledgers!)
    const hoursOn = (assessment: typeof short) =>
      makePlan(planInput(assessment, assessment.sitting!, 1)).sessions.reduce(
        (sum, session) => sum + (topicsOf(session)[0]?.startsWith('names') ? session.minutes / 60 : 0),
        0,
      )
    expect(hoursOn(short)).toBeGreaterThan(hoursOn(within(withCut(100, 100))) + 3)
  })
  it('a cut out of reach still draws hours, and one that nobody misses none', () => {
    const out = valuesOf(within(withCut(299, 100)), 60, day).counts!
    expect(out[0]).toBeGreaterThan(out[1]!)
    const safe = valuesOf(within(withCut(100.5, 100.5)), 60, day).counts!
    const none = valuesOf(within(withCut(-1e6, -1e6)), 60, day).counts!
    expect(safe).toEqual(none)
  })
  it('a chance is about what the odds rise by, where the hours lead', () => {
    const assessment = within(withCut(180, 200))
    const { chances, hours } = valuesOf(assessment, 60, day)
    const oddsWith = (split: number[]) =>
      assessment.learner.share(meets(demandsOf(assessment, afterHours(assessment, split, day))))
    for (const section of assessment.landscape.bySection) {
      const by = 2
      const more = hours.map((own, at) => (section.includes(at) ? own + by : own))
      const less = hours.map((own, at) => (section.includes(at) ? Math.max(0, own - by) : own))
      const rises = (oddsWith(more) - oddsWith(less)) / (2 * by)
      const told = section.reduce((sum, at) => sum + chances![at]!, 0)
      expect(told).toBeGreaterThan(0.5 * rises)
      expect(told).toBeLessThan(2 * rises)
    }
  })
  it('Gap shows how much a section counts, and the reason of a session says so', () => {
    const { record, now } = within(withCut(200, 100))
    const topics = gap(record, now).topics
    expect(topics.every(({ counts, chance }) => counts! > 0 && chance! >= 0)).toBe(true)
    for (const one of topics) expect(one.yield).toBeCloseTo((one.value * (1 - one.known)) / one.tau, 9)
    expect(topics[0]!.hoursFrom).toBe('exam')
    const { record: plain } = within(gardenExam, pointsCount)
    expect(gap(plain, now).topics[0]!.counts).toBeUndefined()
    const words = wordsFor({ exam: record.exam, forms: [], settings: record.settings })
    const said = (assessment: ReturnType<typeof within>) =>
      makePlan(planInput(assessment, assessment.sitting!, 1))
        .sessions.filter(({ kind }) => kind === 'learn')
        .map((session) => words.why(session))
    const byOdds = said(within(withCut(200, 100)))
    const worths = byOdds.filter((why) => why.includes('points'))
    expect(worths.length).toBeGreaterThan(byOdds.length / 2)
    expect(worths.every((why) => why.includes('towards the target and every cut'))).toBe(true)
    expect(said(within(gardenExam, pointsCount)).some((why) => why.includes('towards'))).toBe(false)
  })
})

describe('the slope of a chance', () => {
  const size = 4000
  const weights = new Float64Array(size).fill(1)
  const normalAt = (mean: number, sd: number, name = 'slope') => normals(name, size).map((z) => mean + sd * z)
  const whole = (slopes: Float64Array) => slopes.reduce((sum, one) => sum + one, 0) / size
  it('of one normal demand is the density of it, widened by the smoothing', () => {
    for (const mean of [-4, 0, 3, 8]) {
      const { slopes } = slopesOf([{ spare: normalAt(mean, 5), slopes: () => [1] }], 1, weights)
      const wide = 5 * Math.sqrt(1.25)
      const density = Math.exp(-((mean / wide) ** 2) / 2) / (wide * Math.sqrt(2 * Math.PI))
      expect(whole(slopes[0]!)).toBeCloseTo(density, 4)
    }
  })
  it('of two demands is that of their product: each counts as far as the other is met', () => {
    const demands = [
      { spare: normalAt(0, 5, 'one'), slopes: () => [1, 0] },
      { spare: normalAt(-3, 5, 'two'), slopes: () => [0, 1] },
    ]
    const { slopes, near } = slopesOf(demands, 2, weights)
    const [one, two] = slopes.map(whole)
    const [alone] = slopesOf([demands[0]!], 2, weights).slopes.map(whole)
    expect(one! / alone!).toBeCloseTo(0.296, 2)
    expect(two).toBeGreaterThan(one!)
    expect(near).toBeGreaterThan(300)
  })
  it('weighs candidates as they are, and rests on fewer where few are near', () => {
    const spare = normalAt(0, 5)
    const one = new Float64Array(size)
    one[7] = size
    expect(slopesOf([{ spare, slopes: () => [1] }], 1, one).near).toBeCloseTo(1, 9)
    const far = slopesOf([{ spare: spare.map((own) => own + 20), slopes: () => [1] }], 1, weights)
    expect(far.near).toBeLessThan(slopesOf([{ spare, slopes: () => [1] }], 1, weights).near / 4)
  })
})
