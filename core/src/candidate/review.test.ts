import {
  type Attempt,
  type Cause,
  type ItemResponse,
  noteWith,
  nothingRecalled,
  type Recalled,
  type RecalledDay,
  type ReviewNote,
} from '@climber/contract'
import { gardenExam, gardenRecord, morning, practice } from '../../test/fixture'
import { topicCounts } from '../attempts/topicCounts'
import type { CandidateRecord } from './moment'
import { itemName } from '../recall/stock'
import { dayNumber } from '../time/day'
import { againView, queueFrom } from './again'
import { assess } from './assessment'
import { planInput } from './planInput'
import { previewPlan } from './preview'
import { OpenRecall } from './recall'
import { replan } from './replan'
import { fromReviews, notebook, reviewView } from './review'

const now = morning('2031-04-07')
const topics = gardenExam.topics.filter(({ section }) => section === 'names')
/** Answers to the 60 items of the first section: those listed are wrong, the rest right; topics take turns. */
const answers = (
  wrong: number[],
  more: (item: number) => Partial<ItemResponse> = () => ({}),
): ItemResponse[] =>
  Array.from({ length: 60 }, (_, at) => ({
    item: at + 1,
    answer: wrong.includes(at + 1) ? 'A' : 'B',
    key: 'B',
    topic: topics[at % topics.length]!.id,
    seconds: 75,
    ...more(at + 1),
  }))
const misses = [2, 4, 8, 14, 20, 26, 32, 33, 40, 41, 50, 51, 52, 60]
const board = (n: number, date: string, wrong: number[], more: Partial<Attempt> = {}): Attempt => ({
  ...practice(n, date, {
    'names-items': { right: 60 - wrong.length, wrong: wrong.length, blank: 0, notReached: 0 },
    'ledgers-items': { right: 0, wrong: 0, blank: 30, notReached: 30 },
  }),
  form: `board-${n}`,
  items: answers(wrong),
  ...more,
})
const test = board(1, '2031-04-05', misses)
const note = (item: number, more: Partial<ReviewNote>): ReviewNote => ({ attempt: test.id, item, ...more })
const reviewed = (cause: Cause = 'content', day = '2031-04-06') =>
  misses.map((item) => note(item, { cause, reviewedOn: day, rework: { answer: 'A' }, seconds: 120 }))
const recordWith = (review: ReviewNote[], attempts: Attempt[] = [test]): CandidateRecord => {
  const base = gardenRecord()
  return { ...base, attempts: [...base.attempts, ...attempts], review }
}
const planned = (record: CandidateRecord): CandidateRecord => ({
  ...record,
  plan: previewPlan(record, now, 1)!.plan,
})

describe('a review', () => {
  it('lists what is worth a look in the order that pays, and counts what was done', () => {
    const record = recordWith([
      note(2, { cause: 'misread', reviewedOn: '2031-04-06', rework: { answer: 'B' } }),
    ])
    const view = reviewView(record, now, test.id)!
    expect(view).toMatchObject({ worth: 14, done: 1, caused: 1 })
    expect(view.lost).toBeCloseTo(14 * (4 / 3), 9)
    expect(view.items.map(({ item }) => item).sort((a, b) => a - b)).toEqual(misses)
    const yields = view.items.map((item) => item.yield)
    expect([...yields].sort((a, b) => b - a)).toEqual(yields)
    expect(view.others).toHaveLength(46)
    expect(view.reworked.pressure).toEqual([2])
    expect(reviewView(record, now, '00000000-0000-4000-8000-00000000ffff')).toBeUndefined()
  })
  it('of a test of which only counts are known there are the items that somebody noted', () => {
    const record = recordWith(
      [note(7, { cause: 'careless', topic: 'names-2' })],
      [{ ...test, items: undefined }],
    )
    const view = reviewView(record, now, test.id)!
    expect(view.items).toMatchObject([{ item: 7, topic: 'names-2', outcome: 'wrong' }])
  })
  it('opens from a set with numbers of its own, too', () => {
    const set: Attempt = {
      ...practice(9, '2031-04-06', {}),
      kind: 'set',
      items: [
        { item: 1, answer: 'A', key: 'C', topic: 'ledgers-1' },
        { item: 2, answer: '12.5', key: '12.50', topic: 'ledgers-1' },
        { item: 3, right: null, topic: 'ledgers-2' },
      ],
    }
    const view = reviewView(recordWith([], [set]), now, set.id)!
    expect(view.items.map(({ item, outcome }) => [item, outcome])).toEqual(
      expect.arrayContaining([
        [1, 'wrong'],
        [3, 'blank'],
      ]),
    )
    expect(view.items).toHaveLength(2)
  })
  it('minutes of the next review are learned from the log', () => {
    const slow = fromReviews(assess(recordWith(reviewed()), now)).reviewRatio!
    const quick = fromReviews(
      assess(recordWith(reviewed().map((one) => noteWith(one, { seconds: 30 }))), now),
    ).reviewRatio!
    expect(quick).toBeLessThan(slow)
    expect(slow).toBeLessThan(1.5)
    const untimed = reviewed().map((one) => noteWith(one, { seconds: null }))
    expect(fromReviews(assess(recordWith(untimed), now)).reviewRatio).toBeUndefined()
    const input = (record: CandidateRecord) => {
      const assessment = assess(record, now)
      return planInput(assessment, assessment.sitting!, 1).settings.reviewRatio
    }
    expect(input(recordWith(untimed))).toBe(1.5)
    expect(input(recordWith(reviewed()))).toBe(slow)
  })
})

describe('causes lead somewhere', () => {
  it('the plan that is made takes the work in by itself, once', () => {
    const plan = previewPlan(recordWith(reviewed()), now, 1)!.plan
    const own = plan.sessions.filter((session) => 'remedy' in session && session.remedy)
    expect(own.length).toBeGreaterThan(1)
    for (const session of own) {
      expect(session.date >= '2031-04-07' && session.date <= '2031-04-21').toBe(true)
      expect(session).toMatchObject({ remedy: { attempt: test.id, aim: 'again' } })
    }
    const again = replan({ ...recordWith(reviewed()), plan }, now, 1)!
    expect(again.diff.added).toEqual([])
    expect(again.diff.kept).toBe(plan.sessions.filter(({ status }) => status === 'planned').length)
  })
  it('a plan that stands is mended with it, as a diff with the odds before and after', () => {
    const before = planned(recordWith([]))
    const { diff, before: odds, after } = replan({ ...before, review: reviewed('misread') }, now, 1)!
    expect(diff.added.length).toBeGreaterThan(0)
    for (const session of diff.added)
      expect(session).toMatchObject({ kind: 'drill', remedy: { aim: 'reading', misses: 14 } })
    // Its 14 misses are worth an hour at most, in one piece or two.
    expect(diff.added.reduce((sum, { minutes }) => sum + minutes, 0)).toBeLessThanOrEqual(60)
    expect(odds!.odds).toBeDefined()
    expect(after!.odds).toBeDefined()
    expect(before.plan!.sessions.some((session) => 'remedy' in session)).toBe(false)
  })
  it('what was skipped stays out, and a review of long ago asks for nothing', () => {
    const before = planned(recordWith(reviewed('misread')))
    const skipped = before.plan!.sessions.map((session) =>
      'remedy' in session && session.remedy ? { ...session, status: 'skipped' as const } : session,
    )
    const { diff } = replan({ ...before, plan: { ...before.plan!, sessions: skipped } }, now, 1)!
    expect(diff.added).toEqual([])
    const later = morning('2031-05-12')
    expect(fromReviews(assess(recordWith(reviewed()), later)).remedies).toEqual([])
  })
})

describe('what was missed comes back', () => {
  const retest = (date: string, wrong: (item: number) => boolean): Attempt => {
    const due = againView(recordWith(reviewed()), morning('2031-04-13'))
    const items: ItemResponse[] = due.items.map(({ id, item, topic, key }, at) => ({
      item: at + 1,
      ...(id !== undefined && { id }),
      answer: wrong(item) ? 'A' : key,
      key,
      ...(topic !== undefined && { topic }),
    }))
    const counts = { groups: {}, topics: topicCounts(items) }
    return { ...practice(50, date, {}), kind: 'retest', of: test.id, counts, items }
  }
  it('a week after its review, not before, and only once it was reviewed', () => {
    const record = recordWith(reviewed())
    expect(againView(record, morning('2031-04-12'))).toMatchObject({ due: 0, waiting: 14, items: [] })
    expect(againView(record, morning('2031-04-13')).items).toHaveLength(14)
    expect(againView(recordWith([]), morning('2031-04-13')).waiting).toBe(0)
    const topic = topics[1]
    const set = againView(record, morning('2031-04-08'), { topic: topic!.id })
    expect(set.items.length).toBeGreaterThan(0)
    expect(set.items.every((item) => item.topic === topic!.id)).toBe(true)
  })
  it('what is right now leaves; what was missed again is asked by recall from then on', () => {
    const record = recordWith(reviewed(), [test, retest('2031-04-13', (item) => item <= 8)])
    const after = againView(record, morning('2031-04-14'))
    expect(after).toMatchObject({ due: 0, waiting: 3, queued: 3 })
    expect(againView(record, morning('2031-05-20')).items).toEqual([])
    // Of a topic all that is still missed is a set, whoever else asks it.
    const set = againView(record, morning('2031-04-14'), { topic: topics[1]!.id })
    expect(set.items.map(({ item, misses: times }) => [item, times]).sort()).toEqual([
      [2, 2],
      [8, 2],
    ])
    const items = reviewView(record, morning('2031-04-14'), test.id)!.items
    expect(items.find(({ item }) => item === 2)!.again).toEqual([{ date: '2031-04-13', right: false }])
    expect(items.find(({ item }) => item === 60)!.again).toEqual([{ date: '2031-04-13', right: true }])
  })
  it('the same item of the form, met in another sitting, is the same item', () => {
    const record = recordWith(reviewed(), [
      test,
      board(2, '2031-04-20', [2], { form: 'board-1', seen: true }),
    ])
    const { waiting, queued, topics: sets } = againView(record, morning('2031-05-01'))
    expect({ waiting, queued }).toEqual({ waiting: 1, queued: 1 })
    const [left, ...more] = againView(record, morning('2031-05-01'), { topic: sets[0]!.topic }).items
    expect(left).toMatchObject({ item: 2, misses: 2, attempt: test.id })
    expect(more).toEqual([])
  })
  it('a retest session takes up the misses of its own test', () => {
    const other = board(2, '2031-04-06', [1, 3])
    const also = [1, 3].map((item) => ({ attempt: other.id, item, reviewedOn: '2031-04-06' }))
    const base = recordWith([...reviewed(), ...also], [test, other])
    const session = {
      id: 'retest.board-2.1',
      kind: 'retest' as const,
      form: 'board-2',
      date: '2031-04-13',
      start: '18:00',
      minutes: 30,
      pinned: false,
      status: 'planned' as const,
    }
    const plan = { ...previewPlan(base, now, 1)!.plan, sessions: [session] }
    const view = againView({ ...base, plan }, morning('2031-04-13'), { session: session.id })
    expect(view.of).toBe(other.id)
    expect(view.items.map(({ item }) => item).sort()).toEqual([1, 3])
  })
  it('answers tell of the topic and of the forecast: right ones raise both, wrong ones lower them', () => {
    const at = morning('2031-04-14')
    const known = (attempts: Attempt[]) => {
      const assessment = assess(recordWith(reviewed(), attempts), at)
      return { topics: assessment.known.slice(0, topics.length) }
    }
    const none = known([test])
    const good = known([test, retest('2031-04-13', () => false)])
    const bad = known([test, retest('2031-04-13', () => true)])
    // Each topic that was met: of fourteen misses every one has some.
    const met = topics.map(({ id }) => misses.some((item) => topics[(item - 1) % topics.length]!.id === id))
    met.forEach((was, topic) => {
      if (!was) return
      expect(good.topics[topic]!).toBeGreaterThan(none.topics[topic]!)
      expect(bad.topics[topic]!).toBeLessThan(none.topics[topic]!)
    })
    const odds = (attempts: Attempt[]) => {
      const record = { ...recordWith(reviewed(), attempts) }
      return replan({ ...record, plan: previewPlan(recordWith(reviewed()), now, 1)!.plan }, at, 1)!.before!
        .forecast.mean
    }
    expect(odds([test, retest('2031-04-13', () => false)])).toBeGreaterThan(odds([test]))
    expect(odds([test, retest('2031-04-13', () => true)])).toBeLessThan(odds([test]))
  })
})

describe('missed items in recall', () => {
  const tried = (wrong: number[]): Attempt => {
    const items: ItemResponse[] = misses.map((item, at) => ({
      item: at + 1,
      id: `board-1/${item}`,
      answer: wrong.includes(item) ? 'A' : 'B',
      key: 'B',
      topic: topics[(item - 1) % topics.length]!.id,
      ...(item === 60 && { confidence: 'between two' as const }),
    }))
    return { ...practice(50, '2031-04-13', {}), kind: 'retest', of: test.id, items }
  }
  const name = (item: number) => itemName(test.id, item)
  const known = (record: CandidateRecord): CandidateRecord => {
    const own = againView(record, morning('2031-04-13')).items
    const ids = new Map(own.map(({ item, id }) => [item, id]))
    const retest = tried([2, 4])
    const items = retest.items!.map((one, at) => ({ ...one, id: ids.get(misses[at]!)! }))
    return { ...record, attempts: [...record.attempts, { ...retest, items }] }
  }
  const record = known(recordWith(reviewed()))
  const answered = (item: number, ...own: [string, number][]): Recalled => ({
    ...nothingRecalled,
    version: 1,
    items: [{ card: name(item), answers: own.map(([day, grade]) => [dayNumber(day), grade, 60]) }],
  })

  it('are those that were tried again since their review, with its answers', () => {
    expect(queueFrom(recordWith(reviewed()), morning('2031-04-20')).queued).toEqual([])
    const { queued, missed } = queueFrom(record, morning('2031-04-20'))
    expect(queued).toHaveLength(14)
    const before = new Map(queued.map((one) => [one.id, one.before]))
    const [reviewDay, retestDay] = [dayNumber('2031-04-06'), dayNumber('2031-04-13')]
    expect(before.get(name(2))).toEqual([
      [reviewDay, 1, 0],
      [retestDay, 1, 0],
    ])
    expect(before.get(name(8))![1]).toEqual([retestDay, 3, 0])
    expect(before.get(name(60))![1]).toEqual([retestDay, 2, 0])
    expect(missed.get(name(2))).toMatchObject({ item: 2, misses: 2, key: 'B' })
  })
  it('come in one queue with the cards, soon where they were missed again, and less often the longer they stay', () => {
    const deck = new OpenRecall()
    deck.open({ cards: [], histories: [] })
    const due = (day: string) => deck.view(record, morning(day)).queue.map((one) => one.card)
    expect(due('2031-04-13')).toEqual([])
    expect(due('2031-04-14')).toEqual([name(2), name(4)].sort())
    expect(new Set(due('2031-05-10'))).toEqual(new Set(misses.map(name)))
    const view = deck.view(record, morning('2031-04-14'))
    expect(view.items[name(2)]).toMatchObject({
      item: 2,
      title: expect.stringContaining('Board paper 1') as string,
    })
    // Answered well, it is not due the next day, nor is it new.
    deck.change({ histories: [{ card: name(2), answers: [[dayNumber('2031-04-14'), 3, 70]] }] })
    expect(due('2031-04-15')).not.toContain(name(2))
    expect(deck.view(record, morning('2031-04-14')).done).toEqual({ answers: 1, seconds: 70 })
    // The card that was made of one is asked in its place.
    const made = {
      id: '00000000-0000-4000-8000-0000000000c1',
      kind: 'card' as const,
      front: 'Tag 4',
      back: 'B',
      of: { attempt: test.id, item: 4 },
      suspended: true,
    }
    deck.change({ cards: [made] })
    expect(due('2031-04-15')).not.toContain(name(4))
  })
  it('that came back in recall are not missed any more, and those that did not are', () => {
    const waiting = (recalled: Recalled) => againView({ ...record, recalled }, morning('2031-05-01')).waiting
    // Two were missed again, one was right without being sure.
    expect(waiting(nothingRecalled)).toBe(3)
    expect(waiting(answered(2, ['2031-04-15', 3]))).toBe(2)
    expect(waiting(answered(2, ['2031-04-15', 2]))).toBe(3)
    expect(waiting(answered(8, ['2031-04-15', 1]))).toBe(4)
    // A later retest decides over an earlier answer from memory.
    expect(waiting(answered(2, ['2031-04-10', 3]))).toBe(3)
  })
  it('tell of their topics, as cards and questions do', () => {
    const at = morning('2031-05-01')
    const topic = topics[1]!.id
    const place = gardenExam.topics.findIndex(({ id }) => id === topic)
    const knownWith = (days: Partial<RecalledDay>[]) =>
      assess(
        {
          ...record,
          recalled: {
            ...nothingRecalled,
            version: 1,
            days: days.map((day) => ({
              topic,
              day: dayNumber('2031-04-20'),
              answers: 4,
              seconds: 300,
              ...day,
            })),
          },
        },
        at,
      )
    const none = knownWith([]).known[place]!
    const told = (day: Partial<RecalledDay>) => knownWith([day]).known[place]! - none
    expect(told({ numbers: [4, 4] })).toBeGreaterThan(0)
    expect(told({ numbers: [0, 4] })).toBeLessThan(0)
    // What could be guessed says less than what could not.
    expect(told({ items: [4, 4] })).toBeGreaterThan(0)
    expect(told({ items: [4, 4] })).toBeLessThan(told({ numbers: [4, 4] }))
    // What was known of them already is not told twice: it stands where it stood, however often it is asked.
    const again = (back: number, days: number) =>
      knownWith(
        Array.from({ length: days }, (_, at) => ({
          day: dayNumber('2031-04-15') + at,
          // Too short to keep it from fading: they tell nothing besides.
          ...(at && { seconds: 20 }),
          ...(!at && { numbers: [back, 8] as [number, number] }),
        })),
      ).known[place]!
    expect(again(8, 12)).toBe(again(8, 1))
    // What was lost and came back is as if it had never been lost.
    const lost = knownWith([
      { day: dayNumber('2031-04-15'), numbers: [8, 8] },
      { day: dayNumber('2031-04-17'), numbers: [-3, 0], seconds: 20 },
    ]).known[place]!
    const back = knownWith([
      { day: dayNumber('2031-04-15'), numbers: [8, 8] },
      { day: dayNumber('2031-04-17'), numbers: [-3, 0], seconds: 20 },
      { day: dayNumber('2031-04-19'), numbers: [3, 0], seconds: 20 },
    ]).known[place]!
    expect(lost).toBeCloseTo(again(5, 1), 2)
    expect(back).toBeCloseTo(again(8, 1), 2)
    // What one in four guesses right says nothing good.
    expect(told({ items: [1, 4] })).toBeLessThan(told({ numbers: [1, 4] }))
    expect(told({ cards: [4, 4] })).toBeGreaterThan(0)
    expect(told({ cards: [4, 4] })).toBeLessThan(told({ numbers: [4, 4] }) / 2)
    // Two minutes keep a topic from fading, less does not.
    const touches = (seconds: number) => knownWith([{ seconds, cards: [4, 4] }]).touches[place]!.length
    expect(touches(300)).toBe(touches(20) + 1)
    expect(knownWith([{ day: dayNumber('2031-05-02'), numbers: [4, 4] }]).known[place]).toBe(none)
    expect(knownWith([{ topic: 'of-another-exam', numbers: [4, 4] }]).known[place]).toBe(none)
  })
})

describe('the notebook', () => {
  it('has every note with its test, the causes over tests, and a line for everything that was sat', () => {
    const second = board(2, '2031-04-06', [1, 2, 3])
    const record = recordWith(
      [...reviewed(), { attempt: second.id, item: 1, cause: 'misread', next: 'read the tags twice' }],
      [test, second],
    )
    const book = notebook(record, now)
    expect(book.rows.map(({ id }) => id)).toEqual([second.id, test.id, record.attempts[0]!.id])
    expect(book.noted).toHaveLength(15)
    expect(book.noted[0]).toMatchObject({ item: 1, note: { next: 'read the tags twice' } })
    expect(book.causes.map(({ cause }) => cause)).toEqual(['content', 'misread'])
    expect(book.causes[0]!.trend!.says).toBe('falling')
  })
  it('of nothing there is nothing, and notes on what is gone are left alone', () => {
    const gone = { attempt: '00000000-0000-4000-8000-00000000ffff', item: 1, cause: 'guess' as const }
    const book = notebook(recordWith([gone], []), now)
    expect(book.noted).toEqual([])
    expect(book.causes).toEqual([])
  })
})
