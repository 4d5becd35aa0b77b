import fc from 'fast-check'
import { Availability, ExamFormat, parts, type Target } from '@climber/contract'
import { gardenExam, gardenRecord, morning } from '../../test/fixture'
import {
  asSat,
  assess,
  chapterYields,
  coverage,
  examShares,
  explore,
  levers,
  makeSum,
  movingCutOf,
  normalCdf,
  normalQuantile,
  drawnTarget,
  minuteOf,
  planOdds,
  withMoved,
  paceSection,
  planInput,
  timetable,
  verdict,
} from '../index'

describe('shares made to sum', () => {
  it('add up to exactly 100%, keep their order, and none vanishes', () => {
    fc.assert(
      fc.property(
        fc.array(fc.double({ min: 0, max: 3, noNaN: true }), { minLength: 1, maxLength: 80 }),
        (shares) => {
          const made = makeSum(shares)
          expect(made.reduce((sum, share) => sum + Math.round(share * 1000), 0)).toBe(1000)
          for (const share of made) expect(share).toBeGreaterThanOrEqual(0.001)
          const total = shares.reduce((a, b) => a + b, 0)
          if (total > 0 && shares.length < 20)
            made.forEach((share, at) =>
              expect(Math.abs(share - shares[at]! / total)).toBeLessThan(0.001 * (shares.length + 1)),
            )
        },
      ),
    )
  })
  it('leave shares that sum alone, and share out evenly what has none', () => {
    expect(makeSum([0.25, 0.5, 0.25])).toEqual([0.25, 0.5, 0.25])
    expect(makeSum([0, 0, 0])).toEqual([0.334, 0.333, 0.333])
    expect(makeSum([])).toEqual([])
  })
})

const chapter = (id: string, from: number, to: number, topics: string[]) => ({
  id,
  title: id,
  from,
  to,
  topics,
})
const booked = ExamFormat.parse({
  ...gardenExam,
  books: [
    {
      id: 'one',
      title: 'One',
      chapters: [
        chapter('a', 1, 20, ['names-1']),
        chapter('b', 11, 40, ['names-1', 'names-2']),
        chapter('c', 41, 60, ['ledgers-1']),
      ],
    },
    { id: 'two', title: 'Two', chapters: [chapter('d', 1, 10, ['names-1'])] },
  ],
})
describe('books', () => {
  const shares = examShares(booked)
  const share = (id: string) => shares[booked.topics.findIndex((topic) => topic.id === id)]!
  const of = (...chapters: [string, string][]) =>
    coverage(
      booked,
      chapters.map(([book, id]) => ({ book, chapter: id })),
    )
  it('count each page once where chapters overlap', () => {
    expect(of(['one', 'a'], ['one', 'b']).pages).toBe(40)
    expect(of(['one', 'a'], ['one', 'b']).share).toBeCloseTo(share('names-1') + share('names-2'), 12)
  })
  it('cover a topic by the share of its pages that are read, in its best book', () => {
    // Ten of its pages also teach the second topic, which fills thirty.
    const second = share('names-2') / 3
    expect(of(['one', 'a']).share).toBeCloseTo(share('names-1') / 2 + second, 12)
    expect(of(['one', 'a'], ['two', 'd']).share).toBeCloseTo(share('names-1') + second, 12)
    expect(of().share).toBe(0)
  })
  it('more chapters never cover less', () => {
    const all: [string, string][] = [
      ['one', 'a'],
      ['one', 'b'],
      ['one', 'c'],
      ['two', 'd'],
    ]
    for (let at = 1; at <= all.length; at++)
      expect(of(...all.slice(0, at)).share).toBeGreaterThanOrEqual(of(...all.slice(0, at - 1)).share)
  })
  it('yield a page its share of what its topics are worth', () => {
    const yields = chapterYields(booked)
    const c = yields.find((one) => one.chapter === 'c')!
    expect(c.sharePerPage).toBeCloseTo(share('ledgers-1') / 20, 12)
    const points = chapterYields(
      booked,
      booked.topics.map(({ id }) => (id === 'names-2' ? 30 : 0)),
    )
    expect(points[0]).toMatchObject({ chapter: 'b', pointsPerPage: 1 })
  })
})

describe('accommodations', () => {
  const granted = ExamFormat.parse({
    ...gardenExam,
    accommodations: [
      { id: 'more', title: 'More', timeFactor: 1.25, sections: { ledgers: 1.5 }, breakMinutes: 7 },
    ],
  })
  const settings = parts.settings.parse({ accommodation: 'more', timeFactor: 2 })
  it('lengthen each section by its own factor, and the breaks', () => {
    const { exam, timeFactor } = asSat(granted, settings)
    expect(timeFactor).toBe(1)
    expect(exam.sections.map(({ minutes, breakAfter }) => [minutes, breakAfter])).toEqual([
      [93.75, 17],
      [67.5, 10],
    ])
    expect(asSat(granted, parts.settings.parse({ timeFactor: 2 }))).toEqual({ exam: granted, timeFactor: 2 })
  })
  it('reach pacing to the second, the plan and the day', () => {
    const { exam } = asSat(granted, settings)
    expect(
      paceSection(exam.sections[0]!, parts.pacing.parse({ sections: { x: {} } }).sections.x!, 1)
        .sectionSeconds,
    ).toBe(5625)
    const record = gardenRecord({ exam: granted, settings })
    const assessment = assess(record, morning('2031-03-03'))
    expect(planInput(assessment, assessment.sitting!, 1).exam.sections[1]!.minutes).toBe(67.5)
    const day = timetable(granted, granted.sittings[0]!, record.examDay, settings)
    expect(day.filter(({ what }) => what === 'section').map(({ minutes }) => minutes)).toEqual([94, 68])
    expect(day.find(({ what }) => what === 'break')!.minutes).toBe(17)
  })
  it('item sets add their reading time before their first item', () => {
    const [names] = gardenExam.sections
    const section = {
      ...names!,
      minutes: 20,
      groups: [{ ...names!.groups[0]!, items: 10, set: { items: 5, readingSeconds: 100 } }],
    }
    const { finishBy } = paceSection(section, parts.pacing.parse({ sections: { x: {} } }).sections.x!, 1)
    expect(finishBy.map((at, item) => at - (finishBy[item - 1] ?? 0))).toEqual([
      200, 100, 100, 100, 100, 200, 100, 100, 100, 100,
    ])
  })
})

describe('targets', () => {
  const cohort = { kind: 'cohort' as const, mean: 400, sd: 50, admitted: 0.2, yearly: 12 }
  const exam = ExamFormat.parse({
    ...gardenExam,
    movingCut: cohort,
    percentiles: [
      [200, 1],
      [400, 50],
      [600, 99],
    ],
  })
  const goal = (target: Partial<Target>, own = exam) =>
    assess(gardenRecord({ exam: own, target: { sitting: 'spring', ...target } }), morning('2031-03-03')).goal
  it('a number, the cut, a percentile', () => {
    expect(goal({ scaled: 455 }).mean).toBe(455)
    expect(goal({}).mean).toBe(420)
    expect(goal({ kind: 'cut', scaled: 455 }).mean).toBe(420)
    expect(goal({ kind: 'percentile', percentile: 50 }).mean).toBe(400)
    expect(goal({ kind: 'percentile', percentile: 99.5 }).problem).toContain('end below')
    expect(goal({ kind: 'percentile' }).problem).toContain('percentile')
  })
  it('what is missing is said, never guessed', () => {
    const bare = { ...gardenExam, composite: { kind: 'sum' as const, step: 1 } }
    for (const kind of ['cut', 'percentile', 'moving', 'places', 'number'] as const) {
      expect(goal({ kind }, bare).mean).toBeUndefined()
      expect(goal({ kind }, bare).problem).toBeTruthy()
    }
  })
  it('a moving cut lies where the admitted share of the cohort begins, spread as it moves', () => {
    const cut = movingCutOf(exam)!
    expect(1 - normalCdf((cut.mean - 400) / 50)).toBeCloseTo(0.2, 9)
    expect(cut.sd).toBe(12)
    const past = movingCutOf({
      movingCut: { kind: 'past', cuts: [510, 530, 520].map((own, at) => ({ year: 2028 + at, cut: own })) },
    })!
    expect(past.mean).toBe(520)
    expect(past.sd).toBeCloseTo(10 * Math.sqrt(4 / 3), 9)
    expect(normalQuantile(0.9)).toBeCloseTo(1.2815515655446004, 9)
  })
  it('a cut that moves counts every place where it may lie', () => {
    const at = (target: Partial<Target>) =>
      planOdds(
        assess(gardenRecord({ exam, target: { sitting: 'spring', ...target } }), morning('2031-03-03')),
      )!.targetOdds!
    const { mean, sd } = movingCutOf(exam)!
    // The mean over targets that stand still where it may lie, each weighed as likely as it is there.
    const steps = Array.from({ length: 41 }, (_, step) => (step - 20) / 5)
    const weights = steps.map((z) => Math.exp((-z * z) / 2))
    const sum = steps.reduce(
      (all, z, step) => all + weights[step]! * at({ scaled: mean + sd * z, kind: 'number' }),
      0,
    )
    expect(at({ kind: 'moving' })).toBeCloseTo(sum / weights.reduce((a, b) => a + b, 0), 1)
  })
  it('few years make a wide cut, and from four on it goes on as it went', () => {
    const past = (...cuts: number[]) =>
      movingCutOf({
        movingCut: { kind: 'past', cuts: cuts.map((cut, year) => ({ year: 2026 + year, cut })) },
      })!
    expect(past(510, 530).freedom).toBe(1)
    const rising = past(500, 512, 519, 531)
    expect(rising.mean).toBeCloseTo(540.5, 9)
    expect(rising.freedom).toBe(2)
    const wide = drawnTarget({ kind: 'moving', places: [], ...past(510, 530, 520) }, 1000)
    const middle = [...wide].sort((a, b) => a - b)
    expect(Math.abs(middle[500]! - 520)).toBeLessThan(1)
    // Student's t with two degrees of freedom: nine tenths lie below 1.886 times its scale.
    expect(Math.abs((middle[900]! - 520) / past(510, 530, 520).sd - 1.886)).toBeLessThan(0.25)
  })
  it('k of n places: the k-th of what they need; a place of the exam’s own composite needs what it asks', () => {
    const places = [
      { id: 'a', title: 'A', asks: 450 },
      { id: 'b', title: 'B', asks: 430 },
      { id: 'c', title: 'C', asks: 500 },
    ]
    expect(goal({ kind: 'places', places }).mean).toBe(430)
    expect(goal({ kind: 'places', places, open: 2 }).mean).toBe(450)
    expect(goal({ kind: 'places', places, open: 9 }).mean).toBe(500)
  })
  it('a place with weights of its own opens where the best path reaches it, and has odds of its own', () => {
    const weights = { names: 2, ledgers: 0 }
    const record = (asks: number) =>
      gardenRecord({
        exam,
        target: { kind: 'places', sitting: 'spring', places: [{ id: 'p', title: 'P', asks, weights }] },
      })
    const needs = (asks: number) => assess(record(asks), morning('2031-03-03')).goal.places[0]!.needs
    expect(needs(460)!).toBeGreaterThan(needs(420)!)
    expect(needs(5000)).toBeUndefined()
    const same = assess(
      gardenRecord({
        exam,
        target: {
          kind: 'places',
          sitting: 'spring',
          places: [{ id: 'p', title: 'P', asks: 440, weights: { names: 1, ledgers: 1 } }],
        },
      }),
      morning('2031-03-03'),
    ).goal.places[0]!.needs!
    expect(Math.abs(same - 440)).toBeLessThanOrEqual(1)
    const found = verdict(assess(record(420), morning('2031-03-03')))!
    expect(found.places[0]!.odds).toBeGreaterThan(0)
    expect(found.places[0]!.odds).toBeLessThan(1)
  })
})

describe('levers moved by hand', () => {
  const now = morning('2031-03-03')
  const record = gardenRecord()
  const base = verdict(assess(record, now))!
  it('change nothing while they stand where they are', () => {
    expect(explore(record, now, {})).toEqual(base)
  })
  it('more minutes a week raise hours and odds, as they would be painted', () => {
    const more = explore(record, now, { minutesMoreAWeek: 120 })!
    // Some of them go to tests that now find room, with their reviews.
    expect(more.hours).toBeGreaterThan(base.hours)
    expect(more.odds!).toBeGreaterThan(base.odds!)
    const { availability } = withMoved(record, { minutesMoreAWeek: 120 })
    expect(verdict(assess({ ...record, availability }, now))!.odds).toBe(more.odds)
  })
  it('who learns faster is likelier to reach it, who learns slower less, with the same plan', () => {
    const at = (learns: number) => explore(record, now, { learns })!
    expect(at(1)).toEqual(base)
    expect(at(1.4).odds!).toBeGreaterThan(base.odds!)
    expect(at(0.7).odds!).toBeLessThan(base.odds!)
    expect(at(0.7).hours).toBe(base.hours)
    expect(at(0.7).today).toEqual(base.today)
    const needs = (learns: number) =>
      levers(record, now, { learns })!.hoursNeeded.find(({ chance }) => chance === 0.5)!.hours!
    expect(needs(1.4)).toBeLessThan(needs(0.7))
  })
  it('minutes are painted where there is room, on days that have some first, within the caps', () => {
    const minutesOf = ({ windows }: typeof record.availability) =>
      windows.reduce((sum, { from, to }) => sum + minuteOf(to) - minuteOf(from), 0)
    const { availability } = record
    for (const minutes of [30, 45, 300]) {
      const painted = withMoved(record, { minutesMoreAWeek: minutes }).availability
      expect(minutesOf(painted) - minutesOf(availability)).toBe(minutes)
      expect(Availability.safeParse(painted).success).toBe(true)
    }
    const most = withMoved(record, { minutesMoreAWeek: 9000 }).availability
    expect(Availability.safeParse(most).success).toBe(true)
    expect(new Set(most.windows.map(({ weekday }) => weekday)).size).toBeLessThanOrEqual(most.daysPerWeek)
  })
})
