import fc from 'fast-check'
import { Card, type DrawnNumber, type Tolerance } from '@climber/contract'
import { readCards, writeCards } from './cards'
import { writeTable } from './cells'

const exam = {
  topics: [
    { id: 'tides', title: 'Tides, heights', section: 'streams', share: 0.5, prerequisites: [] },
    { id: 'lights', title: 'Lights', section: 'signals', share: 0.5, prerequisites: [] },
  ],
}
let count = 0
const newId = () => `00000000-0000-4000-8000-${String(++count).padStart(12, '0')}`
const read = (text: string) => readCards(exam, text, newId, (made) => Card.safeParse(made))
const plain = (cards: Card[]) => cards.map(({ id: _, ...card }) => card)

const text = fc
  .string({ unit: fc.constantFrom(...'ab =+-@\'",;\n$\\{}%é'), minLength: 1, maxLength: 20 })
  .map((one) => one.replace(/[{}]/g, '').trim())
  .filter(Boolean)
const line = text.map((one) => one.replace(/[\n;]|=>/g, ' ').trim()).filter(Boolean)
const base = fc.record(
  { topic: fc.constantFrom('tides', 'lights'), suspended: fc.constant(true) },
  { requiredKeys: [] },
)
const number = fc.record({
  low: fc.constantFrom(-3, 0, 0.25, 1e-7, 40),
  span: fc.integer({ min: 1, max: 9 }),
  step: fc.constantFrom(0.05, 0.5, 1),
})
const tolerance: fc.Arbitrary<Tolerance> = fc.oneof(
  fc.record({
    kind: fc.constant('absolute' as const),
    within: fc.double({ min: 0, max: 9, noNaN: true }).map((one) => one + 0),
  }),
  fc.record({
    kind: fc.constant('relative' as const),
    within: fc.double({ min: 0, max: 1, noNaN: true }).map((one) => one + 0),
  }),
  fc.record({ kind: fc.constant('figures' as const), figures: fc.integer({ min: 1, max: 12 }) }),
)
const cards: fc.Arbitrary<Card> = fc
  .oneof(
    fc.tuple(base, fc.record({ kind: fc.constant('card' as const), front: text, back: text })),
    fc.tuple(
      base,
      fc.record(
        {
          kind: fc.constant('place' as const),
          front: text,
          section: line,
          exact: line,
          seconds: fc.integer({ min: 1, max: 99 }),
        },
        { requiredKeys: ['kind', 'front', 'section'] },
      ),
    ),
    fc.tuple(
      base,
      fc.record({
        kind: fc.constant('numbers' as const),
        question: fc
          .record({ text, number, tolerance, unit: line, slip: line, worked: text, more: fc.boolean() })
          .map(({ number: { low, span, step }, slip, more, unit, worked, ...rest }) => {
            const numbers: DrawnNumber[] = [{ name: 'p', low, high: low + span, step }]
            return {
              text: rest.text,
              numbers,
              formula: '-p * 2',
              tolerance: rest.tolerance,
              ...(more && {
                unit: unit.slice(0, 20).trim(),
                slips: [{ formula: 'p > 1 ? p : 2', name: slip }],
                worked,
              }),
            }
          }),
      }),
    ),
  )
  .map(([own, card]) => ({ id: newId(), ...own, ...card }) as Card)

test('what is written is read as it was, and written again it is the same to the byte', () => {
  fc.assert(
    fc.property(fc.array(cards, { maxLength: 12 }), (deck) => {
      const written = writeCards(exam, deck)
      const again = read(written)
      expect(again.problems).toEqual([])
      expect(plain(again.cards)).toEqual(plain(deck.map((card) => Card.parse(card))))
      expect(writeCards(exam, again.cards)).toBe(written)
    }),
    { numRuns: 300 },
  )
})

test('a table as people type it: kinds show, titles of topics are known', () => {
  const table = [
    'Front,Back,Topic,Section,Exact,Formula,Numbers,Tolerance,Slips',
    'Neaps,the smallest range,lights,,,,,,',
    'Buoyage,,,Chapter 4,Table 4.2,,,,',
    '{p} W for {h} h,,"tides, heights",,,p*h/1000,"p 40 to 100 step 5; h: 6..14",2 %,p*h => thousands forgotten',
  ].join('\n')
  expect(plain(read(table).cards)).toEqual([
    { kind: 'card', front: 'Neaps', back: 'the smallest range', topic: 'lights' },
    { kind: 'place', front: 'Buoyage', section: 'Chapter 4', exact: 'Table 4.2' },
    {
      kind: 'numbers',
      topic: 'tides',
      question: {
        text: '{p} W for {h} h',
        formula: 'p*h/1000',
        numbers: [
          { name: 'p', low: 40, high: 100, step: 5 },
          { name: 'h', low: 6, high: 14, step: 1 },
        ],
        tolerance: { kind: 'relative', within: 0.02 },
        slips: [{ formula: 'p*h', name: 'thousands forgotten' }],
      },
    },
  ])
})

test('5,000 rows are read with every problem at its row and column, and the others are there', () => {
  const faults: [number, string[], string, RegExp][] = [
    [7, ['card', 'tides', 'front', ''], 'back', /write the back/],
    [70, ['card', 'knots', 'front', 'back'], 'topic', /no topic "knots"/],
    [700, ['story', '', 'front', 'back'], 'kind', /no kind/],
    [1700, ['place', '', 'front', ''], 'section', /./],
    [2700, ['numbers', '', '{q}', '', '', '', '', 'p', 'p 1..2'], 'front', /\{q\} is none/],
    [3700, ['numbers', '', '{p}', '', '', '', '', 'p(', 'p 1..2'], 'formula', /cannot be read/],
    [4700, ['numbers', '', '{p}', '', '', '', '', 'p', 'p: one to two'], 'numbers', /write such as/],
    [4800, ['numbers', '', '{p}', '', '', '', '', 'p', 'p 5..2'], 'numbers', /./],
    [4900, ['numbers', '', '{p}', '', '', '', '', 'p', 'p 1..2', '', 'a bit'], 'tolerance', /no tolerance/],
    [5000, ['place', '', 'front', '', 'Chapter 1', '', 'soon'], 'seconds', /no number/],
  ]
  const rows = Array.from({ length: 5000 }, (_, at) => ['card', 'Lights', `front ${at}`, `back, "${at}"`])
  for (const [row, cells] of faults) rows[row - 2] = cells
  const columns = [
    'kind',
    'topic',
    'front',
    'back',
    'section',
    'exact',
    'seconds',
    'formula',
    'numbers',
    'unit',
    'tolerance',
  ]
  const { cards: found, problems } = read(writeTable(columns, rows))
  expect(found).toHaveLength(5000 - faults.length)
  expect(problems.map(({ row, column }) => [row, column])).toEqual(
    faults.map(([row, , column]) => [row, column]),
  )
  faults.forEach(([, , , message], at) => expect(problems[at]!.message).toMatch(message))
})

test('what no table is, and what has no front', () => {
  expect(read('').problems).toEqual([{ row: 1, message: 'the table is empty' }])
  expect(read('word,meaning\na,b').problems[0]!.message).toContain('"front"')
  expect(read('front,back\n,b').problems).toEqual([{ row: 2, column: 'front', message: 'write the front' }])
})
test('takes what was pasted without heads: front and back, or the topic before them', () => {
  const front = (text: string) =>
    read(text).cards.map((card) => card.kind === 'card' && [card.topic, card.front, card.back])
  expect(front('spring tides\tafter full moon\nneap tides\tat the quarters\n')).toEqual([
    [undefined, 'spring tides', 'after full moon'],
    [undefined, 'neap tides', 'at the quarters'],
  ])
  expect(front('a; b; and c')).toEqual([])
  expect(read('one\ttwo\n\tlacks its front').problems).toMatchObject([{ row: 2, column: 'front' }])
})
