import { gardenExam, gardenRecord, morning } from '../../test/fixture'
import {
  assess,
  convert,
  gap,
  hoursTo,
  knownAfter,
  lossBudget,
  makePlan,
  planInput,
  rangeOf,
  studyHours,
  verdict,
} from '../index'

const on = '2031-03-03'
const record = gardenRecord()

describe('the gap', () => {
  const found = gap(record, morning(on))
  it('shares out the hours there are, and says what they bring', () => {
    const assessment = assess(record, morning(on))
    expect(found.available).toBeCloseTo(studyHours(planInput(assessment, assessment.sitting!, 1)), 9)
    const spokenOf = verdict(assessment)!
    expect(found.points).toBeCloseTo(spokenOf.gain, 9)
    expect(found.sections.reduce((sum, { later }) => sum + later, 0)).toBeCloseTo(spokenOf.forecast.mean, 6)
    expect(found.topics.reduce((sum, { hours }) => sum + hours, 0)).toBeCloseTo(found.available, 6)
    expect(found.points).toBeGreaterThan(0)
    expect(gap(record, morning(on), 0).points).toBeLessThan(found.points / 2)
  })
  it('with a plan goes on from what that leads to: as many hours as it has bring as much, more bring more', () => {
    const assessment = assess(record, morning(on))
    const planned = { ...record, plan: makePlan(planInput(assessment, assessment.sitting!, 1)) }
    const kept = gap(planned, morning(on))
    const at = (more: number) => gap(planned, morning(on), kept.available + more).points
    expect(at(0)).toBeCloseTo(kept.points, 9)
    expect(at(15)).toBeGreaterThan(kept.points)
    expect(at(-15)).toBeLessThan(kept.points)
  })
  it('brings more points with more hours, each hour less than the one before', () => {
    const points = [0, 20, 40, 60, 80].map(
      (hours) =>
        gap(
          {
            ...record,
            exam: {
              ...gardenExam,
              sections: gardenExam.sections.map(({ cut: _cut, ...section }) => section),
            },
          },
          morning(on),
          hours,
        ).points,
    )
    const steps = points.slice(1).map((value, at) => value - points[at]!)
    for (const [at, step] of steps.entries()) {
      expect(step).toBeGreaterThan(0)
      if (at > 1) expect(step).toBeLessThan(steps[at - 1]! * 1.05)
    }
  })
  it('hours to fair and strong bring a topic exactly there', () => {
    for (const topic of found.topics) {
      const after = knownAfter({ value: 1, known: topic.known, tau: topic.tau }, topic.hoursToStrong)
      expect(after).toBeCloseTo(Math.max(0.85, topic.known), 9)
      expect(topic.hoursToFair).toBeLessThanOrEqual(topic.hoursToStrong)
    }
    expect(hoursTo(0.9, 0.85, 10)).toBe(0)
    expect(hoursTo(0, 0.5, 10)).toBeCloseTo(6.931, 3)
  })
  it('what a paper sat today would lose agrees with what is known, and is little for who knows all', () => {
    const assessment = assess(record, morning(on))
    found.sections.forEach(({ expected, today: level }, at) => {
      const section = record.exam.sections[at]!
      const [group] = section.groups
      const { wrong, blank } = expected!
      expect(wrong + blank).toBeLessThan(group!.items)
      const raw = (group!.items - wrong - blank) * group!.perRight - wrong * group!.perWrong
      // The mean of the table is near the table of the mean.
      expect(Math.abs(convert(section.conversion, raw) - level)).toBeLessThan(6)
    })
    const full = Object.fromEntries(
      record.exam.sections.map(({ groups }) => [
        groups[0]!.id,
        { right: groups[0]!.items, wrong: 0, blank: 0, notReached: 0 },
      ]),
    )
    const able = gap(
      {
        ...record,
        attempts: record.attempts.map((one) => ({ ...one, counts: { groups: full, topics: {} } })),
      },
      morning(on),
    )
    for (const { expected } of able.sections) expect(expected!.wrong + expected!.blank).toBeLessThan(8)
    expect(assessment.learner.measured).toBe(true)
  })
  it('the budget of a section is for its cut, or for the score that is asked', () => {
    const [names, ledgers] = found.sections
    expect(names!.wanted).toBe(180)
    expect(names!.strictest).toEqual(
      lossBudget(gardenExam.sections[0]!, gardenExam.sections[0]!.conversion, 180),
    )
    expect(ledgers!.wanted).toBeCloseTo(Math.min(300, Math.max(100, ledgers!.mustGive!.othersLater)), 9)
    expect(gap(record, morning(on), 10, { names: 240 }).sections[0]!.rawNeeded).toBeCloseTo(43 + 1 / 3, 9)
  })
  it('what a section must give makes the target with what the others give', () => {
    const [names, ledgers] = found.sections
    expect(names!.mustGive!.othersToday + ledgers!.today).toBeCloseTo(record.target.scaled! - 0.5, 9)
    expect(ledgers!.mustGive!.othersLater + names!.later).toBeCloseTo(record.target.scaled! - 0.5, 9)
  })
  it('of several tables the strictest is inside every budget, the easiest holds them all', () => {
    const harder = {
      points: [
        [-20, 100],
        [0, 110],
        [40, 200],
        [60, 300],
      ] as [number, number][],
      step: 1,
    }
    const exam = {
      ...gardenExam,
      forms: [{ ...gardenExam.forms[0]!, conversions: { names: harder } }, ...gardenExam.forms.slice(1)],
    }
    const [names] = gap({ ...record, exam }, morning(on)).sections
    expect(names!.tables).toBe(2)
    const section = gardenExam.sections[0]!
    for (const { wrong, blank } of names!.strictest!)
      for (const table of [section.conversion, harder])
        expect(convert(table, 60 - wrong - blank - wrong / 3)).toBeGreaterThanOrEqual(180)
    for (const { wrong, blank } of names!.easiest!)
      expect(blank).toBeGreaterThanOrEqual(names!.strictest![wrong]?.blank ?? 0)
  })
  it('a score above the scale is out of reach, and clamped to its top', () => {
    const { high } = rangeOf(gardenExam.sections[0]!.conversion)
    expect(gap(record, morning(on), 10, { names: 999 }).sections[0]!.wanted).toBe(high)
  })
  it('shows the newest paper, or the diagnostic', () => {
    expect(found.sections[0]!.last).toEqual({ wrong: 18, blank: 12, of: '2031-03-01' })
  })
})
