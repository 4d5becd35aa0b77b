import type { ExamFormat } from '@climber/contract'
import { itemRows } from '../src/manners/itemRows'
import { termsOf } from '../src/manners/words'
import { decode } from '../src/workers/decode'

const bytes = (...parts: (string | number[])[]) =>
  Uint8Array.from(
    parts.flatMap((part) => (typeof part === 'string' ? [...new TextEncoder().encode(part)] : part)),
  )

describe('the encoding of a file', () => {
  it('is UTF-8, with or without a mark', () => {
    expect(decode(bytes('a,ü\n'))).toEqual({ text: 'a,ü\n', problems: [] })
    expect(decode(bytes([0xef, 0xbb, 0xbf], 'a')).text).toBe('a')
  })
  it('names the rows that are in another one, and reads on', () => {
    const found = decode(bytes('item\n1,', [0xe4], '\n2,A\n3,', [0xfc, 0xe9], '\n'))
    expect(found.problems.map(({ row }) => row)).toEqual([2, 4])
    expect(found.text).toContain('2,A')
  })
  it('says what else a file is', () => {
    expect(decode(bytes([0xff, 0xfe, 0x31, 0x00])).problems[0]!.message).toContain('UTF-16')
    expect(decode(bytes('PK', [0, 1, 2])).problems[0]!.message).toContain('not a text file')
  })
})

describe('rows to count answers in', () => {
  const group = (id: string, items: number) => ({
    id,
    kind: 'choice',
    items,
    choices: 4,
    perRight: 1,
    perWrong: 0,
  })
  const exam = {
    sections: [
      {
        id: 's',
        title: 'Moss',
        groups: [group('first', 10)],
        stages: [
          { id: 'low', title: 'Short moss', from: 0, groups: [group('low', 5)] },
          { id: 'high', title: 'Long moss', from: 6, groups: [group('high', 5)] },
        ],
      },
      { id: 't', title: 'Fern', groups: [group('a', 3), group('b', 4)] },
    ],
  } as unknown as ExamFormat
  const titles = (right?: number) =>
    itemRows(
      exam,
      right === undefined ? {} : { first: { right, wrong: 10 - right, blank: 0, notReached: 0 } },
    ).map(({ title }) => title)
  it('gain the second stage that the first one leads to', () => {
    expect(titles()).toEqual(['Moss, first stage', 'Fern, part 1', 'Fern, part 2'])
    expect(titles(3)[1]).toBe('Short moss')
    expect(titles(6)[1]).toBe('Long moss')
  })
})

describe('the terms of a sitting', () => {
  const sitting = {
    id: 'x',
    date: '2031-06-01',
    start: '09:00',
    registerBy: '2031-05-01',
    fee: { amount: 30, currency: 'groats' },
  }
  it('say when registration ends or ended, and what it costs', () => {
    expect(termsOf(sitting, '2031-04-01')).toBe('register by Thu 1 May, 30 groats')
    expect(termsOf(sitting, '2031-05-02')).toBe('registration closed on Thu 1 May, 30 groats')
    expect(termsOf({ id: 'x', date: '2031-06-01', start: '09:00' }, '2031-05-02')).toBe('')
  })
})
