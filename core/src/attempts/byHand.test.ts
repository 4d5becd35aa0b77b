import type { ExamFormat, Form, ItemResponse } from '@climber/contract'
import { gardenExam, sectionOf, tableE } from '../../test/fixture'
import { afterTheBell, countResponses, readItemList, withCriterion, writtenItems } from '../index'

const exam: ExamFormat = {
  ...gardenExam,
  sections: [
    sectionOf('names', 3, 10, tableE),
    sectionOf('report', 2, 30, tableE, {
      groups: [{ id: 'report-items', kind: 'written', items: 2, perRight: 5, perWrong: 0 }],
    }),
  ],
}
const form = {
  id: 'own',
  title: 'Own',
  source: 'other',
  conversions: {},
  items: {
    'report-items': [
      {
        text: 'What do the two ledgers disagree on?',
        criteria: [
          { text: 'the year', marks: 2 },
          { text: 'the bed', marks: 3 },
        ],
      },
      {},
    ],
  },
} as Form

describe('written answers, marked by what earns their marks', () => {
  it('are those of which the form says it', () => {
    expect(writtenItems(exam, [], form).map(({ slot, criteria }) => [slot.item, criteria.length])).toEqual([
      [4, 2],
    ])
    expect(writtenItems(exam, [], undefined)).toEqual([])
  })
  it('come to the sum of the marks given, and to nothing while none is', () => {
    const [one] = writtenItems(exam, [], form)
    const year = withCriterion(one!, undefined, 0, 1.5)
    expect(year).toEqual({ item: 4, answer: '1.5', criteria: [1.5, null] })
    const both = withCriterion(one!, { ...year, seconds: 90 }, 1, 9)
    // Never more than a criterion earns.
    expect(both).toEqual({ item: 4, answer: '4.5', criteria: [1.5, 3], seconds: 90 })
    expect(withCriterion(one!, withCriterion(one!, both, 0, undefined), 1, undefined)).toEqual({
      item: 4,
      answer: '',
      seconds: 90,
    })
    expect(withCriterion(one!, undefined, 0, 0).answer).toBe('0')
    expect(countResponses(exam, [both], form).sections['report-items']!.marks).toBe(4.5)
  })
})

describe('answers after the bell, on paper', () => {
  const has = (item: number) => item >= 1 && item <= 5
  it.each([
    ['', []],
    ['3', [3]],
    ['5, 3 4', [3, 4, 5]],
    ['2 - 4;2', [2, 3, 4]],
  ])('%j is a list of items', (text, items) => expect(readItemList(text, has)).toEqual({ items }))
  it.each([
    ['6', 'there is no item 6'],
    ['4-2', '"4-2" is no item and no range such as 41-43'],
    ['x', '"x" is no item and no range such as 41-43'],
    ['1-9999999', '"1-9999999" is no item and no range such as 41-43'],
  ])('%j is refused', (text, problem) => expect(readItemList(text, has).problem).toBe(problem))
  it('are kept apart, and do not count', () => {
    const responses: ItemResponse[] = [
      { item: 1, answer: 'A', key: 'A' },
      { item: 2, answer: 'B', key: 'B' },
      { item: 3, answer: '', key: 'C' },
    ]
    const kept = afterTheBell(responses, [2, 3])
    expect(kept).toEqual([
      responses[0],
      { item: 2, answer: '', key: 'B', late: { answer: 'B' } },
      responses[2],
    ])
    expect(countResponses(exam, kept).sections['names-items']).toEqual({
      right: 1,
      wrong: 0,
      blank: 2,
      notReached: 2,
    })
    // Said again, it is as it was.
    expect(afterTheBell(kept, [2])).toEqual(kept)
  })
})
