import libraryExp from '@stdlib/math-base-special-exp'
import fc from 'fast-check'
import type { Sitting } from '@climber/contract'
import { gardenExam, gardenRecord, morning, practice } from '../../test/fixture'
import {
  assess,
  blindGuess,
  convert,
  exp,
  expectedRawOf,
  itemsOf,
  ln,
  norm,
  scoredTests,
  sittingOf,
  startDate,
  tausOf,
} from '../index'

const record = gardenRecord()
const { landscape: seen } = assess(record, morning('2031-03-03'))
const landscape = () => seen

describe('levels', () => {
  it('agree with the expected raw score through the table', () => {
    const all = landscape()
    const [names, ledgers] = gardenExam.sections
    const known = gardenExam.topics.map(() => 0.6)
    const levels = all.levels(known)
    expect(convert(names!.conversion, expectedRawOf(names!.groups, 0.6))).toBe(
      Math.round(levels.sections[0]!),
    )
    expect(levels.composite).toBeCloseTo(levels.sections[0]! + levels.sections[1]!, 12)
    expect(expectedRawOf(ledgers!.groups, 1)).toBe(30)
  })
  it('rise with what is known of any topic', () => {
    const all = landscape()
    fc.assert(
      fc.property(
        fc.integer({ min: 0, max: 9 }),
        fc.double({ min: 0, max: 0.9, noNaN: true }),
        (topic, k) => {
          const known = gardenExam.topics.map(() => 0.5)
          const higher = [...known]
          known[topic] = k
          higher[topic] = k + 0.1
          expect(all.levels(higher).composite).toBeGreaterThanOrEqual(all.levels(known).composite)
        },
      ),
    )
  })
  it('values of topics are points: learning one alone gives about its value', () => {
    const all = landscape()
    const known = all.known()
    const at = 0
    const learnt = [...known]
    learnt[at] = Math.min(1, known[at]! + 0.1)
    const gain = all.levels(learnt).composite - all.levels(known).composite
    expect(gain / 0.1).toBeGreaterThan(all.topics[at]!.value * 0.6)
    expect(gain / 0.1).toBeLessThan(all.topics[at]!.value * 1.6)
  })
  it('a blind guess is worth nothing at a third off, and a quarter mark with no penalty', () => {
    const group = gardenExam.sections[0]!.groups[0]!
    expect(blindGuess(group)).toBeCloseTo(0, 12)
    expect(blindGuess({ ...group, perWrong: 0 })).toBe(0.25)
    expect(blindGuess({ ...group, perWrong: 1 })).toBe(0)
    expect(blindGuess({ ...group, kind: 'numeric', choices: undefined })).toBe(0)
  })
  it('hours of a topic: the candidate’s own, else the exam’s, else by its items', () => {
    const bare = { ...gardenExam, topics: gardenExam.topics.map(({ hours: _hours, ...topic }) => topic) }
    const tau = (exam: typeof gardenExam) => tausOf(exam, { 'names-2': 33 })
    expect(tau(gardenExam).slice(0, 2)).toEqual([5, 33])
    const items = (id: string) => {
      const { section, share } = bare.topics.find((topic) => topic.id === id)!
      return share * itemsOf(bare.sections.find((one) => one.id === section)!)
    }
    const middling = bare.topics.reduce((sum, { id }) => sum + items(id), 0) / bare.topics.length
    expect(tau(bare)[0]).toBeCloseTo(0.6 * Math.sqrt(middling * items(bare.topics[0]!.id)), 9)
    expect(Math.min(...tau(bare))).toBeGreaterThanOrEqual(2)
  })
})

describe('the record', () => {
  it('aims at the sitting chosen, or the next one', () => {
    expect(sittingOf(record, '2031-03-01')!.id).toBe('spring')
    expect(sittingOf({ ...record, target: {} }, '2031-06-01')!.id).toBe('autumn')
    expect(sittingOf({ ...record, target: {} }, '2032-06-01')).toBeUndefined()
  })
  it('aims at the next one that can still be registered for, unless there is none or a plan is for another', () => {
    const [spring, autumn] = record.exam.sittings.map((sitting) => ({ ...sitting, registerBy: '2031-01-31' }))
    const open = { ...autumn!, registerBy: '2031-08-01' }
    const aim = (sittings: Sitting[], plan?: { sitting: string }) =>
      sittingOf({ exam: { ...record.exam, sittings }, target: {}, plan }, '2031-03-01')?.id
    expect(aim([spring!, open])).toBe('autumn')
    expect(aim([spring!, open], { sitting: 'spring' })).toBe('spring')
    expect(aim([spring!, autumn!])).toBe('spring')
    expect(aim([{ ...spring!, registerBy: '2031-03-01' }, open])).toBe('spring')
  })
  it('counts gains from the diagnostic', () => {
    expect(startDate(record, '2031-03-05')).toBe('2031-03-01')
    expect(startDate({ ...record, attempts: [] }, '2031-03-05')).toBe('2031-03-05')
  })
  it('scores tests oldest first and leaves out those with counts missing', () => {
    const counts = {
      'names-items': { right: 30, wrong: 20, blank: 10, notReached: 0 },
      'ledgers-items': { right: 15, wrong: 10, blank: 5, notReached: 0 },
    }
    const scored = scoredTests(gardenExam, [
      practice(1, '2031-03-02', counts),
      practice(2, '2031-03-01', counts),
      practice(3, '2031-03-03', { 'names-items': counts['names-items'] }),
    ])
    expect(scored.map((one) => one.test.date)).toEqual(['2031-03-01', '2031-03-02'])
  })
})

describe('functions that give the same bits everywhere', () => {
  it('exp gives the library’s bits, near nothing and far out too', () => {
    const bits = (x: number) => expect([x, exp(x)]).toEqual([x, libraryExp(x)])
    fc.assert(fc.property(fc.double({ min: -760, max: 720, noNaN: true }), bits), { numRuns: 3000 })
    fc.assert(fc.property(fc.double({ min: -1e-8, max: 1e-8, noNaN: true }), bits), { numRuns: 500 })
    for (const x of [0, -0, 1, -1, 689.9, -689.9, 690, -690, 709.7, -745, Infinity, -Infinity]) bits(x)
    expect(exp(NaN)).toBeNaN()
  })
  it('agree with the engine’s to a few parts in 10^16', () => {
    for (let x = -40; x < 40; x += 0.37) expect(Math.abs(exp(x) / Math.exp(x) - 1)).toBeLessThan(1e-15)
    for (let x = 1e-6; x < 1e6; x *= 1.7)
      expect(Math.abs(ln(x) - Math.log(x))).toBeLessThanOrEqual(1e-15 * Math.max(1, Math.abs(Math.log(x))))
    expect(norm(3, 4)).toBe(5)
  })
})
