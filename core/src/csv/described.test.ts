import fc from 'fast-check'
import { ExamFormat } from '@climber/contract'
import {
  blankDescription,
  blankSection,
  composite,
  compositeRange,
  type DescribedExam,
  fieldOf,
  formatOf,
  convert,
} from '../index'

const lamp: DescribedExam = {
  ...blankDescription(),
  title: 'Lamp Warden',
  told: 'percent',
  pass: 70,
  sections: [
    {
      title: '',
      minutes: 90,
      kinds: [
        { kind: 'choice', items: 60, choices: 4, perRight: 1 },
        { kind: 'numeric', items: 20 },
      ],
      topics: 'Wicks\nOils\nGlass',
    },
  ],
  sittings: [{ date: '2030-05-04', start: '10:00' }],
}
const clerk: DescribedExam = {
  ...blankDescription(),
  title: 'Chronicle Clerk',
  told: 'scale',
  low: 0,
  high: 50,
  pass: 90,
  sections: [
    {
      title: 'Hands',
      minutes: 75,
      breakAfter: 20,
      cut: 20,
      weight: 1,
      kinds: [{ kind: 'choice', items: 45, choices: 5, perRight: 1, perWrong: 0.25, inSet: 5 }],
      topics: 'Old hands 60%\nSeals 40%',
    },
    {
      title: 'Summaries',
      minutes: 120,
      weight: 2,
      kinds: [{ kind: 'written', items: 3, perRight: 20, perWrong: 1 }],
      table: '0 0\n30 20\n60 50',
      topics: 'Short 1\nLong 2',
      topicsAs: 'items',
    },
  ],
  sittings: [{ date: '2030-06-12', start: '10:00', registerBy: '2030-05-01' }],
}
const parsed = (described: DescribedExam) => ExamFormat.parse(formatOf(described).format)

describe('an exam described in short', () => {
  it('per cents weigh sections by their marks, and topics without shares are alike', () => {
    const exam = parsed(lamp)
    expect(compositeRange(exam)).toEqual({ low: 0, high: 100 })
    expect(exam.sections[0]).toMatchObject({ title: 'The paper', minutes: 90 })
    expect(exam.topics.map(({ share }) => Number(share.toFixed(3)))).toEqual([0.333, 0.333, 0.333])
    const two = parsed({
      ...lamp,
      sections: [
        lamp.sections[0]!,
        { ...blankSection(), minutes: 30, kinds: [{ kind: 'written', items: 2, perRight: 10 }] },
      ],
    })
    expect(two.composite.weights).toEqual({ 'section-1': 0.8, 'section-2': 0.2 })
    expect(two.topics[3]).toMatchObject({ title: 'All of Section 2', share: 1 })
    // 56 of 80 and 14 of 20 are 70 of 100.
    const scaled = two.sections.map((section, at) => convert(section.conversion, [56, 14][at]!))
    expect(composite(two, scaled)).toBe(70)
  })
  it('a scale, a table, cuts and weights', () => {
    const exam = parsed(clerk)
    expect(exam.sections[0]).toMatchObject({
      cut: 20,
      breakAfter: 20,
      conversion: {
        points: [
          [0, 0],
          [45, 50],
        ],
      },
    })
    expect(exam.sections[0]!.groups[0]).toMatchObject({ perWrong: 0.25, set: { items: 5 } })
    expect(exam.sections[1]!.conversion.points).toEqual([
      [0, 0],
      [30, 20],
      [60, 50],
    ])
    expect(exam.composite).toMatchObject({ kind: 'weighted', weights: { hands: 1, summaries: 2 }, cut: 90 })
    expect(exam.topics.map(({ share }) => Number(share.toFixed(2)))).toEqual([0.6, 0.4, 0.33, 0.67])
  })
  it('marks are added as they are, down to what wrong answers cost', () => {
    const exam = parsed({
      ...clerk,
      told: 'marks',
      pass: 80,
      sections: clerk.sections.map(({ weight: _, cut: __, ...one }) => one),
    })
    expect(compositeRange(exam)).toEqual({ low: -11.25, high: 105 })
    expect(exam.composite).toEqual({ kind: 'sum', step: 0.25, cut: 80 })
  })
  it('warns of a table that ends before the full marks', () => {
    const [hands, summaries] = clerk.sections
    const found = formatOf({ ...clerk, sections: [hands!, { ...summaries!, table: '0 1\n1 2' }] })
    expect(found.format).toBeDefined()
    expect(found.warnings.map(({ field }) => field)).toEqual(['sections.1.table'])
    expect(formatOf(clerk).warnings).toEqual([])
  })
  it('says at its field what is missing or wrong', () => {
    const fields = (described: DescribedExam) => formatOf(described).problems.map(({ field }) => field)
    expect(fields(blankDescription())).toEqual([
      'title',
      'sections.0.minutes',
      'sections.0.kinds.0.items',
      'sittings.0.date',
    ])
    const [hands, summaries] = clerk.sections
    expect(fields({ ...clerk, sections: [{ ...hands!, topics: 'A 30%\nB 40%' }, summaries!] })).toEqual([
      'sections.0.topics',
    ])
    expect(fields({ ...clerk, sections: [{ ...hands!, topics: 'A 30%\nB' }, summaries!] })).toEqual([
      'sections.0.topics',
    ])
    expect(fields({ ...clerk, sections: [hands!, { ...summaries!, table: '0 1\n0 2' }] })).toEqual([
      'sections.1.table',
    ])
    expect(fields({ ...clerk, high: 0 })).toEqual(['high'])
    expect(
      fields({ ...clerk, sittings: [{ date: '2030-01-01', start: '09:00', registerBy: '2030-02-01' }] }),
    ).toEqual(['sittings.0.registerBy'])
    expect(formatOf({ ...clerk, sections: [hands!, { ...summaries!, topicsAs: undefined! }] }).asked).toEqual(
      [1],
    )
    expect(
      [
        'composite.cut',
        'sections.1.groups.0.set',
        'sections.0.conversion.points.1.0',
        'title',
        'topics.3.title',
        'sections.1',
      ].map((path) => fieldOf(path, parsed(clerk))),
    ).toEqual([
      'pass',
      'sections.1.kinds.0.inSet',
      'sections.0.table',
      'title',
      'sections.1.topics',
      'sections.1.topics',
    ])
  })
  it('whatever is filled in is a format, or told at a field of the description', () => {
    const maybe = <T>(arbitrary: fc.Arbitrary<T>) => fc.option(arbitrary, { nil: undefined, freq: 12 })
    const kind = fc.record({
      kind: fc.constantFrom('choice' as const, 'numeric' as const, 'written' as const),
      items: maybe(fc.integer({ min: 1, max: 120 })),
      choices: maybe(fc.integer({ min: 2, max: 6 })),
      perRight: maybe(fc.constantFrom(1, 2, 0.5, 20)),
      perWrong: maybe(fc.constantFrom(0, 0, 0.25, 3)),
      inSet: maybe(fc.constantFrom(1, 1, 1, 7)),
    })
    const section = fc.record({
      title: fc.constantFrom('', 'Hands', 'Seals & wax', '***'),
      minutes: maybe(fc.integer({ min: 1, max: 600 })),
      breakAfter: maybe(fc.integer({ min: 0, max: 60 })),
      kinds: fc.array(kind, { minLength: 1, maxLength: 3 }),
      cut: maybe(fc.constantFrom(0, 1, 130)),
      weight: maybe(fc.integer({ min: 0, max: 3 })),
      table: maybe(fc.constantFrom('', '', '0 0\n40 90', '0 1\n0 2', 'nothing')),
      topics: fc.constantFrom('', 'A\nB', 'A 30%\nB 70%', 'A 3\nB 4', 'A 3\nB', 'Z:\n'),
    })
    const described = fc.record({
      title: fc.constantFrom('', 'An exam'),
      told: fc.constantFrom('marks' as const, 'percent' as const, 'scale' as const),
      low: maybe(fc.constantFrom(0, 100)),
      high: maybe(fc.constantFrom(50, 300)),
      pass: maybe(fc.constantFrom(1, 5, 400)),
      whole: fc.constantFrom('added' as const, 'averaged' as const),
      sections: fc.array(section, { minLength: 1, maxLength: 3 }),
      sittings: fc.array(
        fc.record({ date: maybe(fc.constant('2030-05-04')), start: maybe(fc.constant('09:00')) }),
        { maxLength: 2 },
      ),
    })
    const fields =
      /^(title|low|high|pass|sittings(\.\d+\.(date|start|registerBy))?|sections\.\d+\.(title|minutes|breakAfter|cut|weight|table|topics|kinds\.\d+\.(items|choices|perRight|perWrong|inSet)))$/
    let whole = 0
    fc.assert(
      fc.property(described, (one) => {
        const { format, problems } = formatOf(one as DescribedExam)
        const read = format ? ExamFormat.safeParse(format) : undefined
        const told = [
          ...problems.map(({ field }) => field),
          ...(read?.error?.issues.map(({ path }) => fieldOf(path.join('.'), format!)) ?? []),
        ]
        if (read?.success) whole++
        else expect(told.length).toBeGreaterThan(0)
        for (const field of told) expect(field).toMatch(fields)
      }),
      { numRuns: 600 },
    )
    expect(whole).toBeGreaterThan(5)
  })
})
