import fc from 'fast-check'
import { Cause, type ReviewNote } from '@climber/contract'
import { causeGroup, causesFor, causeTitle } from './causes'
import type { ReviewItem } from './item'
import { inPayingOrder } from './order'
import { causesOver, rateRatio, type ReviewedTest, stallOf } from './over'
import { readQuickCauses } from './quick'
import { aimOf, remediesOf } from './remedies'
import { likelyCause, reworkedRight } from './rework'
import { minutesAt, reviewPace } from './time'
import { looksAt } from './worth'

const attempt = '00000000-0000-4000-8000-000000000001'
const noted = (item: number, more: Partial<ReviewNote> = {}): ReviewNote => ({ attempt, item, ...more })
const read = (item: number, more: Partial<ReviewItem> = {}): ReviewItem => ({
  item,
  attempt,
  section: 'one',
  kind: 'choice',
  choices: 4,
  outcome: 'wrong',
  reached: true,
  order: item,
  seconds: 60,
  budget: 60,
  expected: 0.6,
  marks: 1,
  perWrong: 0.25,
  answer: 'A',
  key: 'B',
  changes: [],
  why: ['wrong'],
  lost: 1.25,
  yield: 1,
  again: [],
  ...more,
})
const caused = (item: number, cause: Cause, more: Partial<ReviewItem> = {}) =>
  read(item, { topic: 'tides', note: noted(item, { cause, reviewedOn: '2031-04-02' }), ...more })

describe('what is worth a look', () => {
  const way = 'misses, doubtful and lucky' as const
  const right = { outcome: 'right' as const, answer: 'B' }
  it.each([
    [{}, ['wrong']],
    [{ outcome: 'blank' as const, answer: '' }, ['blank']],
    [{ changes: ['b', 'A'] }, ['wrong', 'changed']],
    [{ changes: ['C', 'A'] }, ['wrong']],
    [{ ...right, confidence: 'between two' as const }, ['lucky']],
    [{ ...right, confidence: 'sure' as const }, []],
    [{ ...right, seconds: 121 }, ['slow']],
    [{ ...right, seconds: 120 }, []],
    [{ ...right, seconds: undefined }, []],
    [right, []],
  ])('%j: %j', (more, looks) => expect(looksAt(read(1, more), way)).toEqual(looks))
  it('is less, or everything, as the way to work says', () => {
    const lucky = read(1, { ...right, confidence: 'no idea' })
    expect(looksAt(lucky, 'misses')).toEqual([])
    expect(looksAt(read(1, right), 'every question')).toEqual(['every'])
    expect(looksAt(lucky, 'every question')).toEqual(['lucky'])
  })
})

describe('the order that pays', () => {
  it('is by what an hour on the topic is worth, misses before luck, sets together', () => {
    const items = [
      read(1, { yield: 1 }),
      read(2, { yield: 3, set: 'chart' }),
      read(3, { yield: 2 }),
      read(4, { yield: 9, lost: 0, outcome: 'right', why: ['lucky'] }),
      read(5, { yield: 0.5, set: 'chart' }),
    ]
    expect(inPayingOrder(items).map(({ item }) => item)).toEqual([2, 5, 3, 1, 4])
  })
  it('leaves nothing out, whatever comes', () => {
    const item = fc.record({
      yield: fc.double({ min: 0, max: 9, noNaN: true }),
      lost: fc.constantFrom(0, 1),
      set: fc.constantFrom(undefined, 'a', 'b'),
    })
    fc.assert(
      fc.property(fc.array(item), (drawn) => {
        const items = drawn.map((one, at) => read(at + 1, one))
        const ordered = inPayingOrder(items)
        expect(ordered.map((one) => one.item).sort((a, b) => a - b)).toEqual(items.map((one) => one.item))
        for (const set of ['a', 'b']) {
          const places = ordered.flatMap((one, at) => (one.set === set ? [at] : []))
          if (places.length) expect(places[places.length - 1]! - places[0]!).toBe(places.length - 1)
        }
      }),
    )
  })
})

describe('an item tried again', () => {
  it('is judged by its key, in any writing, or else by who tried it', () => {
    expect(reworkedRight(read(1), { answer: 'b' })).toBe(true)
    expect(reworkedRight(read(1), { answer: 'c' })).toBe(false)
    expect(reworkedRight(read(1, { kind: 'numeric', key: '12.50' }), { answer: '12.5' })).toBe(true)
    expect(reworkedRight(read(1, { key: '' }), { answer: 'b' })).toBeUndefined()
    expect(reworkedRight(read(1, { key: '' }), { answer: '', right: true })).toBe(true)
    expect(reworkedRight(read(1), undefined)).toBeUndefined()
  })
  it('with three causes the facts speak for one of the three', () => {
    expect(likelyCause(read(1, { seconds: 10 }), { answer: 'b' }, 'three causes')).toBe('careless')
    expect(likelyCause(read(1, { confidence: 'no idea' }), { answer: 'c' }, 'three causes')).toBe('content')
  })
  it.each([
    ['wrong both times', {}, 'c', 'content'],
    ['not reached', { outcome: 'blank' as const, answer: '', reached: false }, undefined, 'time'],
    ['passed over, and right in peace', { outcome: 'blank' as const, answer: '' }, 'b', 'time'],
    ['changed away from right', { why: ['wrong' as const, 'changed' as const] }, 'b', 'overthought'],
    ['in a rush', { seconds: 10 }, 'b', 'misread'],
    ['right in peace, and nothing else', {}, 'b', undefined],
    ['lucky, and wrong now', { outcome: 'right' as const, why: ['lucky' as const] }, 'c', 'guess'],
    ['a stab in the dark', { confidence: 'no idea' as const }, 'c', 'guess'],
    ['not tried again', {}, undefined, undefined],
  ])('%s: %j then %s says %s', (_what, more, answer, cause) =>
    expect(likelyCause(read(1, more), answer === undefined ? undefined : { answer })).toBe(cause),
  )
})

describe('causes', () => {
  it('are seven, or three; what was right may be so for the right reason', () => {
    expect(causesFor('cause', { outcome: 'wrong' })).toHaveLength(7)
    expect(causesFor('three causes', { outcome: 'blank' })).toEqual(['content', 'careless', 'time'])
    expect(causesFor('full note', { outcome: 'right' }).pop()).toBe('sound')
    expect(causeTitle('careless', 'three causes')).not.toBe(causeTitle('careless', 'cause'))
  })
  it('each but "sound" is a gap, a lapse or time, and has a remedy', () => {
    for (const cause of Cause.options) {
      expect(causeGroup(cause) === undefined).toBe(cause === 'sound')
      expect(aimOf(cause) === undefined).toBe(cause === 'sound')
    }
  })
})

describe('remedies', () => {
  it('are the topics that lost most by themselves, the others together, and a set against each habit', () => {
    const items = [
      ...[1, 2, 3].map((item) => caused(item, 'content', { topic: 'tides' })),
      caused(4, 'guess', { topic: 'lights' }),
      caused(5, 'content', { topic: 'buoys', yield: 5 }),
      caused(6, 'content', { topic: 'locks', yield: 0.1 }),
      caused(7, 'content', { topic: 'fog', yield: 0.2 }),
      caused(8, 'misread', { topic: 'tides' }),
      caused(9, 'question', { topic: 'fog' }),
      caused(10, 'careless', { topic: 'fog' }),
      caused(11, 'sound', { topic: 'fog' }),
    ]
    const found = remediesOf(items, 50)
    expect(found.map(({ aim, topics }) => [aim, topics])).toEqual([
      ['again', ['buoys']],
      ['again', ['tides']],
      ['again', ['lights']],
      ['again', ['fog', 'locks']],
      ['reading', ['fog', 'tides']],
    ])
    expect(found.map(({ minutes }) => minutes)).toEqual([30, 50, 30, 40, 30])
    expect(found[1]).toMatchObject({ misses: 3, marks: 3.75, from: '2031-04-02' })
  })
  it('of a review without causes there are none, and an item without a topic asks for nothing', () => {
    expect(remediesOf([read(1, { topic: 'tides' })], 50)).toEqual([])
    expect(remediesOf([caused(1, 'content', { topic: undefined })], 50)).toEqual([])
    expect(remediesOf([], 50)).toEqual([])
  })
})

describe('causes over tests', () => {
  const test = (n: number, items: ReviewItem[]): ReviewedTest => ({
    id: `t${n}`,
    title: `Test ${n}`,
    date: `2031-04-0${n}`,
    sat: 60,
    items,
  })
  const many = (count: number, cause: Cause) =>
    Array.from({ length: count }, (_, at) => caused(at + 1, cause))
  it('the ratio of two rates by hand: 6 of 60 after 18 of 60 is about a third, 0.19 to 0.60', () => {
    // Wilson at 80% for 6 of 24: 0.1561 to 0.3757 of the share, odds 0.185 and 0.602.
    const { ratio, low, high } = rateRatio({ events: 6, of: 60 }, { events: 18, of: 60 })
    expect(ratio).toBeCloseTo(6.5 / 18.5, 12)
    expect(low).toBeCloseTo(0.185, 2)
    expect(high).toBeCloseTo(0.602, 2)
  })
  it('is turned round by turning the times round, and scaled by how much was sat', () => {
    const rate = fc.record({ events: fc.integer({ min: 1, max: 40 }), of: fc.integer({ min: 40, max: 400 }) })
    fc.assert(
      fc.property(rate, rate, (a, b) => {
        const there = rateRatio(a, b)
        const back = rateRatio(b, a)
        expect(there.ratio * back.ratio).toBeCloseTo(1, 9)
        expect(there.low * back.high).toBeCloseTo(1, 6)
        expect(there.low).toBeLessThanOrEqual(there.high)
        const twice = rateRatio(a, { ...b, of: b.of * 2 })
        expect(twice.ratio).toBeCloseTo(2 * there.ratio, 9)
      }),
    )
  })
  it('says that one falls, that one does not, and nothing from one test', () => {
    const tests = [
      test(1, [...many(20, 'misread'), ...many(6, 'content')]),
      test(2, [...many(4, 'misread'), ...many(6, 'content')]),
    ]
    const found = causesOver(tests)
    expect(found.map(({ cause, trend }) => [cause, trend!.says])).toEqual([
      ['misread', 'falling'],
      ['content', 'neither'],
    ])
    expect(found[0]!.tests).toEqual([
      { items: 20, marks: 25 },
      { items: 4, marks: 5 },
    ])
    expect(causesOver(tests.slice(0, 1))[0]!.trend).toBeUndefined()
  })
  it('a stall is gaps, care or time by where the marks went; while the score rises there is none', () => {
    const of = (cause: Cause) => [1, 2, 3].map((n) => test(n, many(8, cause)))
    expect(stallOf([200, 203, 201], 8, of('content'))!.lies).toBe('gaps')
    expect(stallOf([200, 203, 201], 8, of('careless'))!.lies).toBe('care')
    expect(stallOf([200, 203, 201], 8, of('time'))!.lies).toBe('time')
    const both = [test(1, [...many(5, 'content'), ...many(5, 'misread'), ...many(3, 'time')])]
    expect(stallOf([200, 203, 201], 8, both)).toMatchObject({ moved: 1 })
    expect(stallOf([200, 203, 201], 8, both)!.lies).toBeUndefined()
    expect(stallOf([200, 210, 220], 8, of('content'))).toBeUndefined()
    expect(stallOf([200, 201], 8, of('content'))).toBeUndefined()
    expect(stallOf([200, 201, 200], 8, [])).toBeUndefined()
  })
})

describe('minutes of a review', () => {
  const timed = (count: number, seconds: number, more: Partial<ReviewItem> = {}) =>
    Array.from({ length: count }, (_, at) =>
      read(at + 1, { ...more, note: noted(at + 1, { seconds, reviewedOn: '2031-04-02' }) }),
    )
  it('are drawn to what is usual while the log is thin, and to the log as it grows', () => {
    expect(reviewPace(timed(4, 60), 4)).toBeUndefined()
    expect(reviewPace(timed(10, 120), 4)!.missed).toBeCloseTo(3, 9)
    expect(reviewPace(timed(90, 120), 4)!.missed).toBeCloseTo(2.2, 9)
    const pace = reviewPace([...timed(10, 120), ...timed(10, 60, { lost: 0, outcome: 'right' })], 4)!
    expect(pace.other).toBeCloseTo(1.5, 9)
    expect(minutesAt(pace, 10, 4)).toBeCloseTo(36, 9)
  })
})

describe('causes by number', () => {
  const known = (item: number) => item <= 60
  it('are read an item and its cause, or a cause and its items, by number or by name', () => {
    const { causes, problems } = readQuickCauses('12 1, 7 misread\n2: 3 4\nOut of time: 9', 'cause', known)
    expect(problems).toEqual([])
    expect(causes).toEqual([
      { item: 12, cause: 'content' },
      { item: 7, cause: 'misread' },
      { item: 3, cause: 'misread' },
      { item: 4, cause: 'misread' },
      { item: 9, cause: 'time' },
    ])
  })
  it('say by line what is not right, and take the last word on an item', () => {
    const { causes, problems } = readQuickCauses('99 1\n5 9\nhello\n5 c\n6 1, 6 2', 'cause', known)
    expect(problems.map(({ line }) => line)).toEqual([1, 2, 3, 4])
    expect(problems[0]!.message).toBe('there is no item 99')
    expect(problems[1]!.message).toContain('1 did not know it')
    expect(causes).toEqual([{ item: 6, cause: 'misread' }])
    expect(readQuickCauses('5 3', 'three causes', known).causes).toEqual([{ item: 5, cause: 'time' }])
  })
  it('whatever is typed is read or refused, and nothing throws', () => {
    fc.assert(
      fc.property(fc.string({ maxLength: 80 }), (text) => {
        const { causes, problems } = readQuickCauses(text, 'cause', known)
        expect(causes.every(({ item }) => known(item))).toBe(true)
        expect(problems.every(({ line }) => line <= text.split('\n').length)).toBe(true)
      }),
    )
  })
})
