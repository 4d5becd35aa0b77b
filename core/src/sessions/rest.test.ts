import { PlanSession } from '@climber/contract'
import { materialDone, restKey, restOf, restsOpen, restSession } from './rest'

const session = (more: object): PlanSession =>
  PlanSession.parse({
    id: 'study.names-1.3',
    date: '2031-03-05',
    start: '18:00',
    minutes: 60,
    kind: 'learn',
    topics: ['names-1'],
    status: 'done',
    minutesDone: 20,
    ...more,
  })
const book = { id: 'book', text: 'The book, Names: pages 11 to 40', from: 10, pages: 30 }

describe('the rest of a session', () => {
  it('is what was planned and not done, of study and reviews that are not under the clock', () => {
    expect(restOf(session({}))).toBe(40)
    expect(restOf(session({ minutesDone: 55 }))).toBe(0)
    expect(restOf(session({ minutesDone: 90 }))).toBe(0)
    expect(restOf(session({ status: 'planned', minutesDone: undefined }))).toBe(0)
    expect(restOf(session({ timed: { items: 15, seconds: 1200 } }))).toBe(0)
    expect(restOf(session({ kind: 'test', form: 'one' }))).toBe(0)
    expect(restOf(session({ kind: 'errand', purpose: 'kit', topics: undefined }))).toBe(0)
    expect(restOf(session({ kind: 'review', form: 'one', of: 'test.one.1' }))).toBe(40)
  })
  it('goes on where the reading stopped, and no page is read twice or left out', () => {
    const half = session({ material: book, restMinutes: 40 })
    const read = materialDone(half)!
    const rest = restSession(half, 'study.names-1.9')
    expect(read).toMatchObject({ from: 10, pages: 10, text: 'The book, Names: pages 11 to 20' })
    expect(rest).toMatchObject({
      minutes: 40,
      status: 'planned',
      rest: { of: half.id, on: half.date },
      material: { from: 20, pages: 20, text: 'The book, Names: pages 21 to 40' },
    })
    expect(rest).not.toHaveProperty('minutesDone')
    expect(rest).not.toHaveProperty('restMinutes')
    // Without a rest that was asked for, the session is over, in however many minutes.
    expect(materialDone(session({ material: book }))).toEqual(book)
  })
  it('of questions is those that were not come to', () => {
    const half = session({
      restMinutes: 40,
      material: { id: 'bank', text: '30 questions from the bank', questions: 30 },
    })
    expect(materialDone(half)).toMatchObject({ questions: 10, text: '10 questions from the bank' })
    expect(restSession(half, 'x').kind === 'learn' && restSession(half, 'x')).toMatchObject({
      material: { questions: 20, text: '20 questions from the bank' },
    })
  })
  it('is no shorter than any session', () => {
    expect(restSession(session({ minutesDone: 48, restMinutes: 12 }), 'x').minutes).toBe(25)
  })
  it('waits until a session has it, for two weeks', () => {
    const half = session({ restMinutes: 40 })
    expect(restsOpen([half], '2031-03-06')).toEqual([half])
    expect(restsOpen([half], '2031-03-20')).toEqual([])
    expect(restsOpen([half, restSession(half, 'study.names-1.9')], '2031-03-06')).toEqual([])
    expect(restsOpen([session({})], '2031-03-06')).toEqual([])
    expect(restKey(half)).toBe('study.names-1')
  })
})
