import { Card, type FormItem } from '@climber/contract'
import fc from 'fast-check'
import { cardFromItem, loosenedItem } from './fromItem'
import { drawOf, readQuestion } from './numbers'

const source = {
  attempt: '00000000-0000-4000-8000-000000000001',
  item: 12,
  topic: 'beds',
  kind: 'choice' as const,
  key: 'B',
  title: 'Item 12 of Board paper 2',
}
const id = '00000000-0000-4000-8000-000000000002'

describe('a missed item as a card', () => {
  it('has its text and options before, and the key with its words behind', () => {
    const text = {
      text: 'Which bed floods first?',
      options: ['The upper', 'The lower', 'Neither'],
    } as FormItem
    const card = cardFromItem({ ...source, text, next: 'draw the slope' })
    expect(card).toMatchObject({ kind: 'card', topic: 'beds', of: { attempt: source.attempt, item: 12 } })
    expect(card.front).toBe('Which bed floods first?\n\n- A: The upper\n- B: The lower\n- C: Neither')
    expect(card.back).toBe('B: The lower\n\nNext time I draw the slope')
  })
  it('says which item it is where its text is not there', () => {
    const card = cardFromItem({ ...source, place: 'Drainage, pages 40 to 62' })
    expect(card.front).toBe('Item 12 of Board paper 2\n\nDrainage, pages 40 to 62')
    expect(card.back).toBe('B')
  })
  it('says where to look where nobody knows its key', () => {
    expect(cardFromItem({ ...source, key: '', place: 'Drainage' }).back).toBe('Look it up: Drainage')
    expect(cardFromItem({ ...source, key: '' }).back).toBe('Look it up.')
  })
  it('shows what earns the marks of a written one', () => {
    const text = { text: 'Why?', criteria: [{ text: 'names the slope', marks: 2 }] } as FormItem
    expect(cardFromItem({ ...source, kind: 'written', key: '', text }).back).toBe('- 2: names the slope')
  })
  it('is a card that can be kept, however long its texts are', () => {
    fc.assert(
      fc.property(fc.string({ maxLength: 9000 }), fc.string({ maxLength: 60 }), (words, key) => {
        const text = { text: words } as FormItem
        const made = { ...cardFromItem({ ...source, key, text }), id }
        expect(Card.safeParse(made).success || !made.front.trim() || !made.back.trim()).toBe(true)
      }),
    )
  })
})

describe('numbers loosened', () => {
  it('names each number, around what it was, in steps of its own', () => {
    expect(loosenedItem('A lamp of 60 W burns 12 h; a kWh costs 0.35.')).toEqual({
      text: 'A lamp of {a} W burns {b} h; a kWh costs {c}.',
      numbers: [
        { name: 'a', low: 40, high: 80, step: 10 },
        { name: 'b', low: 8, high: 16, step: 1 },
        { name: 'c', low: 0.25, high: 0.45, step: 0.05 },
      ],
    })
  })
  it('leaves times, names and formulas as they are', () => {
    expect(loosenedItem('High water is at 06:10 at station D2, $x^2$ and bed 1.2.3')).toBeUndefined()
    expect(loosenedItem(undefined)).toBeUndefined()
  })
  it('can be drawn once it has a formula', () => {
    const number = fc.oneof(
      fc.integer({ min: 1, max: 90_000 }),
      fc.integer({ min: 1, max: 9999 }).map((n) => n / 100),
    )
    fc.assert(
      fc.property(
        fc.array(number, { minLength: 1, maxLength: 8 }),
        fc.integer({ min: 0, max: 1e6 }),
        (all, seed) => {
          const found = loosenedItem(`Beds of ${all.join(' m and ')} m. How long together?`)!
          expect(found.numbers).toHaveLength(all.length)
          found.numbers.forEach(({ low, high }, at) => {
            expect(low).toBeLessThanOrEqual(all[at]!)
            expect(high).toBeGreaterThanOrEqual(all[at]!)
          })
          const formula = found.numbers.map(({ name }) => name).join(' + ')
          const read = readQuestion({ ...found, formula, tolerance: { kind: 'absolute', within: 0 } })
          expect('problems' in read ? read.problems : []).toEqual([])
          if (!('problems' in read)) expect(drawOf(read, seed)).toBeDefined()
        },
      ),
    )
  })
})
