import { readFileSync } from 'node:fs'
import path from 'node:path'
import { climberFileJsonSchema } from '../src/jsonSchema'
import {
  Availability,
  ClimberFile,
  Conversion,
  countIssues,
  ExamFormat,
  issuesOf,
  partIssues,
  PlainDate,
  prerequisiteCycle,
  routes,
} from '../src/index'

const file = () =>
  JSON.parse(readFileSync(path.join(process.cwd(), 'demo/tidal-pilotage.exam.climber.json'), 'utf8'))
const sampleExam = (): ExamFormat => ClimberFile.parse(file()).exam
const problems = (exam: unknown) => {
  const parsed = ExamFormat.safeParse(exam)
  return parsed.success ? [] : issuesOf(parsed.error).map(({ field, message }) => `${field}: ${message}`)
}

describe('a form that can be sat', () => {
  const withItem = (change: object, more: object = {}) => {
    const exam = sampleExam()
    const form = exam.forms.find(({ id }) => id === 'board-2')!
    Object.assign(form.items!['streams-items']![2]!, change)
    Object.assign(form, more)
    return problems(exam)
  }
  const at = 'forms.1.items.streams-items.2'
  it('ships, whole', () => {
    const form = sampleExam().forms.find(({ id }) => id === 'board-2')!
    const items = Object.values(form.items!).flat()
    expect(items).toHaveLength(115)
    expect(
      items.every(({ key, topic, text, options }) => key && topic && text && options?.length === 4),
    ).toBe(true)
    expect(withItem({})).toEqual([])
  })
  it('has keys that its items offer, and as many options', () => {
    expect(withItem({ key: 'E' })).toEqual([`${at}.key: "E" is none of A to D`])
    expect(withItem({ key: 'AB' })).toEqual([`${at}.key: "AB" is none of A to D`])
    expect(withItem({ options: ['one', 'two'] })).toEqual([`${at}.options: 2 options; an item here has 4`])
    expect(withItem({ criteria: [{ text: 'names the tide', marks: 1 }] })).toEqual([
      `${at}.criteria: only a written answer is marked by criteria`,
    ])
  })
  it('has the stimulus that an item is about, each once', () => {
    expect(withItem({ stimulus: 'nowhere' })).toEqual([`${at}.stimulus: the form has no stimulus nowhere`])
    const twice = [
      { id: 'same', text: 'one' },
      { id: 'same', text: 'two' },
    ]
    expect(withItem({ stimulus: undefined }, { stimuli: twice })).toContain(
      'forms.1.stimuli.1.id: this id is used twice',
    )
  })
  it('has pictures of a size that travels, in a format that browsers show', () => {
    const picture = (bytes: number, type = 'image/png') => ({
      pictures: [{ id: 'chart', type, data: 'A'.repeat(Math.ceil(bytes / 3) * 4) }],
    })
    expect(withItem({}, picture(200_000))).toEqual([])
    expect(withItem({}, picture(400_000))).toEqual([
      'forms.1.pictures.0.data: a picture may have 300 kB; make it smaller',
    ])
    expect(withItem({}, picture(300, 'text/html'))[0]).toBe(
      'forms.1.pictures.0.type: a picture is a PNG, JPEG, WebP or SVG file',
    )
    const many = Array.from({ length: 6 }, (_, at) => ({
      ...picture(290_000).pictures[0]!,
      id: `chart-${at}`,
    }))
    expect(withItem({}, { pictures: many })).toEqual([
      'forms.1.pictures: the pictures of a form may have 1.5 MB together; these have 1.7',
    ])
  })
})

describe('the exam that ships', () => {
  const { exam } = ClimberFile.parse(file())
  it('has what the first path needs', () => {
    expect(exam.sections).toHaveLength(3)
    expect(new Set(exam.sections.map(({ minutes }) => minutes)).size).toBe(3)
    expect(exam.topics.length).toBeGreaterThanOrEqual(14)
    expect(exam.sittings).toHaveLength(3)
    expect(
      exam.sections.every(
        ({ cut, groups }) => cut !== undefined && groups[0]!.perWrong > 0 && groups[0]!.choices === 4,
      ),
    ).toBe(true)
    expect(exam.retake?.waitDays).toBeGreaterThan(0)
    expect(exam.bring.length).toBeGreaterThan(3)
  })
})

describe('an exam format', () => {
  const exam = () => file().exam
  it('keeps keys it does not know', () =>
    expect(ExamFormat.parse({ ...exam(), motto: 'Mind the ebb' })).toHaveProperty('motto'))
  it('names a topic of no section', () => {
    const changed = exam()
    changed.topics[3].section = 'nowhere'
    expect(problems(changed).join()).toContain('topics.3.section: no section has the id nowhere')
  })
  it('says what shares add up to', () => {
    const changed = exam()
    changed.topics[0].share = 0.5
    expect(problems(changed)).toContain(
      'sections.0: the shares of the topics of Tides and streams add up to 125%, not 100%',
    )
  })
  it('names the circle of prerequisites', () => {
    const changed = exam()
    changed.topics[0].prerequisites = ['surge']
    expect(problems(changed).join()).toMatch(/go in a circle: tide-heights -> surge -> tide-heights/)
  })
  it('names the row of a table that falls', () => {
    const parsed = Conversion.safeParse({
      points: [
        [0, 10],
        [5, 30],
        [9, 20],
      ],
    })
    expect(issuesOf(parsed.error!)[0]).toEqual({
      field: 'points.2.1',
      message: 'scaled scores must not fall: 20 comes after 30',
    })
  })
  it('refuses an id used twice and a penalty above the mark', () => {
    const changed = exam()
    changed.topics[1].id = changed.topics[0].id
    changed.sections[0].groups[0].perWrong = 2
    const found = problems(changed).join()
    expect(found).toContain('a wrong answer cannot cost more than a right one earns')
  })
})

describe('what is a slip of the pen in an exam format', () => {
  it('a cut that is not on the scale', () => {
    const exam = sampleExam()
    const [section] = exam.sections
    const top = section!.conversion.points.at(-1)![1]
    section!.cut = top + 1
    expect(problems(exam)).toEqual([
      `sections.0.cut: the scores end at ${top}; nobody could reach ${top + 1}`,
    ])
    section!.cut = top
    expect(problems(exam)).toEqual([])
    const all = exam.sections.reduce((sum, { conversion }) => sum + conversion.points.at(-1)![1], 0)
    exam.composite.kind = 'sum'
    exam.composite.cut = all + 5
    expect(problems(exam)).toEqual([`composite.cut: the scores end at ${all}; nobody could reach ${all + 5}`])
    exam.composite.kind = 'mean'
    exam.composite.cut = all / exam.sections.length + 1
    expect(problems(exam)).toHaveLength(1)
    exam.composite.cut = -1
    expect(problems(exam)[0]).toContain('below every score')
  })
  it('a target that is not on the scale', () => {
    const exam = ExamFormat.parse(sampleExam())
    const all = exam.sections.map(({ conversion: { points } }) => points)
    exam.composite = { kind: 'sum', step: 1 }
    const [low, high] = [0, -1].map((end) => all.reduce((sum, points) => sum + points.at(end)![1], 0))
    const issues = (scaled: number) => partIssues(exam, 'target', { scaled }).map(({ path }) => path.join())
    expect(issues(high!)).toEqual([])
    expect(issues(low!)).toEqual([])
    expect(issues(high! + 0.5)).toEqual(['scaled'])
    expect(issues(low! - 1)).toEqual(['scaled'])
  })
  it('sets that do not make up their items', () => {
    const exam = sampleExam()
    const group = exam.sections[0]!.groups[0]!
    Object.assign(group, { items: 40, set: { items: 7, readingSeconds: 60 } })
    for (const form of exam.forms) delete form.items
    expect(problems(exam)).toEqual([
      'sections.0.groups.0.set: sets of 7 do not make up 40 items; 35 or 42 would',
    ])
    group.set!.items = 8
    expect(problems(exam)).toEqual([])
  })
  it('two topics of one short name', () => {
    const exam = sampleExam()
    exam.topics[0]!.short = 'Tides'
    exam.topics[1]!.short = 'tides'
    expect(problems(exam)).toEqual([`topics.1.short: ${exam.topics[0]!.title} is called tides as well`])
    exam.topics[1]!.short = 'a name that is far too long'
    expect(problems(exam)).toEqual(['topics.1.short: at most 14 characters'])
  })
})

describe('the published JSON Schema', () => {
  it('is the one that the Zod schemas give (npm run schema writes it anew)', () => {
    const published = JSON.parse(
      readFileSync(path.join(process.cwd(), 'docs/climber-file.schema.json'), 'utf8'),
    )
    expect(published).toEqual(JSON.parse(JSON.stringify(climberFileJsonSchema())))
  })
})

describe('small shapes', () => {
  it('dates that are none', () => {
    for (const text of ['2027-02-30', '2027-13-01', '27-01-01', '2027-1-1', ''])
      expect(PlainDate.safeParse(text).success).toBe(false)
    expect(PlainDate.safeParse('2028-02-29').success).toBe(true)
  })
  it('windows that touch do not overlap', () => {
    const windows = [
      { weekday: 1, from: '10:00', to: '11:00' },
      { weekday: 1, from: '11:00', to: '24:00' },
    ]
    expect(Availability.safeParse({ windows }).success).toBe(true)
  })
  it('a long chain of prerequisites is no circle', () => {
    const topics = Array.from({ length: 300 }, (_, at) => ({
      id: `t${at}`,
      prerequisites: at ? [`t${at - 1}`] : [],
    }))
    expect(prerequisiteCycle(topics)).toBeUndefined()
  })
  it('every route of a candidate or exam carries its id', () => {
    for (const { right, path: address } of Object.values(routes)) {
      if (right.startsWith('record:')) expect(address).toContain(':candidateId')
      if (right.startsWith('exam:')) expect(address).toContain(':examId')
    }
  })
})

describe('an exam format in full', () => {
  const base = () => JSON.parse(JSON.stringify(sampleExam())) as ExamFormat
  const problem = (change: (exam: ExamFormat) => void) => {
    const exam = base()
    change(exam)
    const parsed = ExamFormat.safeParse(exam)
    return parsed.success ? undefined : issuesOf(parsed.error)[0]
  }
  it.each<[string, (exam: ExamFormat) => void, string, string]>([
    [
      'written answers that cost',
      (exam) => Object.assign(exam.sections[0]!.groups[0]!, { kind: 'written' }),
      'sections.0.groups.0.perWrong',
      'earn marks',
    ],
    [
      'a blank worth more than a right answer',
      (exam) => (exam.sections[0]!.groups[0]!.perBlank = 1),
      'sections.0.groups.0.perBlank',
      'less than',
    ],
    [
      'a set larger than its group',
      (exam) => (exam.sections[0]!.groups[0]!.set = { items: 90, readingSeconds: 60 }),
      'sections.0.groups.0.set',
      'does not fit',
    ],
    [
      'a table that falls',
      (exam) => (exam.sections[0]!.conversion.points[2]![1] = 3),
      'sections.0.conversion.points.2.1',
      'must not fall',
    ],
    [
      'a cycle of prerequisites',
      (exam) => (exam.topics[0]!.prerequisites = ['tidal-curves']),
      'topics',
      'tide-heights -> tidal-curves -> tide-heights',
    ],
    [
      'a composite table that is not there',
      (exam) => (exam.composite.kind = 'table'),
      'composite.table',
      'no table',
    ],
    [
      'bands that fall',
      (exam) =>
        (exam.bands = [
          { title: 'A', from: 3 },
          { title: 'B', from: 2 },
        ]),
      'bands.1.from',
      'must rise',
    ],
    [
      'percentiles that fall',
      (exam) =>
        (exam.percentiles = [
          [1, 50],
          [2, 40],
        ]),
      'percentiles.1',
      'must rise',
    ],
    [
      'a chapter that ends before it begins',
      (exam) =>
        (exam.books = [
          { id: 'b', title: 'B', chapters: [{ id: 'c', title: 'C', from: 9, to: 2, topics: [] }] },
        ]),
      'books.0.chapters.0.to',
      'before it begins',
    ],
    [
      'a chapter on no topic of the exam',
      (exam) =>
        (exam.books = [
          { id: 'b', title: 'B', chapters: [{ id: 'c', title: 'C', from: 1, to: 2, topics: ['fog'] }] },
        ]),
      'books.0.chapters.0.topics',
      'no topic',
    ],
    [
      'too few answer keys',
      (exam) => (exam.forms[0]!.items = { 'streams-items': [{ key: 'A' }] }),
      'forms.0.items.streams-items',
      '1 keys for the 40 items',
    ],
    [
      'extra time in no section',
      (exam) => (exam.accommodations = [{ id: 'x', title: 'X', timeFactor: 1, sections: { nowhere: 2 } }]),
      'accommodations.0.sections.nowhere',
      'no section',
    ],
  ])('refuses %s, naming the field', (_, change, field, message) => {
    const found = problem(change)
    expect(found?.field).toBe(field)
    expect(found?.message).toContain(message)
  })
  it('wants routing scores to rise', () => {
    const found = problem((exam) => {
      const [section] = exam.sections
      const stage = (id: string, from: number) => ({
        id,
        title: id,
        from,
        groups: [{ ...section!.groups[0]!, id: `${id}-items` }],
        conversion: section!.conversion,
      })
      section!.stages = [stage('low', 5), stage('high', 5)]
    })
    expect(found).toMatchObject({ field: 'sections.0.stages.1.from' })
  })
})

describe('counts of written answers', () => {
  const exam = ExamFormat.parse({
    ...sampleExam(),
    // Its items are those of the choice exam.
    forms: [],
    sections: sampleExam().sections.map((section, at) =>
      at
        ? section
        : { ...section, groups: [{ id: 'streams-items', kind: 'written', items: 4, perRight: 10 }] },
    ),
  })
  const said = (counts: object) =>
    countIssues(exam, { 'streams-items': { right: 0, wrong: 0, blank: 0, notReached: 0, ...counts } })[0]
      ?.message
  it('are marks, no more than can be had', () => {
    expect(said({ marks: 31, blank: 1 })).toContain('at most 30')
    expect(said({ marks: 30, blank: 1 })).toBeUndefined()
    expect(said({ right: 3 })).toContain('counted in marks')
    expect(said({ marks: 0, blank: 5 })).toContain('there are 4')
  })
})
