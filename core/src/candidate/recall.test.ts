import { type Card, type CardHistory, nothingRecalled } from '@climber/contract'
import fc from 'fast-check'
import { gardenRecord, morning } from '../../test/fixture'
import { dateOf, dayNumber, mondayOf } from '../time/day'
import { minutesADay } from '../recall/load'
import { countedCard, recalledFrom } from '../recall/recalled'
import { OpenRecall } from './recall'

const on = '2031-03-05'
const today = dayNumber(on)
const idOf = (n: number): string => `00000000-0000-4000-8000-${String(n).padStart(12, '0')}`
const card = (n: number, more: Partial<Card> = {}): Card =>
  ({ id: idOf(n), kind: 'card', front: `Bed ${n}`, back: `Row ${n}`, added: '2031-02-01', ...more }) as Card
const answered = (
  n: number,
  ...answers: [daysAgo: number, grade: number, seconds?: number][]
): CardHistory => ({
  card: idOf(n),
  answers: answers.map(([ago, grade, seconds = 8]) => [today - ago, grade, seconds]),
})
const opened = (cards: Card[], histories: CardHistory[] = []): OpenRecall => {
  const made = new OpenRecall()
  made.open({ cards, histories })
  return made
}
const record = gardenRecord()
const chosen = (recall: { minutes?: number; fresh?: number }, more = {}) =>
  gardenRecord({ settings: { recall }, ...more })
const many = (count: number): Card[] => Array.from({ length: count }, (_, at) => card(at + 1))

describe('what is due', () => {
  it('is nothing of an empty deck', () => {
    expect(opened([]).view(record, morning(on))).toMatchObject({ queue: [], cards: 0, fits: 0, topics: [] })
    expect(opened([]).season(record, morning(on)).recalled).toBe(0)
  })
  it('is what was forgotten, then as many new cards as are let in, in the order in which they were added', () => {
    const view = opened(
      [card(1), card(2), card(3, { added: '2031-01-02' }), card(4), card(5)],
      [answered(1, [40, 3]), answered(2, [1, 3])],
    ).view(chosen({ fresh: 2 }), morning(on))
    expect(view.queue.map((one) => [one.card, one.isNew])).toEqual([
      [idOf(1), false],
      [idOf(3), true],
      [idOf(4), true],
    ])
    expect(view).toMatchObject({ cards: 5, begun: 2, fresh: 2, minutes: 15, left: 80 })
  })
  it('leaves out what rests or is suspended, until it rests no more', () => {
    const cards = [card(1, { suspended: true }), card(2, { rests: '2031-03-06' }), card(3)]
    const deck = opened(cards)
    const due = (day: string) => deck.view(record, morning(day)).queue.map((one) => one.card)
    expect(due(on)).toEqual([idOf(3)])
    expect(due('2031-03-06')).toEqual([idOf(2), idOf(3)])
    expect(deck.view(record, morning(on)).suspended).toBe(1)
  })
  it('counts what was done today against the minutes and the new cards of the day', () => {
    const deck = opened(many(60))
    const before = deck.view(chosen({ minutes: 5, fresh: 20 }), morning(on))
    deck.change({ histories: [1, 2, 3].map((n) => answered(n, [0, 3, 30])) })
    const after = deck.view(chosen({ minutes: 5, fresh: 20 }), morning(on))
    expect(after.done).toEqual({ answers: 3, seconds: 90 })
    expect(after.queue).toHaveLength(before.queue.length - 3)
    expect(after.fits).toBeLessThan(before.fits)
  })
  it('has a card back whose only answer was taken back', () => {
    const deck = opened(many(3))
    const before = deck.view(chosen({ fresh: 9 }), morning(on))
    deck.change({ histories: [answered(1, [0, 3])] })
    expect(deck.view(chosen({ fresh: 9 }), morning(on)).queue).toHaveLength(2)
    deck.change({ histories: [answered(1)] })
    expect(deck.view(chosen({ fresh: 9 }), morning(on))).toEqual(before)
  })
  it('says which cards do not stay, until they were looked at for that', () => {
    const lapses = Array.from({ length: 7 }, (_, at): [number, number] => [40 - at * 5, at ? 1 : 3])
    const leeches = (one: Card) =>
      opened([one, card(2)], [answered(1, ...lapses)]).view(record, morning(on)).leeches
    expect(leeches(card(1))).toEqual([{ card: idOf(1), lapses: 6 }])
    expect(leeches(card(1, { looked: { on, lapses: 6 } }))).toEqual([])
    expect(leeches(card(1, { looked: { on, lapses: 0 } }))).toHaveLength(1)
  })
  it('brings new cards of one table in the order of its rows, whatever their ids', () => {
    const cards = [card(1, { row: 2 }), card(2, { row: 0 }), card(3, { row: 1 })]
    const { queue } = opened(cards).view(chosen({ fresh: 9 }), morning(on))
    expect(queue.map((one) => one.card)).toEqual([idOf(2), idOf(3), idOf(1)])
  })
  it('stands by topic', () => {
    const cards = [card(1, { topic: 'names-1' }), card(2, { topic: 'names-1' }), card(3)]
    const { topics } = opened(cards, [answered(1, [2, 3])]).view(chosen({ fresh: 9 }), morning(on))
    expect(topics).toEqual([
      { cards: 1, begun: 0, due: 1, today: 0 },
      { topic: 'names-1', cards: 2, begun: 1, due: 1, today: expect.any(Number) as number },
    ])
    expect(topics[1]!.today).toBeGreaterThan(0.5)
  })
  it('weighs cards by the marks of their topics where time is short', () => {
    // The day before the exam.
    const cards = [card(1, { topic: 'ledgers-1' }), card(2, { topic: 'names-1' })]
    const answers = [answered(1, [30, 3]), answered(2, [30, 3])]
    const late = morning('2031-05-23')
    const heavy = gardenRecord()
    const names = heavy.exam.topics.map((topic) =>
      topic.id === 'names-1' ? { ...topic, share: 0.9 } : topic,
    )
    const order = (exam: typeof heavy.exam) =>
      opened(cards, answers)
        .view({ ...heavy, exam }, late)
        .queue.map((one) => one.card)
    expect(order({ ...heavy.exam, topics: names })[0]).toBe(idOf(2))
  })
  it('is nothing on the exam day and after it', () => {
    const deck = opened(many(9), [answered(1, [20, 3])])
    expect(deck.view(record, morning('2031-05-23')).queue).not.toEqual([])
    expect(deck.view(record, morning('2031-05-24')).queue).toEqual([])
    expect(deck.season(record, morning('2031-05-24')).days).toEqual([])
  })
  it('is the same after changes as for a deck opened whole', () => {
    const answers = fc.array(fc.tuple(fc.integer({ min: 0, max: 60 }), fc.integer({ min: 1, max: 4 })), {
      minLength: 1,
      maxLength: 6,
    })
    fc.assert(
      fc.property(
        fc.array(answers, { minLength: 1, maxLength: 12 }),
        fc.integer({ min: 1, max: 12 }),
        (all, cut) => {
          const histories = all.map((own, at) =>
            answered(at + 1, ...own.sort((one, two) => two[0] - one[0]).map((one): [number, number] => one)),
          )
          const cards = many(14)
          const step = opened(cards.slice(0, 5), histories.slice(0, cut))
          step.change({ cards: cards.slice(3), histories: histories.slice(Math.max(0, cut - 2)) })
          step.change({ gone: [idOf(14)] })
          const whole = opened(cards.slice(0, 13), histories)
          expect(step.view(record, morning(on))).toEqual(whole.view(record, morning(on)))
        },
      ),
      { numRuns: 10 },
    )
  })
})

describe('the days until the exam', () => {
  const deck = opened(
    many(400),
    many(200).map((_, at) => answered(at + 1, [10 + (at % 50), 3], [5 + (at % 4), 1 + (at % 3)])),
  )
  it('never bring more than their minutes, nothing on days off, and nothing on the exam day', () => {
    const off = ['2031-03-08', '2031-03-09', '2031-04-01']
    for (const minutes of [3, 8, 25]) {
      const days = deck.season(
        chosen({ minutes }, { availability: { windows: [], daysOff: off } }),
        morning(on),
      ).days
      expect(days).toHaveLength(80)
      expect(days.at(-1)!.day).toBe(dayNumber('2031-05-23'))
      for (const { day, seconds } of days)
        expect(seconds).toBeLessThanOrEqual(off.includes(dateOf(day)) ? 0 : minutes * 60)
    }
  })
  it('spread what waits after an illness, and say when it is caught up', () => {
    const ill = opened(
      many(300),
      many(300).map((_, at) => answered(at + 1, [50 - (at % 20), 3])),
    )
    const { days, caughtUpOn } = ill.season(chosen({ minutes: 15, fresh: 0 }), morning(on))
    const view = ill.view(chosen({ minutes: 15, fresh: 0 }), morning(on))
    expect(view.fits).toBeLessThan(view.queue.length)
    expect(days[0]!.again).toBeLessThan(view.queue.length)
    expect(dayNumber(caughtUpOn!)).toBeGreaterThan(today)
  })
  it('bring back more with more minutes', () => {
    const [less, more] = [2, 20].map((minutes) => deck.season(record, morning(on), { minutes }).recalled)
    expect(more).toBeGreaterThan(less!)
    expect(more).toBeLessThanOrEqual(400)
  })
  it('take the new cards that are wished', () => {
    const { days, fresh } = deck.season(record, morning(on), { fresh: 3, minutes: 30 })
    expect(fresh).toBe(3)
    // In the last days they come where they pay.
    expect(days.slice(0, 10).every((one) => one.fresh <= 3)).toBe(true)
  })
  it('are ruled by the same policy all week, whatever is answered in it', () => {
    const { fresh } = deck.season(record, morning(on))
    const sunday = dateOf(mondayOf(today) + 6)
    const later = opened(
      many(400),
      many(200).map((_, at) =>
        answered(at + 1, [10 + (at % 50), 3], [5 + (at % 4), 1 + (at % 3)], [0, 1 + (at % 4)]),
      ),
    )
    expect(later.season(record, morning(sunday)).fresh).toBe(fresh)
  })
})

describe('what the planner expects of a deck', () => {
  it('is near what is played of it, and never above the cap', () => {
    const things = (cards: Card[], histories: CardHistory[]) => {
      const answers = new Map(histories.map((one) => [one.card, one.answers]))
      return cards.map((one) => countedCard(one, answers.get(one.id)))
    }
    const later = (n: number) =>
      answered(n, [60 - (n % 30), 3], [30 - (n % 20), 3], [9 - (n % 7), 2 + (n % 3)])
    const decks: [number, number][] = [
      [60, 0],
      [60, 60],
      [300, 0],
      [300, 150],
      [300, 300],
    ]
    for (const [count, begun] of decks) {
      const histories = many(begun).map((_, at) => later(at + 1))
      const { load } = recalledFrom(nothingRecalled, things(many(count), histories))
      const { days } = opened(many(count), histories).season(chosen({ minutes: 30 }), morning(on))
      const played = days.reduce((sum, { seconds }) => sum + seconds, 0) / 60 / days.length
      const expected = minutesADay(load, days.length, 30)
      expect(expected).toBeGreaterThan(played / 2)
      expect(expected).toBeLessThan(played * 2)
      expect(minutesADay(load, days.length, 1)).toBeLessThanOrEqual(1)
    }
  })
})
