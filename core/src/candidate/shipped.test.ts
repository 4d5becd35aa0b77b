import fc from 'fast-check'
import { attemptIssues, countIssues } from '@climber/contract'
import { diagnostic, practice } from '../../test/fixture'
import { exams, now, paper, record, today } from '../../test/shipped'
import {
  assess,
  checkPlan,
  compositeRange,
  countResponses,
  countsInAll,
  countsOfSection,
  explore,
  gap,
  isWhole,
  lettersOf,
  makePlan,
  overview,
  planInput,
  testsSay,
  paperScore,
  timetable,
  whereYouStand,
} from '../index'

/** The laws of the models on each of the exams that ship: adaptive, written, weighted, by table. */
describe.each(exams)('%s', (_, exam) => {
  const rates = fc.tuple(
    fc.double({ min: 0, max: 1, noNaN: true }),
    fc.double({ min: 0, max: 1, noNaN: true }),
  )

  it('scores every paper inside its scale, and counts are accepted', () => {
    fc.assert(
      fc.property(rates, ([rate, blanks]) => {
        const counts = paper(exam, rate, blanks)
        expect(countIssues(exam, counts)).toEqual([])
        const { low, high } = compositeRange(exam)
        const found = paperScore(exam, counts)!
        expect(found.composite).toBeGreaterThanOrEqual(low)
        expect(found.composite).toBeLessThanOrEqual(high)
      }),
    )
  })
  it('a better paper never scores less, and never lowers the level', () => {
    fc.assert(
      fc.property(rates, ([a, b]) => {
        const [worse, better] = [Math.min(a, b), Math.max(a, b)]
        // Without blanks, so that more right is only ever fewer wrong.
        const score = (rate: number) => paperScore(exam, paper(exam, rate, 0))!.composite
        expect(score(better)).toBeGreaterThanOrEqual(score(worse))
        const level = (rate: number) =>
          assess(
            record(exam, 0, {
              attempts: [diagnostic(paper(exam, rate, 0), { date: '2030-01-10' })],
            }),
            now,
          ).landscape.now.composite
        expect(level(better)).toBeGreaterThanOrEqual(level(worse) - 1e-6)
      }),
      { numRuns: 40 },
    )
  })
  it('is read everywhere from counts of any grain, as a baseline and as a test, and scores near the finest', () => {
    const fine = { groups: paper(exam, 0.6, 0.1), topics: {} }
    const inAll = { total: countsInAll(exam, fine), groups: {}, topics: {} }
    const bySection = {
      sections: Object.fromEntries(exam.sections.map(({ id }) => [id, countsOfSection(exam, id, fine)!])),
      groups: {},
      topics: {},
    }
    const byTopic = {
      groups: {},
      topics: Object.fromEntries(
        exam.topics.map(({ id }) => [id, { right: 3, wrong: 1, blank: 1, notReached: 0 }]),
      ),
    }
    const { low, high } = compositeRange(exam)
    const exact = paperScore(exam, fine.groups)!.composite
    for (const counts of [inAll, bySection, byTopic]) {
      const attempts = [
        { ...diagnostic({}, { date: '2030-01-03' }), counts },
        { ...practice(1, '2030-01-10', {}), counts },
      ]
      expect(attemptIssues(exam, attempts[1]!, { today, whole: true })).toEqual([])
      const all = record(exam, 0.6, { attempts })
      const found = overview(all, now)
      expect(found.tests).toHaveLength(1)
      expect(Math.abs(found.tests[0]!.composite - exact)).toBeLessThan((high - low) * 0.12)
      for (const { known } of found.topics) expect(known).toBeGreaterThan(0)
      for (const value of [found.odds!.forecast.mean, found.odds!.forecast.low])
        expect(Number.isFinite(value)).toBe(true)
      expect(gap(all, now).sections).toHaveLength(exam.sections.length)
      expect(() => testsSay(all, now)).not.toThrow()
    }
  })
  it('odds fall as the target rises, and rise with the minutes a week', () => {
    const base = record(exam, 0.55)
    const { low, high } = compositeRange(exam)
    const odds = (share: number, minutesMoreAWeek = 0) =>
      explore(base, now, { scaled: low + share * (high - low), minutesMoreAWeek })!.odds!
    const falling = [0.2, 0.4, 0.6, 0.8, 1].map((share) => odds(share))
    falling.forEach((one, at) => at && expect(one).toBeLessThanOrEqual(falling[at - 1]! + 1e-12))
    const risen = [0, 60, 240].map((minutes) => odds(0.85, minutes))
    // Of plans that are made: one may be luckier than another, or have a test more.
    risen.forEach((one, at) => at && expect(one).toBeGreaterThanOrEqual(risen[at - 1]! - 0.02))
    expect(risen[2]!).toBeGreaterThan(risen[0]!)
  })
  it.each([undefined, ...(exam.accommodations ?? []).map(({ id }) => id)])(
    'a plan with accommodation %s breaks no rule, its tests as long as the granted paper',
    (accommodation) => {
      const own = record(exam, 0.5, { settings: { accommodation } })
      const assessment = assess(own, now)
      const input = planInput(assessment, assessment.sitting!, 1)
      const plan = makePlan(input)
      expect(plan.sessions.some(({ kind }) => kind === 'learn' || kind === 'drill')).toBe(true)
      expect(
        checkPlan(
          {
            exam: input.exam,
            sitting: assessment.sitting!,
            today,
            nowMinute: now.minute,
            availability: own.availability,
            busy: [],
            settings: input.settings,
            sat: input.sat,
            measured: input.measured,
            kept: [],
            begun: [],
          },
          plan,
        ),
      ).toEqual([])
      const day = timetable(own.exam, assessment.sitting!, own.examDay, own.settings)
      const whole = plan.sessions.find(
        (session) => session.kind === 'test' && isWhole(session) && !session.split,
      )
      const sat = day.filter(({ what }) => what === 'section' || what === 'break')
      if (whole) expect(whole.minutes).toBe(sat.reduce((sum, { minutes }) => sum + minutes!, 0))
    },
  )
  it('what each section must give is within the composite’s reach of the target', () => {
    const found = gap(record(exam, 0.6), now)
    for (const section of found.sections) {
      expect(section.high).toBeGreaterThan(section.low)
      if (section.rawNeeded !== undefined)
        expect(section.rawNeeded).toBeLessThanOrEqual(section.fullMarks + 1e-9)
      // What the others give later is at least what they give today, so less is left to ask.
      if (section.mustGive)
        expect(section.mustGive.othersLater).toBeLessThanOrEqual(section.mustGive.othersToday + 1e-6)
    }
    expect(found.topics.reduce((sum, { hours }) => sum + hours, 0)).toBeCloseTo(found.hours, 6)
  })
  it('where the candidate stands lies inside its own range, for sections and topics', () => {
    const found = whereYouStand(record(exam, 0.45), now)
    for (const { mean, low, high } of [...found.sections, ...found.topics]) {
      expect(low).toBeLessThan(mean)
      expect(mean).toBeLessThan(high)
    }
    expect(found.telling.sdAfter).toBeLessThan(found.telling.sd)
    for (const chapter of found.chapters) expect(chapter.pointsPerPage).toBeGreaterThanOrEqual(0)
  })
  it('item responses make the counts that they are', () => {
    const slots = countResponses(exam, []).slots.length
    const responses = Array.from({ length: slots + 40 }, (_, at) => ({
      item: at + 1,
      answer: at % 3 ? 'A' : '1',
      key: 'A',
    }))
    const first = countResponses(exam, responses)
    const usable = first.slots.map(({ item, group }) => ({
      item,
      key: group.kind === 'numeric' ? '7' : 'A',
      answer:
        group.kind === 'written'
          ? '1'
          : group.kind === 'numeric'
            ? item % 2
              ? '7'
              : '8'
            : lettersOf(group.choices!)[item % 3]!,
    }))
    const { sections } = countResponses(exam, usable)
    expect(countIssues(exam, sections)).toEqual([])
    expect(paperScore(exam, sections)).toBeDefined()
  })
})
