import fc from 'fast-check'
import { diagnosticId, pathIn1, sessionFrom1, upgrade } from '../src/index'

type Json = Record<string, unknown>
const id = fc.uuid()
const topic = fc.constantFrom('lights', 'surge', 'eddies', 'anchorages')
const section = fc.constantFrom('streams-items', 'passage-items')
const counts = fc.record({ right: fc.nat(40), wrong: fc.nat(40), blank: fc.nat(9), notReached: fc.nat(3) })
const date = fc.integer({ min: 1, max: 28 }).map((day) => `2029-11-${String(day).padStart(2, '0')}`)
const optional = { requiredKeys: [] as never[] }
const response = fc.record({ item: fc.integer({ min: 1, max: 99 }), answer: fc.constantFrom('A', 'B', '') })
const test = fc.record({
  id,
  date,
  title: fc.string(),
  counts: fc.dictionary(section, counts),
  tide: fc.nat(),
})
const earlier = fc.record({ id, date, sections: fc.dictionary(section, counts), surprise: fc.string() })
const diagnosis = fc.record(
  {
    date,
    form: fc.constant('tidewise-1'),
    sections: fc.dictionary(section, counts),
    topics: fc.dictionary(topic, fc.record({ counts, rating: fc.constantFrom('weak', 'fair') }, optional)),
    responses: fc.array(response, { maxLength: 3 }),
    earlier: fc.array(earlier, { maxLength: 3 }),
    halfWeightDays: fc.integer({ min: 1, max: 400 }),
    swell: fc.string(),
  },
  optional,
)
const round = fc.record({
  id,
  date,
  section: fc.constant('streams'),
  group: section,
  items: fc.array(fc.record({ seconds: fc.nat(300), right: fc.boolean() }), { maxLength: 4 }),
})
const file = fc.record(
  {
    climber: fc.constant(1),
    exam: fc.constant({ title: 'Tidal Pilot' }),
    diagnosis,
    tests: fc.array(test, { maxLength: 4 }),
    drills: fc.record({ rounds: fc.array(round, { maxLength: 3 }) }),
    current: fc.string(),
  },
  { requiredKeys: ['climber', 'exam'] },
)
/** Every word and number in some JSON, as often as it is there. */
function leaves(value: unknown): string[] {
  if (typeof value === 'object' && value !== null) return Object.values(value).flatMap(leaves)
  return value === undefined ? [] : [JSON.stringify(value)]
}
const counted = (all: string[]) => {
  const found = new Map<string, number>()
  for (const one of all) found.set(one, (found.get(one) ?? 0) + 1)
  return found
}
const attemptsOf = (value: unknown) => ((value as Json)['attempts'] ?? []) as Json[]

describe('a file of version 1', () => {
  it('loses no word and no number on its way to version 2', () => {
    fc.assert(
      fc.property(file, (old) => {
        const now = counted(leaves(upgrade(old).file))
        for (const [leaf, times] of counted(leaves({ ...old, climber: undefined })))
          expect(now.get(leaf) ?? 0).toBeGreaterThanOrEqual(times)
      }),
    )
  })

  it('has an attempt for everything that was sat, and says where each stood', () => {
    fc.assert(
      fc.property(file, (old) => {
        const { file: now, came } = upgrade(old)
        const kinds = attemptsOf(now).map(({ kind }) => kind)
        expect(kinds.filter((kind) => kind === 'practice')).toHaveLength(old.tests?.length ?? 0)
        expect(kinds.filter((kind) => kind === 'earlier')).toHaveLength(old.diagnosis?.earlier?.length ?? 0)
        expect(kinds.filter((kind) => kind === 'drill')).toHaveLength(old.drills?.rounds.length ?? 0)
        expect(came).toHaveLength(kinds.length)
        attemptsOf(now).forEach((attempt, row) => {
          const stood = came[row]!.reduce<unknown>((at, key) => (at as Json)[key], old) as Json
          expect(attempt['id']).toBe(attempt['kind'] === 'diagnostic' ? diagnosticId : stood['id'])
        })
      }),
    )
  })

  it('is left alone where it is of version 2, and where it is no file', () => {
    fc.assert(
      fc.property(file, (old) => {
        const { file: now } = upgrade(old)
        expect(upgrade(now)).toEqual({ file: now, came: [] })
      }),
    )
    for (const none of [undefined, null, 7, 'text', [], {}, { climber: 3 }])
      expect(upgrade(none)).toEqual({ file: none, came: [] })
  })

  it('however broken, is never more than read', () => {
    fc.assert(
      fc.property(
        fc.dictionary(fc.constantFrom('diagnosis', 'tests', 'drills', 'plan', 'settings'), fc.jsonValue()),
        (parts) => void upgrade({ climber: 1, ...parts }),
      ),
    )
  })

  it('hears of its problems where they stand in it', () => {
    const came = [['diagnosis', 'earlier', 0], ['diagnosis'], ['tests', 0], ['drills', 'rounds', 2]]
    const at = (...rest: (string | number)[]) => pathIn1(['attempts', ...rest], came).join('.')
    expect(at(0, 'counts', 'groups', 'streams-items', 'right')).toBe(
      'diagnosis.earlier.0.sections.streams-items.right',
    )
    expect(at(1, 'items', 3, 'answer')).toBe('diagnosis.responses.3.answer')
    expect(at(2, 'counts', 'groups', 'passage-items')).toBe('tests.0.counts.passage-items')
    expect(at(2, 'date')).toBe('tests.0.date')
    expect(at(3, 'items', 1, 'seconds')).toBe('drills.rounds.2.items.1.seconds')
    expect(pathIn1(['ratings', 'topics', 'lights'], came).join('.')).toBe('diagnosis.topics.lights')
    expect(pathIn1(['exam', 'title'], came).join('.')).toBe('exam.title')
  })
})

describe('a session of version 1', () => {
  const test1 = (more: Json) => ({
    id: 'test.plots.1',
    kind: 'test',
    date: '2030-02-02',
    start: '18:00',
    minutes: 60,
    form: 'plots',
    title: 'The plots paper',
    ...more,
  })
  it('that was split knows its other part, and which came first', () => {
    const text =
      'A rehearsal. Split over two days: no free time near here holds the whole 130 minutes in one block.'
    const first = test1({ sections: ['beds'], why: { text, figures: {} } })
    const second = test1({
      id: 'test.plots.2',
      date: '2030-02-03',
      sections: ['paths'],
      why: { text, figures: {} },
    })
    const again = test1({
      id: 'test.plots.3',
      date: '2030-03-20',
      sections: ['paths'],
      why: { text, figures: {} },
    })
    const all = [again, second, first]
    expect(sessionFrom1(first, all)).toMatchObject({
      hour: 'split',
      said: 'A rehearsal.',
      split: { number: 1, of: 2, other: 'test.plots.2', sections: ['beds'], wholeMinutes: 130 },
    })
    expect(sessionFrom1(second, all)).toMatchObject({ split: { number: 2, other: 'test.plots.1' } })
  })
  it('that began late says so as a fact, and no more in its sentence', () => {
    const text =
      'A rehearsal. It starts at 18:00: no free time that day holds the whole test from 09:30, when the exam starts.'
    expect(sessionFrom1(test1({ why: { text, figures: {} } }), [])).toMatchObject({
      hour: 'late',
      said: 'A rehearsal.',
    })
  })
  it('of version 2 stays as it is', () => {
    const now = { id: 'study.lights.1', kind: 'drill', topics: ['lights'], label: 'Lights' }
    expect(sessionFrom1(now, [])).toBe(now)
  })
})
