import type { RecallAnswer, StoredCard } from '@climber/contract'
import { dayNumber } from '@climber/core'
import { alsoChanged, type Entry, leaves, lanes, onVersion, over, versionIn } from '../src/outbox/entry'
import { confirmedDeck, type StoredDeck, withWaitingCards } from '../src/outbox/recall'
import type { Settled } from '../src/outbox/outbox'

const candidateId = '5f0c9a00-0000-4000-8000-000000000009'
const idOf = (n: number): string => `00000000-0000-4000-8000-${String(n).padStart(12, '0')}`
const card = (n: number, version = 1): StoredCard =>
  ({ id: idOf(n), kind: 'card', front: `Bed ${n}`, back: `Row ${n}`, version }) as StoredCard
const answer = (n: number, of: number, more: Partial<RecallAnswer> = {}): RecallAnswer => ({
  id: idOf(1000 + n),
  card: idOf(of),
  on: '2030-01-15',
  at: `2030-01-15T08:00:${String(n % 60).padStart(2, '0')}.000Z`,
  grade: 3,
  seconds: 6,
  ...more,
})
const day = dayNumber('2030-01-15')
const entry = (route: 'saveCards' | 'answerCards', body: object): Entry =>
  ({
    order: 1,
    request: 'r',
    user: 'u',
    lane: 'l',
    about: '',
    held: false,
    tries: 0,
    ready: 0,
    route,
    params: { candidateId },
    body,
  }) as Entry
const answering = (...answers: RecallAnswer[]): Entry => entry('answerCards', { answers })
const saving = (card: StoredCard, version: number): Entry =>
  entry('saveCards', { cards: [{ card, version }], gone: [] })
const settled = (route: 'saveCards' | 'answerCards', answer: object, body: object = {}): Settled =>
  ({ request: 'r', lane: 'l', again: false, route, params: { candidateId }, body, answer }) as Settled
const deck: StoredDeck = {
  cards: [card(1), card(2)],
  histories: [{ card: idOf(1), answers: [[day - 3, 3, 8]] }],
  recent: [],
}
const gradesOf = ({ histories }: StoredDeck, n: number) =>
  histories.find((one) => one.card === idOf(n))?.answers.map(([, grade]) => grade)

describe('cards that wait to be sent', () => {
  it('show at once, the newest of each, and those that are deleted no more', () => {
    const changed = { ...card(1), front: 'Old names' } as StoredCard
    const shown = withWaitingCards(deck, [
      saving(card(1), 1),
      saving(changed, 1),
      saving(card(3, 0), 0),
      entry('saveCards', { cards: [], gone: [{ id: idOf(2), version: 1 }] }),
    ])
    expect(shown.cards).toEqual([changed, card(3, 0)])
  })
  it('come back where they are written after they were deleted', () => {
    const gone = entry('saveCards', { cards: [], gone: [{ id: idOf(2), version: 1 }] })
    expect(withWaitingCards(deck, [gone, saving(card(2), 1)]).cards).toHaveLength(2)
  })
  it('count their answers once, also where the server has them already', () => {
    const waiting = [answering(answer(1, 1), answer(2, 2))]
    expect(gradesOf(withWaitingCards(deck, waiting), 1)).toEqual([3, 3])
    const known = confirmedDeck(
      deck,
      settled(
        'answerCards',
        {
          histories: [
            {
              card: idOf(1),
              answers: [
                [day - 3, 3, 8],
                [day, 3, 6],
              ],
            },
          ],
        },
        { answers: [answer(1, 1)] },
      ),
    )
    expect(gradesOf(withWaitingCards(known, waiting), 1)).toEqual([3, 3])
    expect(gradesOf(withWaitingCards(known, waiting), 2)).toEqual([3])
  })
  it('lose the answer that is taken back, wherever it is by now', () => {
    const back = answer(1, 1, { undone: true })
    expect(gradesOf(withWaitingCards(deck, [answering(back)]), 1)).toEqual([3])
    const known: StoredDeck = {
      ...deck,
      histories: [
        {
          card: idOf(1),
          answers: [
            [day - 3, 3, 8],
            [day, 3, 6],
          ],
        },
      ],
      recent: [back.id],
    }
    expect(gradesOf(withWaitingCards(known, [answering(back)]), 1)).toEqual([3])
  })
  it('stand in the order of their days, whatever comes later', () => {
    const shown = withWaitingCards(deck, [answering(answer(1, 1, { on: '2030-01-10', grade: 1 }))])
    expect(gradesOf(shown, 1)).toEqual([1, 3])
  })
})

describe('what the server confirmed of cards', () => {
  it('takes the place of what was known, unless it is older', () => {
    const newer = { ...card(1, 4), front: 'Newer' } as StoredCard
    const now = confirmedDeck(deck, settled('saveCards', { saved: [newer], gone: [idOf(2)], conflicts: [] }))
    expect(now.cards).toEqual([newer])
    const again = confirmedDeck(now, settled('saveCards', { saved: [card(1, 3)], gone: [], conflicts: [] }))
    expect(again.cards).toEqual([newer])
  })
  it('is nothing for a deck where it is of something else', () => {
    expect(confirmedDeck(deck, { ...settled('saveCards', {}), route: 'noteItem' } as Settled)).toBe(deck)
  })
})

describe('requests about cards', () => {
  it('join answers that were not sent, each once and as it was said last, as many as fit', () => {
    const joined = over(
      answering(answer(1, 1), answer(2, 2)),
      answering(answer(2, 2, { undone: true }), answer(3, 3)),
    )
    expect(
      (joined?.body as { answers: RecallAnswer[] }).answers.map(({ id, undone }) => [id, undone]),
    ).toEqual([
      [idOf(1001), undefined],
      [idOf(1002), true],
      [idOf(1003), undefined],
    ])
    const many = answering(...Array.from({ length: 500 }, (_, at) => answer(at, at)))
    expect(over(many, answering(answer(900, 1)))).toBeUndefined()
  })
  it('go on from the version that the one before left', () => {
    const waiting = saving(card(1), 0)
    expect(leaves(waiting, { saved: [card(1, 5)], gone: [], conflicts: [] })).toEqual({ version: 5 })
    expect(versionIn(onVersion(waiting, 5))).toBe(5)
    const gone = entry('saveCards', { cards: [], gone: [{ id: idOf(1), version: 2 }] })
    expect(versionIn(onVersion(gone, 7))).toBe(7)
    expect(leaves(gone, { saved: [], gone: [idOf(1)], conflicts: [] })).toEqual({ version: 0 })
  })
  it('leave the cards of a table new, and tell what waits behind each of their versions', () => {
    const table = entry('saveCards', {
      cards: [1, 2].map((n) => ({ card: card(n, 0), version: 0 })),
      gone: [],
    })
    expect(onVersion(table, 9)).toEqual(table)
    expect(alsoChanged(table, { saved: [card(1, 1), card(2, 1)], gone: [], conflicts: [] })).toEqual([
      { lane: lanes.card(candidateId, idOf(1)), version: 1 },
      { lane: lanes.card(candidateId, idOf(2)), version: 1 },
    ])
  })
})
