import { checkFormItem, type ExamFormat, type Form } from '@climber/contract'
import { gardenExam } from '../../test/fixture'
import { exams } from '../../test/shipped'
import { formParts, readFormItems, readKeyLine, writeFormItems } from '../index'

const read = (text: string, exam: ExamFormat = gardenExam, before: Pick<Form, 'items' | 'stimuli'> = {}) =>
  readFormItems(text, exam, before, checkFormItem)
const sheet = (...rows: string[]) => rows.join('\r\n')
const said = (text: string, exam?: ExamFormat, before?: Pick<Form, 'items' | 'stimuli'>) =>
  read(text, exam, before).problems.map(({ row, column, message }) => `${row} ${column ?? ''}: ${message}`)

describe('items of a form as a table', () => {
  it.each(exams)('of %s go out and come in again, texts, options, stimuli, criteria and all', (_, exam) => {
    for (const form of exam.forms) {
      const written = writeFormItems(exam, form)
      const again = read(written, exam, {})
      expect(again.problems).toEqual([])
      expect(again.rows).toBe(
        formParts(exam).reduce(
          (sum, { groups }) => sum + groups.reduce((all, { items }) => all + items, 0),
          0,
        ),
      )
      expect(writeFormItems(exam, again.form!)).toBe(written)
      if (!form.items) continue
      const used = new Set(
        Object.values(form.items).flatMap((items) => items.map(({ stimulus }) => stimulus)),
      )
      const byId = (all: Form['stimuli'] = []) => [...all].sort((a, b) => a.id.localeCompare(b.id))
      expect(byId(again.form!.stimuli)).toEqual(byId(form.stimuli?.filter(({ id }) => used.has(id))))
      for (const [group, items] of Object.entries(form.items))
        expect(again.form!.items?.[group] ?? items.map(() => ({}))).toEqual(items)
    }
  })
  it('take what a spreadsheet holds, and leave what it does not speak of', () => {
    const before = {
      items: { 'names-items': Array.from({ length: 60 }, (_, at) => ({ key: 'A', text: `Text ${at}` })) },
      stimuli: [{ id: 'wall', text: 'The wall list.' }],
    }
    const { form, problems } = read(
      sheet(
        'item,key,topic,option_a,option_b,option_c,option_d,stimulus,stimulus_title,stimulus_text',
        '2,c,Graft labels,-5 °C,=2x,two,"a, b",Bed plan,The bed,"| bed | tree |\n|---|---|\n| 1 | pear |"',
        '3,,,,,,,Bed plan,,',
        '61,B,,,,,,,,',
      ),
      gardenExam,
      before,
    )
    expect(problems).toEqual([])
    const names = form!.items!['names-items']!
    expect(names[0]).toEqual({ key: 'A', text: 'Text 0' })
    expect(names[1]).toEqual({
      key: 'C',
      text: 'Text 1',
      topic: 'names-2',
      options: ['-5 °C', '=2x', 'two', 'a, b'],
      stimulus: 'bed-plan',
    })
    expect(names[2]).toEqual({ text: 'Text 2', stimulus: 'bed-plan' })
    expect(form!.items!['ledgers-items']![0]).toEqual({ key: 'B' })
    expect(form!.stimuli!.map(({ id, title }) => [id, title])).toEqual([
      ['wall', undefined],
      ['bed-plan', 'The bed'],
    ])
  })
  it('come back with every fault at its row and column, and nothing half taken', () => {
    expect(
      said(
        sheet(
          'item,key,topic,text,option_a,option_b,option_c,option_d,option_e,stimulus,stimulus_text,criteria',
          '1,E,,,,,,,,,,',
          '1,A,,,,,,,,,,',
          '91,A,,,,,,,,,,',
          'two,A,,,,,,,,,,',
          '4,A,Gulls,,,,,,,,,',
          '5,A,,,one,,three,,,,,',
          '6,A,,,one,two,three,,,,,',
          `7,A,,${'x'.repeat(8001)},,,,,,,,`,
          '8,A,,,,,,,,missing,,',
          '9,A,,,,,,,,,A text without a name,',
          '10,A,,,,,,,,s,One,',
          '11,A,,,,,,,,s,Another,',
          '12,A,,,,,,,,,,names the bed',
          '13,A,,,,,,,,,,1: names the bed',
        ),
      ),
    ).toEqual([
      '2 key: "E" is none of A to D',
      '3 item: item 1 stands in row 2 already',
      '4 item: the form has 90 items; there is no item 91',
      '5 item: "two" is not an item number',
      '6 topic: the exam has no topic "Gulls"',
      '7 option_b: write the option',
      '8 options: 3 options; an item here has 4',
      '9 text: at most 8000 characters',
      '10 stimulus: nothing gives the text of missing',
      '11 stimulus: write a short name for the stimulus whose text stands here',
      '13 stimulus_text: the text of s stands in row 12 already, and is another',
      '14 criteria: a line each, such as "2: names the datum"',
      '15 criteria: only a written answer is marked by criteria',
    ])
    expect(read(sheet('item,key', '1,E')).form).toBeUndefined()
    expect(said('key\r\nA')).toEqual(['1 : the header lacks "item"'])
  })
  it('of an adaptive exam are numbered in their section or stage', () => {
    const [, adaptive] = exams.find(([, exam]) => exam.sections.some(({ stages }) => stages))!
    const section = adaptive.sections.find(({ stages }) => stages)!
    const [stage] = section.stages!
    expect(said(sheet('item,key', '1,A'), adaptive)).toEqual([
      '2 part: say which section or stage: the exam is adaptive, so numbers alone do not tell',
    ])
    const { form, problems } = read(
      sheet('part,item,key', `${section.title},1,A`, `${stage!.title},2,B`, `${stage!.id},3,C`),
      adaptive,
    )
    expect(problems).toEqual([])
    expect(form!.items![section.groups[0]!.id]![0]).toEqual({ key: 'A' })
    expect(form!.items![stage!.groups[0]!.id]!.slice(0, 3)).toEqual([{}, { key: 'B' }, { key: 'C' }])
    expect(said(sheet('part,item,key', 'Gulls,1,A'), adaptive)).toEqual([
      '2 part: the exam has no section or stage "Gulls"',
    ])
  })
})

describe('a key in a line', () => {
  const places = [1, 2, 3].map((number) => ({ number, group: { kind: 'choice' as const, choices: 4 } }))
  it.each([
    ['abD', ['A', 'B', 'D']],
    ['A, B; D', ['A', 'B', 'D']],
    ['A - D', ['A', undefined, 'D']],
    ['3. D 1. A', ['A', undefined, 'D']],
    ['1A 2B 3D', ['A', 'B', 'D']],
    ['1) a  3) d', ['A', undefined, 'D']],
    ['', [undefined, undefined, undefined]],
  ])('%j is read', (line, keys) => expect(readKeyLine(line, places)).toEqual({ keys }))
  it.each([
    ['ABDA', '4 answers in the key; 3 items are to mark'],
    ['A', '1 answer in the key; 3 items are to mark'],
    ['ABE', 'item 3: "E" is none of A to D'],
    ['1A 1B', 'two keys for item 1: A and B'],
    ['1A 9B', 'there is no item 9 here to mark'],
    ['1A 2G', 'item 2: "G" is none of A to D'],
  ])('%j is refused with what is wrong', (line, problem) =>
    expect(readKeyLine(line, places)).toEqual({ problem }),
  )
  it('takes numbers for numeric items', () => {
    const numeric = [...places, { number: 4, group: { kind: 'numeric' as const } }]
    expect(readKeyLine('A B D 12.5', numeric).keys).toEqual(['A', 'B', 'D', '12.5'])
  })
})
