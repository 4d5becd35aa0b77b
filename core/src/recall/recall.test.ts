import fc from 'fast-check'
import { FSRSAlgorithm, generatorParameters } from 'ts-fsrs'
import { bent, fixed, type Kept, plain, power, season, traces } from '../../test/memories'
import { randomFrom } from '../exact/random'
import { answer, chanceOf, freshDeck, gainOf, remember, rowsOf, secondsExpected, timesLost } from './deck'
import { type CardAnswers, keepingOf } from './keeping'
import { answered, chanceAfter, chanceOn, daysUntil, type Memory, ordinary, type RecallGrade } from './memory'
import { deckFrom, isLeech, knownOf, secondsOf, tellingOf } from './known'
import { fits, type Policy, queueOf } from './queue'
import { nextIn } from './session'
import { play, policyFor } from './season'

const library = new FSRSAlgorithm(generatorParameters({}))
const policy: Policy = { retention: 0.9, sweep: 14, fresh: 10 }
const days = fc.integer({ min: 0, max: 400 })
const stability = fc.double({ min: 0.1, max: 2000, noNaN: true })

describe('what is remembered', () => {
  test('is the library’s: the curve, and its days until a chance', () => {
    fc.assert(
      fc.property(stability, days, (days90, elapsed) => {
        expect(chanceAfter(days90, elapsed)).toBeCloseTo(library.forgetting_curve(elapsed, days90), 6)
      }),
    )
    expect(chanceAfter(12, 12 * daysUntil(0.7))).toBeCloseTo(0.7, 10)
    expect(daysUntil(0.9)).toBeCloseTo(1, 10)
  })
  test('follows from the answers as the library says, where memory keeps as most do', () => {
    let memory: Memory | undefined
    let its = library.next_state(null, 0, 3)
    memory = answered(undefined, 3, 100)
    let day = 100
    for (const [wait, grade] of [
      [2, 3],
      [9, 4],
      [30, 1],
      [0, 3],
      [1, 2],
    ] as [number, RecallGrade][]) {
      day += wait
      memory = answered(memory, grade, day)
      its = library.next_state(its, wait, grade)
      expect(memory.stability).toBeCloseTo(its.stability, 6)
      expect(memory.difficulty).toBeCloseTo(its.difficulty, 6)
    }
    expect(memory.day).toBe(142)
    expect(chanceOn(memory, 142)).toBe(1)
  })
  test('what comes back keeps longer, the longer the less sure it was; what does not, less long', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 0.5, max: 300, noNaN: true }),
        fc.integer({ min: 1, max: 60 }),
        (before, wait) => {
          const memory = { stability: before, difficulty: 5, day: 0 }
          const soon = answered(memory, 3, wait)
          const late = answered(memory, 3, wait + 30)
          expect(soon.stability).toBeGreaterThan(before)
          expect(late.stability).toBeGreaterThan(soon.stability)
          expect(answered(memory, 1, wait).stability).toBeLessThanOrEqual(before)
          expect(answered(memory, 3, wait, { first: 1, growth: 0.5 }).stability).toBeLessThan(soon.stability)
        },
      ),
    )
  })
  test('an answer of an earlier day that is heard of late takes nothing back', () => {
    const memory = { stability: 10, difficulty: 5, day: 50 }
    expect(answered(memory, 3, 45).day).toBe(50)
  })
})

/** A deck with anything remembered. */
const decks = fc
  .array(
    fc.record({
      last: fc.option(fc.integer({ min: -60, max: 0 }), { nil: undefined }),
      stability: fc.double({ min: 0.1, max: 200, noNaN: true }),
      difficulty: fc.double({ min: 1, max: 10, noNaN: true }),
      seconds: fc.integer({ min: 3, max: 120 }),
    }),
    { minLength: 1, maxLength: 80 },
  )
  .map((rows) => {
    const deck = freshDeck(rows.length)
    rows.forEach(({ last, seconds, ...memory }, card) => {
      if (last !== undefined) remember(deck, card, { ...memory, day: last })
      deck.seconds[card] = seconds
    })
    return deck
  })
const policies = fc.record({
  retention: fc.constantFrom(0.6, 0.8, 0.9, 0.95),
  sweep: fc.integer({ min: 0, max: 60 }),
  fresh: fc.integer({ min: 0, max: 30 }),
})

describe('the queue of a day', () => {
  test('holds each card once, fits its seconds, keeps to new ones a day, and asks nothing twice on a day', () => {
    fc.assert(
      fc.property(
        decks,
        policies,
        fc.integer({ min: 1, max: 90 }),
        fc.integer({ min: 0, max: 3000 }),
        (deck, own, left, seconds) => {
          const queue = queueOf(deck, 1, left, own, seconds, ordinary)
          expect(new Set(queue).size).toBe(queue.length)
          expect(queue.reduce((sum, card) => sum + secondsExpected(deck, card, 1), 0)).toBeLessThanOrEqual(
            seconds,
          )
          const fresh = queue.filter((card) => deck.last[card]! < -1e6)
          if (left > own.sweep) expect(fresh.length).toBeLessThanOrEqual(own.fresh)
          for (const card of queue) answer(deck, card, 1, true, ordinary)
          for (const card of queueOf(deck, 1, left, own, 1e9, ordinary)) expect(queue).not.toContain(card)
        },
      ),
    )
  })
  test('is empty on the exam day and after it', () => {
    fc.assert(
      fc.property(decks, policies, fc.integer({ min: -30, max: 0 }), (deck, own, left) => {
        expect(queueOf(deck, 1, left, own, 1e9, ordinary)).toEqual([])
      }),
    )
  })
  test('before the last days what is due comes; in them what pays on the day', () => {
    const deck = freshDeck(3)
    remember(deck, 0, { stability: 10, difficulty: 5, day: 0 })
    remember(deck, 1, { stability: 40, difficulty: 5, day: 0 })
    expect(queueOf(deck, 12, 60, { ...policy, fresh: 1 }, 1e6, ordinary)).toEqual([0, 2])
    const last = queueOf(deck, 12, 5, policy, 1e6, ordinary)
    expect(last[0]).toBe(2)
    expect(gainOf(deck, 0, 12, 5, ordinary)).toBeGreaterThan(gainOf(deck, 1, 12, 5, ordinary))
    expect(last.indexOf(0)).toBeLessThan(last.indexOf(1))
  })
  test('an answer pays the more on the exam day, the nearer it is, where the card would be lost by then', () => {
    const deck = freshDeck(1)
    remember(deck, 0, { stability: 1, difficulty: 6, day: 0 })
    expect(gainOf(deck, 0, 30, 2, ordinary)).toBeGreaterThan(gainOf(deck, 0, 30, 40, ordinary))
  })
})

describe('a season', () => {
  test('no day exceeds its time; after days without any the rest is spread, and nothing comes on the exam day', () => {
    fc.assert(
      fc.property(decks, policies, fc.integer(), (deck, own, seed) => {
        const time = (ahead: number) => (ahead < 10 ? 0 : ahead % 3 ? 300 : 90)
        const before = [...deck.last]
        const played = play(deck, { today: 1, exam: 41, seconds: time }, own, ordinary, randomFrom(seed))
        expect(played.days.map(({ day }) => day)).toEqual(Array.from({ length: 40 }, (_, at) => at + 1))
        played.days.forEach(({ seconds }, at) => expect(seconds).toBeLessThanOrEqual(time(at)))
        expect(played.recalled).toBeLessThanOrEqual(deck.last.length)
        expect([...deck.last]).toEqual(before)
      }),
      { numRuns: 40 },
    )
  })
  test('a part of a deck with its share of the time tells of the whole, however little a day of it is', () => {
    const whole = freshDeck(3000)
    for (let card = 0; card < 600; card++)
      remember(whole, card, { stability: 1 + (card % 40), difficulty: 3 + (card % 5), day: -(card % 30) })
    const part = rowsOf(
      whole,
      Array.from({ length: 60 }, (_, at) => at * 50),
    )
    const days = { today: 1, exam: 61, seconds: () => 600 }
    const all = play(whole, days, policy, ordinary, randomFrom(1)).recalled
    // Twelve seconds a day, where a new card takes twenty; and one new card in five days.
    const some = [1, 2, 3, 4, 5, 6].map(
      (seed) => play(part, { ...days, share: 0.02 }, policy, ordinary, randomFrom(seed)).recalled / 0.02,
    )
    const mean = some.reduce((sum, one) => sum + one, 0) / some.length
    expect(mean / all).toBeGreaterThan(0.85)
    expect(mean / all).toBeLessThan(1.15)
  })
  test('the policy that is found is no worse than the one before it, on the days that it was found for', () => {
    const deck = freshDeck(150)
    const days = { today: 0, exam: 40, seconds: () => 420 }
    const luck = () => randomFrom(3)
    const worth = (own: Policy) => play(deck, days, own, ordinary, luck()).recalled
    const found = policyFor(deck, days, ordinary, luck, { from: policy })
    expect(worth(found)).toBeGreaterThanOrEqual(worth(policy))
    expect(policyFor(deck, days, ordinary, luck, { from: policy })).toEqual(found)
  })
  test('a card fits where there is time to learn it again', () => {
    const deck = freshDeck(1)
    expect(fits(deck, 0, 8 * timesLost)).toBe(true)
    expect(fits(deck, 0, 8 * timesLost - 1)).toBe(false)
  })
})

describe('how a memory keeps', () => {
  /** Answers of one that keeps so, asked after growing waits. */
  const answersOf = (first: number, growth: number): CardAnswers[] => {
    const random = randomFrom(8)
    return Array.from({ length: 120 }, () => {
      const deck = freshDeck(1)
      const known = random() < 0.6
      answer(deck, 0, 0, known, { first, growth })
      let day = 0
      const later = [1, 3, 6, 12, 25].map((wait) => {
        day += wait
        const back = random() < chanceOf(deck, 0, day)
        answer(deck, 0, day, back, { first, growth })
        return { days: wait, back }
      })
      return { known, later }
    })
  }
  test('is as most keep, before there is an answer', () => {
    expect(keepingOf([])).toEqual(ordinary)
  })
  test('is found near what it is, and on the cautious side of it', () => {
    const poor = keepingOf(answersOf(0.3, 0.5))
    expect(poor.first).toBeLessThan(0.6)
    expect(poor.growth).toBeLessThan(0.9)
    const good = keepingOf(answersOf(2.5, 1.6))
    expect(good.first).toBeGreaterThan(1.2)
    const usual = keepingOf(answersOf(1, 1))
    expect(usual.first).toBeGreaterThan(0.5)
    expect(usual.first).toBeLessThan(2)
  })
})

describe('on memories of other kinds, with the same minutes', () => {
  test.each<[string, (cards: number, seed: number) => Kept]>([
    ['of traces', traces],
    ['by a power of time', power(0.45)],
    ['by a power of time, slow to learn', power(0.25)],
  ])('%s: more comes back on the exam day than by the plain schedule and by fixed intervals', (_, make) => {
    const course = { cards: 300, days: 30, minutes: 10 }
    const sum = (clerk: typeof bent) =>
      [1, 2, 3].reduce(
        (all, seed) => {
          const { recalled, minutes, longest } = season(make(300, seed), course, clerk(course), seed)
          expect(longest).toBeLessThanOrEqual(course.minutes)
          return { recalled: all.recalled + recalled, minutes: all.minutes + minutes }
        },
        { recalled: 0, minutes: 0 },
      )
    const own = sum(bent)
    for (const other of [sum(plain), sum(fixed)]) {
      expect(own.recalled).toBeGreaterThan(other.recalled)
      expect(own.minutes).toBeLessThan(other.minutes * 1.01)
    }
  })
})

describe('a deck from what was answered', () => {
  const histories = new Map<string, [number, number, number][]>([
    [
      'a',
      [
        [100, 3, 5],
        [103, 3, 4],
      ],
    ],
    [
      'b',
      [
        [100, 1, 9],
        [100, 3, 5],
        [102, 1, 9],
        [102, 1, 9],
        [102, 3, 6],
      ],
    ],
  ])
  test('each card is remembered as its answers say; what is lost twice on a day is lost once', () => {
    const [a, b, c] = ['a', 'b', 'c'].map((id) => knownOf(id, histories.get(id) ?? [], ordinary))
    expect(a).toMatchObject({ answers: 2, lapses: 0, memory: { day: 103 } })
    expect(a!.memory!.stability).toBeCloseTo(answered(answered(undefined, 3, 100), 3, 103).stability, 8)
    expect(b).toMatchObject({ answers: 5, lapses: 1, memory: { day: 102 } })
    expect(c).toEqual({ id: 'c', answers: 0, lapses: 0 })
    expect(isLeech(b!)).toBe(false)
    const hard = Array.from({ length: 8 }, (_, at): [number, number, number] => [at * 3, 1, 9])
    expect(isLeech(knownOf('d', hard, ordinary))).toBe(true)
  })
  test('how a memory keeps is told by the first answer of each day', () => {
    expect(tellingOf(histories.get('b')!)).toEqual({ known: false, later: [{ days: 2, back: false }] })
    expect(tellingOf(histories.get('a')!)).toEqual({ known: true, later: [{ days: 3, back: true }] })
    expect(
      tellingOf([
        [100, 1, 9],
        [100, 3, 5],
      ]),
    ).toBeUndefined()
    expect(tellingOf([])).toBeUndefined()
  })
  test('it has the seconds of one’s own where there are enough, and the worth of its topics', () => {
    const cards = (['a', 'b', 'c'] as const).map((id) => ({
      id,
      kind: 'card' as const,
      known: knownOf(id, histories.get(id) ?? [], ordinary),
    }))
    expect(secondsOf(cards, histories)).toEqual({ card: 8, place: 15, numbers: 75, item: 90 })
    const more = new Map([
      ...histories,
      [
        'c',
        [
          [100, 4, 2],
          [101, 4, 2],
          [102, 4, 3],
        ] as [number, number, number][],
      ],
    ])
    expect(secondsOf(cards, more).card).toBe(4)
    const deck = deckFrom(
      [
        { card: { kind: 'card', topic: 'tides' }, known: cards[0]!.known },
        { card: { kind: 'numbers' }, known: cards[2]!.known },
      ],
      secondsOf([], new Map()),
      (topic) => (topic ? 2 : 1),
    )
    expect([...deck.seconds]).toEqual([8, 75])
    expect([...deck.worth]).toEqual([2, 1])
    expect(deck.last[0]).toBe(103)
    expect(chanceOf(deck, 1, 110)).toBe(0)
  })
})

describe('a session', () => {
  const ten = [...'abcdefghij']
  const run = (lost: (card: string, turn: number) => boolean, most = 60): string => {
    const given: { card: string; grade: number }[] = []
    for (let turn = 0; turn < most; turn++) {
      const card = nextIn(ten, given)
      if (!card) break
      given.push({ card, grade: lost(card, turn) ? 1 : 3 })
    }
    return given.map(({ card }) => card).join('')
  }
  test('goes through the queue; what is lost comes again after six others, or at the end', () => {
    expect(run(() => false)).toBe('abcdefghij')
    expect(run((card, turn) => card === 'b' && turn < 5)).toBe('abcdefghbij')
    expect(run((card, turn) => card === 'j' && turn < 12)).toBe('abcdefghijjjj')
  })
  test('ends only when everything has come back', () => {
    fc.assert(
      fc.property(fc.integer(), (seed) => {
        const random = randomFrom(seed)
        const all = run(() => random() < 0.4, 500)
        expect(new Set(all)).toEqual(new Set(ten))
      }),
    )
  })
})
