import { readdirSync, readFileSync } from 'node:fs'
import path from 'node:path'
import fc from 'fast-check'
import { ClimberFile, ExamFormat, type ItemResponse } from '@climber/contract'
import { gardenExam } from '../../test/fixture'
import {
  countResponses,
  percentText,
  readConversion,
  readForms,
  readResponses,
  readTable,
  readTopicLines,
  readTopics,
  slugOf,
  writeForms,
  writeResponses,
  writeTable,
  writeTopics,
} from '../index'

const folder = path.join(process.cwd(), 'demo')
const shipped = readdirSync(folder)
  .filter((name) => name.endsWith('.exam.climber.json'))
  .map((name) => {
    const text = readFileSync(path.join(folder, name), 'utf8')
    return { name, text, exam: ClimberFile.parse(JSON.parse(text)).exam }
  })

describe('the exams that ship', () => {
  it('are four, each with two or more forms with tables of their own for every section', () => {
    expect(shipped).toHaveLength(4)
    for (const { exam } of shipped) {
      const tables = exam.sections.flatMap((section) => (section.stages ?? [section]).map(({ id }) => id))
      const own = exam.forms.filter(({ conversions }) => tables.every((id) => conversions[id]))
      expect(own.length).toBeGreaterThanOrEqual(2)
    }
  })
  it('use every feature of a format between them', () => {
    const exams = shipped.map(({ exam }) => exam)
    const some = (has: (exam: ExamFormat) => unknown) => expect(exams.filter(has).length).toBeGreaterThan(0)
    const groups = (exam: ExamFormat) =>
      exam.sections.flatMap(({ groups: own, stages = [] }) => [
        ...own,
        ...stages.flatMap((stage) => stage.groups),
      ])
    some((exam) => exam.sections.some(({ timed }) => timed === false))
    for (const kind of ['choice', 'numeric', 'written'])
      some((exam) => groups(exam).some((group) => group.kind === kind))
    some((exam) =>
      exam.sections.some(({ groups: own }) => new Set(own.map(({ perRight }) => perRight)).size > 1),
    )
    some((exam) => groups(exam).some(({ set }) => set && set.readingSeconds > 0))
    some((exam) => groups(exam).some(({ difficulty }) => difficulty === 'rising'))
    some((exam) => groups(exam).some(({ perWrong }) => perWrong > 0))
    some((exam) => groups(exam).some(({ perBlank }) => perBlank))
    some((exam) => exam.sections.some(({ paper, breakAfter }) => paper && breakAfter > 60))
    some((exam) => exam.sections.some(({ stages }) => stages))
    for (const kind of ['sum', 'mean', 'weighted', 'table']) some((exam) => exam.composite.kind === kind)
    some((exam) => exam.sections.some(({ cut }) => cut) && exam.composite.cut)
    for (const kind of ['cohort', 'past']) some((exam) => exam.movingCut?.kind === kind)
    for (const key of ['bands', 'percentiles', 'books', 'accommodations', 'tools', 'retake'] as const)
      some((exam) => exam[key])
    some((exam) => exam.topics.some(({ under = [] }) => under.length > 1))
    some((exam) => exam.forms.some(({ items }) => items))
    for (const exam of exams)
      expect(exam.sittings.every(({ registerBy, fee, place }) => registerBy && fee && place)).toBe(true)
  })
})

describe('out and back', () => {
  it.each(shipped)('$name as a Climber file, unchanged and byte for byte on the second trip', ({ exam }) => {
    const once = JSON.stringify({ climber: 1, exam }, null, 2)
    const back = ClimberFile.parse(JSON.parse(once))
    expect(back.exam).toEqual(exam)
    expect(JSON.stringify({ climber: 1, exam: back.exam }, null, 2)).toBe(once)
  })
  it.each(shipped)('$name, its blueprint as CSV', ({ exam }) => {
    const once = writeTopics(exam)
    const { topics, problems } = readTopics(once, exam)
    expect(problems).toEqual([])
    expect(topics).toEqual(exam.topics)
    expect(writeTopics({ topics })).toBe(once)
  })
  it.each(shipped)('$name, its forms and their tables as CSV', ({ exam }) => {
    const once = writeForms(exam)
    const { forms, problems } = readForms(once, exam)
    expect(problems).toEqual([])
    // Items do not travel in this table, nor what they are about.
    expect(forms).toEqual(exam.forms.map(({ items: _items, stimuli: _stimuli, ...form }) => form))
    expect(writeForms({ forms })).toBe(once)
  })
  it('any text survives, commas, quotes and line breaks too; none would run in a spreadsheet', () => {
    const cell = fc.oneof(
      fc.string(),
      fc.constantFrom('=1+1', '@now', '-x', '+y', "'quoted", 'a,b', '"q"', 'two\nlines'),
    )
    fc.assert(
      fc.property(fc.array(fc.tuple(cell, cell), { minLength: 1, maxLength: 8 }), (rows) => {
        const clean = rows.map((row) => row.map((text) => text.trim() || 'x'))
        const text = writeTable(['one', 'two'], clean)
        for (const line of text.split('\r\n')) expect(/^[=@]/.test(line)).toBe(false)
        const read = readTable(text, ['one', 'two'])
        expect(read.problems).toEqual([])
        expect(read.lines.map(({ cells }) => [cells.one, cells.two])).toEqual(
          clean.map((row) => row.map((one) => one.replace(/\r\n|\r/g, (found) => found))),
        )
      }),
    )
  })
  it.each([
    ['=1+1', "'=1+1"],
    [' =1+1', "' =1+1"],
    ['\n=1+1', "'\n=1+1"],
    ['\n', "'\n"],
    ['\uff1dSUM(A1)', "'\uff1dSUM(A1)"],
    ['\uff20now', "'\uff20now"],
    ['\u200b=1', "'\u200b=1"],
    [' -5', ' -5'],
    ['-5', '-5'],
    ['a = b', 'a = b'],
  ])('what some spreadsheet would run is written as text: %j', (cell, written) => {
    const [, line = ''] = /^one\r\n([\s\S]*)\r\n$/.exec(writeTable(['one'], [[cell]])) ?? []
    expect(line.replace(/^"([\s\S]*)"$/, '$1')).toBe(written)
  })
  it('a share in per cent reads back as the same share', () => {
    fc.assert(
      fc.property(fc.double({ min: 1e-6, max: 1, noNaN: true }), (share) => {
        expect(Number(`${percentText(share)}e-2`)).toBeCloseTo(share, 15)
      }),
    )
    expect([0.07, 1 / 3, 0.125].map(percentText)).toEqual(['7', '33.33333333333333', '12.5'])
    expect(Number(`${percentText(1 / 3)}e-2`)).toBe(1 / 3)
  })
})

describe('a table of raw and scaled scores', () => {
  it('takes decimal commas where something else parts the columns, and tells a line that may be one number', () => {
    expect(readConversion('0,5 100\n1,5 120').points).toEqual([
      [0.5, 100],
      [1.5, 120],
    ])
    expect(readConversion('0,100\n5,120').points).toEqual([
      [0, 100],
      [5, 120],
    ])
    expect(readConversion('0 100\n0,5\n2 120').problems).toEqual([
      {
        row: 2,
        message:
          '"0,5" has a comma where a point, or two columns like those of the other lines, were expected',
      },
    ])
    expect(readConversion('0,100\n5').problems[0]!.message).toContain('is one number')
    expect(readConversion('0,100\n0,5,100').problems[0]!.message).toContain('is 3 numbers')
  })
})

describe('a blueprint that is not right', () => {
  it('is refused with every row at fault', () => {
    const { topics, problems } = readTopics(
      'section,topic,share,hours,prerequisites\nnames,Roots,20,,\nnowhere,Stems,30,,\nnames,,40,-2,\nnames,Leaves,many,,Buds\n',
      gardenExam,
    )
    expect(topics).toEqual([])
    expect(problems.map(({ row, column }) => `${row} ${column}`)).toEqual([
      '3 section',
      '4 topic',
      '4 hours',
      '5 share',
      '5 prerequisites',
    ])
  })
  it('typed by hand takes per cents, counts and headings', () => {
    const lines = 'Soil:\nClay 12\nLoam, 18\nAir > Frost:\nFirst frost 10'
    const read = readTopicLines(lines, 'names', [], 'per cent')
    expect(read.topics.map(({ title, share, under }) => [title, share, under])).toEqual([
      ['Clay', 0.12, ['Soil']],
      ['Loam', 0.18, ['Soil']],
      ['First frost', 0.1, ['Air', 'Frost']],
    ])
    // Items or shares: whoever pasted them is asked.
    const unclear = readTopicLines(lines, 'names', [])
    expect(unclear.asked).toBe(true)
    expect(unclear.topics.map(({ share }) => share)).toEqual([0.3, 0.45, 0.25])
    for (const clear of ['A 60\nB 40', 'A 12%\nB 20%'])
      expect(readTopicLines(clear, 'names', []).asked).toBeUndefined()
    expect(readTopicLines('A 60\nB 90', 'names', []).topics.map(({ share }) => share)).toEqual([0.4, 0.6])
    expect(readTopicLines('A\nB 3', 'names', []).problems[0]!.message).toContain('no share')
    // None has one: each counts as much as another.
    expect(readTopicLines('A\nB\nC\nD', 'names', [])).toMatchObject({
      topics: [{ share: 0.25 }, { share: 0.25 }, { share: 0.25 }, { share: 0.25 }],
      problems: [],
    })
    expect(readTopicLines('Dew (12,5 %)\nRain (87,5 %)', 'names', []).topics).toMatchObject([
      { title: 'Dew', share: 0.125 },
      { title: 'Rain', share: 0.875 },
    ])
  })
  it('ids are made of titles, and never twice', () => {
    expect(slugOf('Überwintern & Schnitt')).toBe('uberwintern-schnitt')
    expect(slugOf('Clay', ['clay', 'clay-2'])).toBe('clay-3')
    expect(slugOf('***')).toBe('x')
  })
})

describe('a pasted conversion table', () => {
  it('is read with tabs, commas, spaces, a heading, and upside down', () => {
    const points = [
      [0, 100],
      [10, 150],
      [20, 200],
    ]
    for (const text of [
      '0\t100\n10\t150\n20\t200',
      'Raw,Scaled\n0,100\n10,150\n20,200\n',
      '20 200\n10 150\n0 100',
      '0;100\n10,0;150\n20;200',
    ])
      expect(readConversion(text)).toEqual({ points, problems: [] })
  })
  it('names the row that does not rise', () => {
    expect(readConversion('0 100\n10 150\n10 160\n20 200').problems).toEqual([
      { row: 3, message: 'raw scores must rise: 10 comes after 10' },
    ])
    expect(readConversion('0 100\n10 150\n20 140').problems).toEqual([
      { row: 3, message: 'scaled scores must not fall: 140 comes after 150' },
    ])
    expect(readConversion('0 100\nten 150\n20 160').problems[0]!.row).toBe(2)
    expect(readConversion('').problems).toHaveLength(1)
  })
})

const responsesOf = (count: number): ItemResponse[] =>
  Array.from({ length: count }, (_, at) => ({ item: at + 1, answer: 'ABCD'[at % 4]!, key: 'ABCA'[at % 4]! }))

describe('item responses', () => {
  it('are counted by section and topic, blanks at the end as not reached', () => {
    const responses = responsesOf(60).map((one) => ({
      ...one,
      topic: one.item <= 30 ? 'names-1' : 'names-2',
      answer: one.item === 5 || one.item > 56 ? '' : one.answer,
    }))
    const { sections, topics } = countResponses(gardenExam, responses)
    expect(sections).toEqual({ 'names-items': { right: 41, wrong: 14, blank: 5, notReached: 4 } })
    expect(topics['names-2']).toEqual({ right: 19, wrong: 7, blank: 4, notReached: 4 })
    const all = Object.values(topics).reduce((sum, { right, wrong, blank }) => sum + right + wrong + blank, 0)
    expect(all).toBe(60)
  })
  it('of an adaptive section follow the stage that the first one leads to', () => {
    const { exam } = shipped.find(({ name }) => name.startsWith('archive'))!
    const answers = (right: number) =>
      Array.from({ length: 35 }, (_, at) => ({ item: at + 1, answer: at < right ? 'A' : 'B', key: 'A' }))
    expect(Object.keys(countResponses(exam, answers(16)).sections)).toEqual([
      'description-first',
      'description-upper-items',
    ])
    expect(Object.keys(countResponses(exam, answers(3)).sections)).toEqual([
      'description-first',
      'description-lower-items',
    ])
  })
  it('of written items are marks, of numeric ones numbers', () => {
    const { exam } = shipped.find(({ name }) => name.startsWith('timber'))!
    const found = countResponses(exam, [
      ...Array.from({ length: 15 }, (_, at) => ({
        item: 51 + at,
        answer: at < 4 ? '2.50' : at < 6 ? '3' : '',
        key: '2.5',
      })),
      { item: 66, answer: '4', key: '' },
      { item: 67, answer: '2.5', key: '' },
      { item: 72, answer: '11', key: '' },
    ])
    expect(found.sections['measuring-values']).toEqual({ right: 4, wrong: 2, blank: 9, notReached: 9 })
    expect(found.sections['judgement-short']!.marks).toBe(6.5)
    expect(found.sections['judgement-cases']).toEqual({
      right: 0,
      wrong: 0,
      blank: 1,
      notReached: 1,
      marks: 11,
    })
    expect(found.sections['survey-identify']).toBeUndefined()
  })
  it('go out and come back', () => {
    const responses: ItemResponse[] = responsesOf(90).map((one) => ({
      ...one,
      seconds: one.item,
      confidence: 'between two',
      topic: 'names-1',
      changedFrom: 'B',
    }))
    const text = writeResponses(responses)
    const read = readResponses(text, gardenExam)
    expect(read.problems).toEqual([])
    expect(read.responses).toEqual(responses)
    expect(writeResponses(read.responses)).toBe(text)
  })
  it('with 300 rows and many faults: every one is listed with its row, nothing is imported', () => {
    const big = ExamFormat.parse({
      ...gardenExam,
      sections: gardenExam.sections.map((section) => ({
        ...section,
        groups: [{ ...section.groups[0]!, items: 150 }],
      })),
    })
    const rows = responsesOf(300).map(({ item, answer, key }) => [item, answer, key, '', '', ''])
    rows[9]![1] = 'E'
    rows[49]![2] = ''
    rows[99]![0] = 99
    rows[149]![1] = '=A1'
    rows[199]![3] = 'slow'
    rows[249]![4] = 'maybe'
    rows[259]![5] = 'weeds'
    rows[299]![0] = 900
    const text = `item,answer,key,seconds,confidence,topic\n${rows.map((row) => row.join(',')).join('\n')}\n`
    const read = readResponses(text, big)
    expect(read.responses).toEqual([])
    expect(read.counted).toBeUndefined()
    expect(read.rows).toBe(300)
    expect(read.problems.map(({ row, column }) => `${row} ${column}`)).toEqual([
      '11 answer',
      '51 key',
      '101 item',
      '151 answer',
      '151 answer',
      '201 seconds',
      '251 confidence',
      '261 topic',
      '301 item',
    ])
  })
  it('without a header, or with one that lacks a column, are refused', () => {
    expect(readResponses('', gardenExam).problems[0]!.message).toBe('the table is empty')
    expect(readResponses('item,answer\n1,A\n', gardenExam).problems[0]!.message).toContain('"key"')
  })
  it('take keys and topics from the form', () => {
    const { exam } = shipped.find(({ name }) => name.startsWith('garden'))!
    const form = exam.forms.find(({ items }) => items)!
    const keys = form.items!['names-items']!
    const text = `item,answer\n${keys.map(({ key }, at) => `${at + 1},${key}`).join('\n')}\n`
    const read = readResponses(text, exam, form)
    expect(read.problems).toEqual([])
    expect(read.counted!.sections['names-items']).toMatchObject({ right: 40, wrong: 0 })
    expect(Object.keys(read.counted!.topics).sort()).toEqual([
      'grafts',
      'labels',
      'old-names',
      'seed-lists',
      'synonyms',
    ])
  })
  it('50,000 rows are read, and the share of them is told on the way', () => {
    const huge = ExamFormat.parse({
      ...gardenExam,
      sections: gardenExam.sections.map((section) => ({
        ...section,
        groups: Array.from({ length: 25 }, (_, at) => ({
          ...section.groups[0]!,
          id: `${section.id}-${at}`,
          items: 1000,
        })),
      })),
    })
    const text = writeResponses(responsesOf(50_000))
    let heard = 0
    const read = readResponses(text, huge, undefined, () => (heard += 1))
    expect(read.problems).toEqual([])
    expect(read.responses).toHaveLength(50_000)
    expect(heard).toBeGreaterThan(5)
  })
})
