import { plainSitting } from '../../../test/plainSittings'
import { randomPaper } from '../../../test/randomPapers'
import {
  bestApproach,
  expectedSeconds,
  fixedLimit,
  LeaveTimes,
  markSeconds,
  meanOf,
  type PacedPaper,
  type SatClass,
  sitMany,
  solvedBy,
  straightThrough,
  toTheEnd,
} from '../../index'

const plain: SatClass = { p: 0.7, median: 60, s: 0.5, marks: 1, wrong: 0, blank: 0, guess: 0 }
const paperOf = (classes: SatClass[], of: number[], until: number): PacedPaper => ({
  paper: { classes, first: { of, reading: of.map(() => 0), setStart: of.map((_, at) => at), until } },
  worth: classes.map(({ marks }) => marks),
})
const three = (values: Float64Array) => {
  const mean = meanOf(values)
  const variance = values.reduce((sum, value) => sum + (value - mean) ** 2, 0) / values.length
  return 3 * Math.sqrt(variance / values.length)
}

describe('simulated sittings', () => {
  it('agree with the closed forms while time is plenty: marks and seconds within three standard errors', () => {
    const of = Array.from({ length: 30 }, () => 0)
    const { raw, used } = sitMany(paperOf([plain], of, 1e5).paper, { first: [of.map(() => 80)] }, 20_000, 11)
    const solved = plain.p * solvedBy(plain, 80)
    expect(Math.abs(meanOf(raw) - 30 * solved)).toBeLessThan(three(raw))
    const seconds = expectedSeconds(plain, 80) + markSeconds * (1 - solved)
    expect(Math.abs(used / (30 * seconds) - 1)).toBeLessThan(0.005)
  })
  it('guess what is left at the chance given, and take off what a wrong guess costs', () => {
    const guessed = { ...plain, p: 0.0001, wrong: 0.25, guess: 0.4 }
    const of = Array.from({ length: 40 }, () => 0)
    const { raw } = sitMany(paperOf([guessed], of, 1e5).paper, { first: [of.map(() => 5)] }, 20_000, 12)
    expect(Math.abs(meanOf(raw) - 40 * (0.4 - 0.6 * 0.25))).toBeLessThan(three(raw))
  })
  it('never take longer than there is', () => {
    for (let seed = 1; seed <= 20; seed++) {
      const own = randomPaper(seed)
      const { used, notReached, leftOver } = sitMany(own.paper, straightThrough(own), 500, seed)
      expect(used).toBeLessThanOrEqual(own.paper.first.until + 1 / 64)
      expect(notReached + leftOver).toBeLessThanOrEqual(own.paper.first.of.length)
    }
  })
  it('give the marks that a plain walk through each sitting gives, sitting by sitting', () => {
    for (let seed = 1; seed <= 24; seed++) {
      const own = randomPaper(seed)
      const { classes, first } = own.paper
      const odd = classes.filter((_, kind) => kind % 2)
      if (seed % 3 === 0) odd.forEach((one) => (one.levels = [0.8 * one.p, one.p, 1 - 0.9 * (1 - one.p)]))
      if (seed % 4 === 0) odd.forEach((one) => Object.assign(one, { guess: 0.3, wrong: 0.25 }))
      if (seed % 4 === 1) odd.forEach((one) => (one.blank = 0.125))
      if (seed % 5 === 0)
        own.paper.second = [0, 2, 6].map((from) => ({ ...first, until: 2 * first.until, from }))
      const times = new LeaveTimes(own)
      const approaches = [
        straightThrough(own),
        fixedLimit(own, 50),
        times.approach({ passes: 2, haste: 1.4, deferred: 1 }),
        times.approach({ passes: 3, haste: 1, deferred: Math.min(2, times.ranked.length - 1) }),
      ]
      for (const approach of approaches) {
        const plainly = Array.from({ length: 15 }, (_, at) =>
          plainSitting(own.paper, approach, seed, 1000 + at),
        )
        const { raw } = sitMany(own.paper, approach, 15, seed, 1000)
        raw.forEach((marks, at) => expect(marks).toBeCloseTo(plainly[at]!, 9))
      }
    }
  })
  it('are the same in pieces as in one, and the same again', () => {
    const own = randomPaper(5)
    const approach = fixedLimit(own, 60)
    const whole = sitMany(own.paper, approach, 600, 8).raw
    const pieces = [0, 200, 400].flatMap((from) => [...sitMany(own.paper, approach, 200, 8, from).raw])
    expect(pieces).toEqual([...whole])
    expect([...sitMany(own.paper, approach, 600, 9).raw]).not.toEqual(pieces)
  })
  it('meet the same luck whatever the approach: differences are known far better than the marks', () => {
    const own = paperOf(
      [plain],
      Array.from({ length: 40 }, () => 0),
      40 * 60,
    )
    const a = sitMany(own.paper, fixedLimit(own, 70), 4000, 3).raw
    const b = sitMany(own.paper, fixedLimit(own, 75), 4000, 3).raw
    const paired = three(a.map((value, at) => value - b[at]!))
    const apart = Math.sqrt(three(a) ** 2 + three(b) ** 2)
    expect(paired).toBeLessThan(apart / 2)
  })
  it('lead to the second stage that the first earns, and spread over levels of knowledge', () => {
    const classes = [
      { ...plain, levels: [0.1, 0.9] },
      { ...plain, p: 0.5, marks: 1 },
    ]
    const first = Array.from({ length: 10 }, () => 0)
    const own = paperOf(classes, first, 1e5)
    const leg = (from: number) => ({ ...own.paper.first, of: first.map(() => 1), until: 2e5, from })
    const paper = { ...own.paper, second: [leg(0), leg(5)] }
    const ends = [first.map(() => toTheEnd / 1e4)]
    const outcome = sitMany(paper, { first: ends, second: [ends, ends] }, 2000, 4)
    const upper = outcome.stage!.reduce((sum, stage) => sum + stage, 0)
    // Weak and strong in turn: the strong half is nearly always sent up, the weak half nearly never.
    expect(upper / 2000).toBeCloseTo(0.5, 1)
    expect(outcome.passEnds).toHaveLength(2)
  })
  it('reading is done once for a set, before its first item', () => {
    const of = [0, 0, 0, 0]
    const sure = { ...plain, p: 0.999999, s: 0.001, median: 10 }
    const own = paperOf([sure], of, 1e4)
    own.paper.first.reading = [100, 0, 100, 0]
    own.paper.first.setStart = [0, 0, 2, 2]
    const { used } = sitMany(own.paper, { first: [of.map(() => 50)] }, 200, 1)
    expect(used).toBeCloseTo(240, 0)
    // Going past the first set in the first pass, its reading waits for the second.
    const later = sitMany(own.paper, { first: [[0, 0, 50, 50], of.map(() => 50)] }, 200, 1)
    expect(later.passEnds[0]![0]).toBeCloseTo(120 + 2 * markSeconds, 0)
    expect(later.used).toBeCloseTo(240 + 2 * markSeconds, 0)
  })
})

describe('the search', () => {
  it('finds nothing worse than what it starts from, and says how far it is', () => {
    const own = randomPaper(26)
    const times = new LeaveTimes(own)
    const search = bestApproach(times, 7)
    const shares: number[] = []
    let step = search.next()
    for (; !step.done; step = search.next()) shares.push(step.value)
    expect(shares).toEqual([...shares].sort((a, b) => a - b))
    const marks = (approach: Parameters<typeof sitMany>[1]) =>
      meanOf(sitMany(own.paper, approach, 8000, 99).raw)
    expect(marks(step.value.approach)).toBeGreaterThanOrEqual(
      marks(times.approach({ passes: 1, haste: 1, deferred: 0 })) * 0.995,
    )
  })
})
