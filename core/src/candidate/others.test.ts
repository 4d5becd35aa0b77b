import { parts, type Plan } from '@climber/contract'
import { today } from '../../test/arbitrary'
import { gardenExam, gardenRecord, morning } from '../../test/fixture'
import { randomFrom } from '../exact/random'
import {
  afterDeeds,
  assess,
  compareSchools,
  dayNumber,
  deedsOf,
  marksOf,
  otherKinds,
  previewPlan,
  sectionShares,
} from '../index'
import { othersSay } from './others'

const now = morning(today)
const record = gardenRecord()
const first = dayNumber(today)
const exam = dayNumber(gardenExam.sittings[0]!.date)
const made = (seed: number): Plan => previewPlan(record, now, seed)!.plan
const start = gardenExam.topics.map(() => 0.35)
const taus = gardenExam.topics.map(() => 6)
const person = (kind: (typeof otherKinds)[number]['kind'], seed = 5) =>
  kind({ exam: gardenExam, taus, start, random: randomFrom(seed), today: first })

describe.each(otherKinds)('a learner who $title', ({ kind }) => {
  const marks = (weeks: number, on = exam) => {
    const deeds = deedsOf(gardenExam, made(1).sessions).filter(({ day }) => day < first + 7 * weeks)
    const all = [1, 2, 3, 4, 5, 6].map((seed) =>
      marksOf(gardenExam, sectionShares(gardenExam, afterDeeds(person(kind, seed), deeds), on)),
    )
    return all.reduce((a, b) => a + b, 0) / all.length
  }
  it('begins where it is believed to, learns by work and forgets without', () => {
    const one = person(kind)
    const known = gardenExam.topics.map((_, at) => one.knows(at, first))
    expect(known.reduce((a, b) => a + b, 0) / known.length).toBeGreaterThan(0.25)
    expect(known.reduce((a, b) => a + b, 0) / known.length).toBeLessThan(0.45)
    expect(marks(12)).toBeGreaterThan(marks(4) + 1)
    expect(marks(4)).toBeGreaterThan(marks(0) + 1)
    expect(marks(4, exam + 200)).toBeLessThan(marks(4, first + 28))
  })
  it('is the same person for the same seed', () => {
    const deeds = deedsOf(gardenExam, made(1).sessions)
    const shares = () => sectionShares(gardenExam, afterDeeds(person(kind), deeds), exam)
    expect(shares()).toEqual(shares())
    for (const share of shares()) {
      expect(share).toBeGreaterThan(0)
      expect(share).toBeLessThanOrEqual(1)
    }
  })
})

describe('what other learners say of ways to work', () => {
  const assessment = assess(record, now)
  it('is nothing of two that are the same, and that more work helps', () => {
    const [plans, less] = [
      [made(1), made(2)],
      [made(1), made(2)].map((plan) => ({
        ...plan,
        sessions: plan.sessions.filter((_, at) => at % 2 === 0),
      })),
    ]
    const [one, same, half] = othersSay(assessment, [plans, plans, less])
    expect(one!.against).toBeUndefined()
    expect(same!.against!.points).toBe(0)
    expect(same!.mean).toBe(one!.mean)
    expect(half!.against!.points).toBeLessThan(-2 * half!.against!.error)
    expect(half!.against!.points).toBeCloseTo(half!.mean - one!.mean, 6)
    expect(half!.byKind.map(({ title }) => title)).toEqual(otherKinds.map(({ title }) => title))
    const mean = half!.byKind.reduce((sum, kind) => sum + kind.against!.points, 0) / otherKinds.length
    expect(mean).toBeCloseTo(half!.against!.points, 6)
  })
  it('stands beside our own forecast when ways are compared', () => {
    const compared = compareSchools(record, now, 1, [
      { title: 'as now', settings: record.settings },
      { title: 'weekly', settings: parts.settings.parse({ schools: { tests: 'weekly' } }) },
    ])
    expect(compared.map(({ title }) => title)).toEqual(['as now', 'weekly'])
    for (const { luck, others, odds } of compared) {
      expect(odds).toBeGreaterThan(0)
      expect(luck).toBeGreaterThanOrEqual(0)
      expect(others!.mean).toBeGreaterThan(0)
    }
    expect(compared[1]!.others!.against!.error).toBeGreaterThan(0)
  })
})
