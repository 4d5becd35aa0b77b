import fc from 'fast-check'
import { alarms } from '../../../test/driftingTests'
import { randomFrom } from '../../exact/random'
import { calibration, luckyAnswers, wilson } from './calibration'
import { changedAnswers, signTest } from './changes'
import { conditionEffect } from './conditions'
import { driftIn } from './drift'
import type { ReadItem } from './item'
import { reworked } from './rework'
import { chanceOfRun, missRuns } from './runs'
import { timeInAll, timeSpent } from './time'

const read = (item: number, more: Partial<ReadItem> = {}): ReadItem => ({
  item,
  section: 'one',
  outcome: 'right',
  reached: true,
  order: item,
  seconds: 60,
  budget: 60,
  expected: 0.6,
  marks: 1,
  perWrong: 0,
  answer: 'A',
  key: 'A',
  changes: [],
  ...more,
})
/** Items by a row of signs: `+` right, `-` wrong, `.` blank. */
const row = (signs: string): ReadItem[] =>
  [...signs].map((sign, at) =>
    read(at + 1, { outcome: sign === '+' ? 'right' : sign === '-' ? 'wrong' : 'blank' }),
  )

describe('drift', () => {
  it('says where a plain one begins, in items and in minutes', () => {
    const found = driftIn('one', [row('+++++++++++++++++++++----+--+---')], 3)!
    expect(found.p).toBeLessThan(0.01)
    expect(found.from).toEqual({ item: 22, place: 21 })
    expect(found.second).toBe(21 * 60)
    expect(found.before.right).toBe(1)
    expect(found.after.right).toBeCloseTo(2 / 11)
  })
  it('is explained by topics that are known worse where those come last', () => {
    const items = row('+++++++++++++++++++++----+--+---').map((one) => ({
      ...one,
      expected: one.item <= 21 ? 0.95 : 0.2,
    }))
    expect(driftIn('one', [items], 3)!.p).toBeGreaterThan(0.2)
  })
  it('follows the order in which items were taken up, and leaves out what was not reached', () => {
    const items = row('----+--+---+++++++++++++++++++++').map((one) => ({ ...one, order: 33 - one.item }))
    const more = [...items, read(33, { outcome: 'blank', reached: false })]
    expect(driftIn('one', [more], 3)!.p).toBeLessThan(0.01)
    expect(driftIn('one', [more], 3)!.items).toBe(32)
  })
  it('says nothing of a few items, and the same whenever it is asked', () => {
    expect(driftIn('one', [row('++++++------')], 3)).toBeUndefined()
    const items = row('++-+++-+--++-+--+-+--')
    expect(driftIn('one', [items], 3)).toEqual(driftIn('one', [items], 3))
  })
  it('goes off for chance alone one time in twenty at most, and finds what is there', () => {
    const none = alarms({ items: 60, fall: 0, from: 2 / 3, error: 0 }, 1, 400, 5)
    // Of 400 with a chance of 4 in 100 each, more than 29 come once in a thousand times.
    expect(none.share * 400).toBeLessThanOrEqual(29)
    const fall = alarms({ items: 60, fall: 0.15, from: 2 / 3, error: 0 }, 8, 60, 5)
    expect(fall.share).toBeGreaterThan(0.5)
    expect(fall.off).toBeLessThanOrEqual(5)
  })
})

describe('runs of misses', () => {
  it('are four or more of what was reached, in order', () => {
    expect(missRuns('one', row('+----+---+-.-.-+')).map(({ items }) => items)).toEqual([
      [2, 3, 4, 5],
      [11, 12, 13, 14, 15],
    ])
  })
  it('have the chance that all sequences counted out have', () => {
    fc.assert(
      fc.property(
        fc.array(fc.double({ min: 0.05, max: 0.95, noNaN: true }), { minLength: 1, maxLength: 10 }),
        fc.integer({ min: 1, max: 5 }),
        (expected, length) => {
          let chance = 0
          for (let way = 0; way < 1 << expected.length; way++) {
            let run = 0
            let longest = 0
            let own = 1
            expected.forEach((p, at) => {
              const right = Boolean(way & (1 << at))
              own *= right ? p : 1 - p
              run = right ? 0 : run + 1
              longest = Math.max(longest, run)
            })
            if (longest >= length) chance += own
          }
          expect(chanceOfRun(expected, length)).toBeCloseTo(chance, 9)
        },
      ),
    )
  })
})

describe('minutes', () => {
  it('sinks are over twice the budget and not right, rushes under two fifths and wrong', () => {
    const items = [
      read(1, { seconds: 121, outcome: 'wrong' }),
      read(2, { seconds: 120, outcome: 'wrong' }),
      read(3, { seconds: 300 }),
      read(4, { seconds: 200, outcome: 'blank' }),
      read(5, { seconds: 23, outcome: 'wrong' }),
      read(6, { seconds: 24, outcome: 'wrong' }),
      read(7, { seconds: 5 }),
      read(8, { outcome: 'wrong', seconds: undefined }),
    ]
    const found = timeSpent(items)
    expect(found.sinks.map(({ item }) => item)).toEqual([1, 4])
    expect(found.rushes.map(({ item }) => item)).toEqual([5])
    expect(found.lostSeconds).toBe(61 + 140)
    expect(found.timed).toBe(7)
  })
  it('are worth the items that were not reached, at most as many as there were', () => {
    const sunk = read(1, { seconds: 150, outcome: 'wrong' })
    const rest = [2, 3].map((item) => read(item, { reached: false, outcome: 'blank', expected: 0.5 }))
    const one = timeSpent([sunk, ...rest])
    expect([one.itemsLost, one.marksLost]).toEqual([1.5, 0.75])
    const more = timeSpent([read(1, { seconds: 600, outcome: 'wrong' }), ...rest])
    expect(more.itemsLost).toBe(2)
    // Minutes of one section are worth nothing in another.
    const both = timeInAll([timeSpent([sunk]), timeSpent(rest)])
    expect([both.lostSeconds, both.itemsLost, both.notReached.length]).toEqual([90, 0, 2])
  })
})

describe('changed answers', () => {
  it('are told by the first and the last', () => {
    const items = [
      read(1, { changes: ['B', 'A'] }),
      read(2, { changes: ['B', 'C', 'A'] }),
      read(3, { changes: ['A', 'B'], outcome: 'wrong', answer: 'B', perWrong: 0.25 }),
      read(4, { changes: ['B', 'C'], outcome: 'wrong', answer: 'C' }),
      read(5, { changes: ['A', 'B', 'A'] }),
      read(6, { changes: ['B', ''], outcome: 'blank', answer: '' }),
      read(7, { changes: ['A'] }),
    ]
    const found = changedAnswers(items)
    expect(found.toRight.map(({ item }) => item)).toEqual([1, 2])
    expect(found.toWrong.map(({ item }) => item)).toEqual([3])
    expect(found.neither.map(({ item }) => item)).toEqual([4, 5])
    expect([found.net, found.marks]).toEqual([1, 2 - 1.25])
  })
  it('are surely more than chance only where they are many and uneven', () => {
    // Six of six: 2 / 64; five of six: 14 / 64 (binomial tails, counted by hand).
    expect(signTest(6, 0)).toBeCloseTo(2 / 64)
    expect(signTest(5, 1)).toBeCloseTo(14 / 64)
    expect(signTest(3, 3)).toBe(1)
    expect(signTest(0, 0)).toBe(1)
  })
})

describe('calibration', () => {
  it('takes what is not marked as sure where anything is, and says nothing where nothing is', () => {
    const items = [
      read(1),
      read(2, { confidence: 'between two' }),
      read(3, { confidence: 'between two', outcome: 'wrong' }),
      read(4, { confidence: 'no idea', outcome: 'blank' }),
    ]
    expect(calibration(items).map(({ items: own, right }) => [own.length, right])).toEqual([
      [1, 1],
      [2, 1],
      [0, 0],
    ])
    expect(luckyAnswers(items).map(({ item }) => item)).toEqual([2])
    expect(calibration([read(1), read(2)])).toEqual([])
  })
  it('has a range that holds the truth about eight times in ten', () => {
    const random = randomFrom(17)
    let held = 0
    const tries = 4000
    for (let one = 0; one < tries; one++) {
      const p = 0.1 + 0.8 * random()
      let right = 0
      for (let item = 0; item < 30; item++) if (random() < p) right++
      const { low, high } = wilson(right, 30)
      if (low <= p && p <= high) held++
    }
    expect(held / tries).toBeGreaterThan(0.77)
    expect(held / tries).toBeLessThan(0.84)
  })
})

describe('conditions', () => {
  const test_ = (id: string, residual: number, held?: boolean) => ({ id, residual, held })
  it('are compared from three tests on either side', () => {
    const few = [test_('a', 3, true), test_('b', 2, true), test_('c', 1, false), test_('d', 0, false)]
    expect(conditionEffect(few, 1)).toBeUndefined()
    const tests = [-8, -9, -7, -8, 2, 1, 0, 2].map((residual, at) => test_(String(at), residual, at < 4))
    const found = conditionEffect([...tests, test_('x', 99)], 1)!
    expect(found.difference).toBeCloseTo(-9.25)
    // Two of the 70 ways to choose four of eight are as far apart.
    expect(found.p).toBeGreaterThan(0.015)
    expect(found.p).toBeLessThan(0.045)
  })
})

it('timed against untimed: content, pressure, luck', () => {
  const items = row('+-+-')
  const untimed = new Map([
    [1, true],
    [2, true],
    [3, false],
    [4, false],
  ])
  expect(reworked(items, untimed)).toEqual({ known: [1], pressure: [2], luck: [3], content: [4] })
})
