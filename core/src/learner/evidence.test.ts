import { Attempt, type Counts } from '@climber/contract'
import {
  changedRecord,
  diagnosed,
  diagnostic,
  gardenBaseline,
  gardenExam,
  gardenRecord,
  morning,
} from '../../test/fixture'
import { randomFrom } from '../exact/random'
import { evidenceOf, posterior, posteriorOf, tellingQuestions, weighed, whereYouStand } from '../index'

const counts = (right: number, wrong: number, blank = 0, notReached = 0): Counts => ({
  right,
  wrong,
  blank,
  notReached,
})
const earlier = (id: string, date: string, right: number): Attempt =>
  Attempt.parse({
    id: `00000000-0000-4000-8000-00000000000${id}`,
    kind: 'earlier',
    date,
    title: `Paper ${id}`,
    counts: {
      groups: { 'names-items': counts(right, 60 - right) },
      topics: { 'names-1': counts(Math.round(right / 6), 10 - Math.round(right / 6)) },
    },
  })

describe('several tests', () => {
  const base = diagnostic({ 'names-items': counts(30, 30) }, { date: '2031-03-01' })
  it('count half after 60 days, or after as long as is set', () => {
    const tests = [base, earlier('1', '2030-12-31', 50), earlier('2', '2030-11-01', 10)]
    const weights = (halfWeightDays: number) => weighed(tests, halfWeightDays).map(({ weight }) => weight)
    expect(weights(60)).toEqual([0.25, 0.5, 1].map((weight) => expect.closeTo(weight, 9)))
    expect(weights(120)[0]).toBeCloseTo(0.5, 9)
  })
  it('move the estimate towards them, the newer one more, and narrow it', () => {
    const result = (tests: Attempt[]) =>
      diagnosed(changedRecord({ exam: gardenExam }, { attempts: [base, ...tests] })).sections[0]!
    const alone = result([])
    const fresh = result([earlier('1', '2031-02-20', 50)])
    const old = result([earlier('1', '2030-06-20', 50)])
    expect(fresh.mean).toBeGreaterThan(old.mean)
    expect(old.mean).toBeGreaterThan(alone.mean)
    expect(fresh.high - fresh.low).toBeLessThan(alone.high - alone.low)
  })
  it('say what they are made of', () => {
    const { tests } = diagnosed(gardenRecord({ attempts: [base, earlier('1', '2031-01-01', 40)] }))
    expect(tests.map(({ title }) => title)).toEqual(['Paper 1', 'Diagnostic'])
  })
})

describe('evidence', () => {
  it('of written answers is their share of the marks', () => {
    const group = { id: 'w', kind: 'written' as const, items: 4, perRight: 15, perWrong: 0 }
    expect(evidenceOf({ ...counts(0, 0, 1, 0), marks: 30 }, group)).toEqual({
      right: 2,
      wrong: 1,
      skipped: 1,
    })
    expect(evidenceOf({ ...counts(0, 0, 1, 1), marks: 45 }, group)).toEqual({
      right: 3,
      wrong: 0,
      skipped: 0,
    })
  })
  it('of items with different options is told apart', () => {
    const right = { right: 5, wrong: 0, skipped: 0 }
    const mixed = posteriorOf(0.5, [
      { ...right, choices: 2 },
      { ...right, choices: Infinity },
    ])
    expect(mixed.mean).toBeGreaterThan(posterior(0.5, { ...right, right: 10 }, 2).mean)
    expect(mixed.mean).toBeLessThan(posterior(0.5, { ...right, right: 10 }, Infinity).mean)
  })
  it('a topic covered in a course is thought better known than one of which nothing is said, with as wide a range', () => {
    const topic = (rating?: string) =>
      diagnosed(gardenRecord({ attempts: [], ratings: { topics: rating ? { 'names-1': rating } : {} } }))
        .topics[0]!
    expect(topic('covered').mean).toBeCloseTo(topic().mean + 0.1, 2)
    expect(topic('covered').high - topic('covered').low).toBeGreaterThan(0.5)
  })
})

describe('calibration', () => {
  it('the 80% range holds a topic drawn from the prior 8 times in 10', () => {
    const random = randomFrom(31)
    // Beta(2, 2), by the middle of three uniform numbers.
    const draw = () => [random(), random(), random()].sort((a, b) => a - b)[1]!
    let inside = 0
    const runs = 3000
    for (let run = 0; run < runs; run++) {
      const known = draw()
      let right = 0
      for (let item = 0; item < 8; item++) if (random() < known + (1 - known) / 4) right += 1
      const { low, high } = posterior(0.5, { right, wrong: 8 - right, skipped: 0 }, 4)
      if (known >= low && known <= high) inside += 1
    }
    expect(inside / runs).toBeGreaterThan(0.78)
    expect(inside / runs).toBeLessThan(0.82)
  })
})

describe('the most telling questions', () => {
  const diagnosis = diagnosed(gardenRecord())
  const values = gardenExam.topics.map((_, at) => 10 + at)
  it('are as many as asked for, and promise a narrower level', () => {
    const found = tellingQuestions(gardenExam, diagnosis, values)
    expect(found.topics.reduce((sum, { questions }) => sum + questions, 0)).toBe(10)
    expect(found.sdAfter).toBeLessThan(found.sd)
    expect(found.topics.every(({ drop }) => drop > 0)).toBe(true)
  })
  it('no other split of the questions promises more (brute force over three)', () => {
    const few = { ...gardenExam, topics: gardenExam.topics.slice(0, 3) }
    const own = diagnosed({ ...gardenRecord(), exam: few })
    const worth = [30, 10, 20]
    const dropOf = (split: number[]) => {
      return split.reduce((sum, questions, at) => {
        if (!questions) return sum
        const single = tellingQuestions(
          few,
          own,
          worth.map((value, place) => (place === at ? value : 0)),
          questions,
        )
        return sum + single.topics.find(({ topic }) => topic === few.topics[at]!.id)!.drop
      }, 0)
    }
    const best = tellingQuestions(few, own, worth, 3)
    const chosen = best.topics.reduce((sum, { drop }) => sum + drop, 0)
    for (let a = 0; a <= 3; a++)
      for (let b = 0; a + b <= 3; b++) expect(chosen).toBeGreaterThanOrEqual(dropOf([a, b, 3 - a - b]) - 1e-9)
  })
  it('prefer what is unknown and heavy', () => {
    const own = {
      ...gardenBaseline,
      counts: { ...gardenBaseline.counts, topics: { 'names-1': counts(38, 2) } },
    }
    const known = diagnosed(gardenRecord({ attempts: [own], ratings: {} }))
    const found = tellingQuestions(
      gardenExam,
      known,
      gardenExam.topics.map(() => 10),
    )
    expect(found.topics.map(({ topic }) => topic)).not.toContain('names-1')
  })
})

describe('where you stand', () => {
  it('gives sections on their scales, topics with their shares, and which tests it rests on', () => {
    const found = whereYouStand(gardenRecord(), morning('2031-03-03'))
    expect(found.measured).toBe(true)
    for (const { scaled } of found.sections) {
      expect(scaled.low).toBeLessThan(scaled.mean)
      expect(scaled.mean).toBeLessThan(scaled.high)
    }
    expect(found.topics.reduce((sum, { share }) => sum + share, 0)).toBeCloseTo(1, 9)
    expect(found.tests).toHaveLength(1)
  })
})
