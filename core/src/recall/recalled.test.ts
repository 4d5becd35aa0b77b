import { nothingRecalled, type Recalled } from '@climber/contract'
import fc from 'fast-check'
import { type AskedThing, recalledAfter, recalledChange, recalledFrom } from './recalled'

const thing = (changes: Partial<AskedThing>): AskedThing => ({
  card: 'a',
  kind: 'card',
  topic: 'tides',
  answers: [],
  ...changes,
})

describe('what answers from memory say', () => {
  it('counts each card once, as it stands: its first answer, and each day that came out other than the one before', () => {
    const { days } = recalledFrom(nothingRecalled, [
      thing({
        answers: [
          [10, 1, 20],
          // Learned again the same evening: that it comes back then says nothing.
          [10, 3, 5],
          [12, 3, 6],
          [20, 3, 6],
          [40, 1, 30],
        ],
      }),
    ])
    expect(days.map(({ day, answers, seconds, cards }) => [day, answers, seconds, cards])).toEqual([
      [10, 2, 25, [0, 1]],
      [12, 1, 6, [1, 0]],
      [20, 1, 6, undefined],
      [40, 1, 30, [-1, 0]],
    ])
  })
  it('counts every time that a missed item was met, and keeps its answers', () => {
    const answers: AskedThing['answers'] = [
      [10, 3, 80],
      [20, 3, 70],
    ]
    const recalled = recalledFrom(nothingRecalled, [thing({ card: 'item:x:1', kind: 'item', answers })])
    expect(recalled.days.map(({ items }) => items)).toEqual([
      [1, 1],
      [1, 1],
    ])
    expect(recalled.items).toEqual([{ card: 'item:x:1', topic: 'tides', answers }])
  })
  it('what has no topic tells of none, and what is suspended asks for no time', () => {
    const answers: AskedThing['answers'] = [[10, 3, 8]]
    expect(recalledFrom(nothingRecalled, [thing({ topic: undefined, answers })]).days).toEqual([])
    expect(
      recalledFrom(nothingRecalled, [thing({ suspended: true, answers }), thing({ suspended: true })]).load,
    ).toEqual({
      daily: 0,
      begun: 0,
      unbegun: 0,
    })
    expect(recalledFrom(nothingRecalled, [thing({}), thing({ kind: 'numbers' })]).load).toEqual({
      daily: 0,
      begun: 0,
      unbegun: 83,
    })
  })
  it('a change that came after one that was not heard of leaves the version behind', () => {
    const one = recalledFrom(nothingRecalled, [thing({ answers: [[10, 3, 8]] })])
    const change = { ...one, version: 3, days: [], items: [] }
    expect(recalledAfter(one, change).version).toBe(1)
    expect(recalledAfter(one, { ...change, version: 2 }).version).toBe(2)
    expect(recalledAfter(one, { ...change, version: 1 })).toBe(one)
  })

  const kinds = fc.constantFrom<AskedThing['kind']>('card', 'place', 'numbers', 'item')
  const answers = fc
    .array(
      fc.tuple(
        fc.integer({ min: 1, max: 12 }),
        fc.integer({ min: 1, max: 4 }),
        fc.integer({ max: 60, min: 0 }),
      ),
      {
        maxLength: 6,
      },
    )
    .map((all) => all.sort(([a], [b]) => a - b))
  const state = fc.record({
    topic: fc.constantFrom('tides', 'lights', undefined),
    suspended: fc.boolean(),
    answers,
    there: fc.boolean(),
  })
  it('changed step by step is the same as from nothing', () => {
    const ids = ['a', 'b', 'c', 'd'] as const
    fc.assert(
      fc.property(
        fc.tuple(kinds, kinds, kinds, kinds),
        fc.array(fc.tuple(state, state, state, state), { minLength: 1, maxLength: 6 }),
        (ofKind, steps) => {
          const at = (step: (typeof steps)[number]): AskedThing[] =>
            step.flatMap(({ there, topic, ...own }, place) =>
              there
                ? [{ card: ids[place]!, kind: ofKind[place]!, ...(topic !== undefined && { topic }), ...own }]
                : [],
            )
          let recalled: Recalled = nothingRecalled
          let before: AskedThing[] = []
          for (const step of steps) {
            // An item is never gone: what was answered to it is taken back.
            const now = [
              ...at(step),
              ...before
                .filter(({ card, kind }) => kind === 'item' && !at(step).some((one) => one.card === card))
                .map((one) => ({ ...one, answers: [] })),
            ]
            recalled = recalledAfter(recalled, recalledChange(recalled, before, now))
            before = now
          }
          const whole = recalledFrom(nothingRecalled, before)
          expect(recalled.days).toEqual(whole.days)
          expect(recalled.items).toEqual(whole.items)
          for (const part of ['daily', 'begun', 'unbegun'] as const)
            expect(recalled.load[part]).toBeCloseTo(whole.load[part], 9)
        },
      ),
    )
  })
})
