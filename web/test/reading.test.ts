import { numberText, readDate, readNumber } from '../src/kit/reading'
import { outlookOn } from '../src/manners/outlook'

describe('numbers as people write them', () => {
  it('take fractions, and are shown as those where their digits have no end', () => {
    expect(['1/4', '0,5', '.25', '-1 / 3'].map(readNumber)).toEqual([0.25, 0.5, 0.25, -1 / 3])
    for (const none of ['1/0', '1/', 'a/2', '1,5,2']) expect(readNumber(none)).toBeUndefined()
    expect([1 / 3, 2 / 3, 0.25, 12, -1 / 6].map(numberText)).toEqual(['1/3', '2/3', '0.25', '12', '-1/6'])
    for (let over = -20; over <= 20; over++)
      for (const under of [3, 6, 7, 9, 11, 12])
        expect(readNumber(numberText(over / under))).toBeCloseTo(over / under, 12)
  })
})

describe('days in figures', () => {
  const read = (text: string, monthFirst: boolean) => readDate(text, '2027-02-01', monthFirst)
  it('have the day first, or the month where the account writes it so and there is a slash', () => {
    expect([read('3/4', false), read('3/9/27', false)]).toEqual(['2027-04-03', '2027-09-03'])
    expect([read('3/9', true), read('3/9/27', true), read('3.9.2027', true)]).toEqual([
      '2027-03-09',
      '2027-03-09',
      '2027-09-03',
    ])
    expect([read('13/9', true), read('Mar 9', true), read('Tue Mar 9', true), read('9 Mar', true)]).toEqual([
      undefined,
      '2027-03-09',
      '2027-03-09',
      '2027-03-09',
    ])
  })
})

describe('the score to expect on a day', () => {
  const outlook = [
    { date: '2030-01-07', mean: 200, low: 180, high: 220 },
    { date: '2030-01-14', mean: 214, low: 200, high: 228 },
  ]
  it('lies on the line between two weeks, and stays what it is after the last', () => {
    expect(outlookOn(outlook, '2030-01-10')).toEqual({
      mean: 206,
      low: expect.closeTo(188.57, 2) as number,
      high: expect.closeTo(223.43, 2) as number,
    })
    expect(outlookOn(outlook, '2030-01-07')?.mean).toBe(200)
    expect(outlookOn(outlook, '2030-02-01')?.mean).toBe(214)
    expect(outlookOn([], '2030-01-10')).toBeUndefined()
  })
})
