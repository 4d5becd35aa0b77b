import { PlanSession } from '@climber/contract'
import { gardenExam } from '../../test/fixture'
import { wordsFor } from './words'

const [topic, other] = gardenExam.topics
const form = { id: 'plots', title: 'The plots paper', source: 'publisher', sections: [] } as never
const context = {
  exam: gardenExam,
  forms: [form],
  settings: { schools: {} },
  sitting: {
    date: '2030-03-02',
    start: '09:30',
    registerBy: '2030-02-09',
    fee: { amount: 90, currency: 'marks' },
  },
  travelMinutes: 45,
} as unknown as Parameters<typeof wordsFor>[0]
const words = wordsFor(context)
const session = (more: object): PlanSession =>
  PlanSession.parse({ id: 'one', date: '2030-02-01', start: '18:00', minutes: 50, ...more })
const said = (more: object) => [words.title(session(more)), words.why(session(more))]

describe('the words of a plan', () => {
  it('every kind and purpose has a title, and a reason where its facts give one', () => {
    const all = [
      ...['baseline', 'resit', 'seen', 'rehearsal', 'rhythm', 'tray'].map((purpose) => ({
        kind: 'test',
        purpose,
      })),
      ...['cards', 'warm', 'pace card', 'last days'].map((purpose) => ({ kind: 'light', purpose })),
      ...['register', 'journey', 'visit', 'kit'].map((purpose) => ({ kind: 'errand', purpose })),
      { kind: 'review', form: 'plots' },
      { kind: 'retest', form: 'plots', daysSince: 9 },
    ]
    const told = all.map(said)
    for (const [title, why] of told) {
      expect(title).not.toBe('')
      expect(why).not.toBe('')
      expect(`${title} ${why}`).not.toMatch(/undefined|NaN|null/)
    }
    expect(new Set(told.map(([, why]) => why)).size).toBe(all.length)
  })

  it('of study say the fact that decided, and what else would bring much more', () => {
    const facts = { share: 0.25, known: 0.4, yield: 1.24, daysSince: 9, kept: 0.5 }
    const title = topic!.title
    const study = (reason: object) => said({ kind: 'drill', topics: [topic!.id], reason })
    expect(study(facts)).toEqual([
      `Drill ${title}`,
      `No hour brings more just then than one on ${title}: about 1.2 points, with 25% of the exam and about 40% of it known.`,
    ])
    const better = { topic: other!.id, yield: 1.5 }
    expect(study({ ...facts, instead: better })[1]).toBe(
      `${title} was last met 9 days before, and about 50% of what was new is gone by then: a touch brings it back.`,
    )
    expect(study({ ...facts, kept: 0.9, instead: better })[1]).toBe(
      `${title} has its share of the hours: it is 25% of the exam, about 40% of it is known by then, and an hour brings about 1.2 points.`,
    )
    const { share, yield: gain } = facts
    expect(study({ share, yield: gain, by: 'odds' })[1]).toBe(
      `${title} is 25% of the exam and not begun yet: an hour counts for about 1.2 points towards the target and every cut.`,
    )
    const much = { ...facts, instead: { topic: other!.id, yield: 2, sessions: 3 } }
    expect(study(much)[1]).toContain(
      `a touch brings it back. ${other!.title} would bring about 2.0 and has 3 sessions of its own.`,
    )
    expect(said({ kind: 'drill', topics: [topic!.id] })[1]).toBe('')
  })

  it('of a mixed set name all its topics, and what fades', () => {
    const topics = [topic!.id, other!.id]
    const [title, why] = said({ kind: 'mixed', topics, reason: { share: 0.2, daysSince: 3, kept: 0.555 } })
    expect(title).toBe(`Mixed set: ${topic!.title}, ${other!.title}`)
    expect(why).toBe(
      `What fades fastest of what was met: ${topic!.title} was last met 3 days before, and about 56% of what was new is still at hand.`,
    )
    expect(said({ kind: 'mixed', topics, reason: { share: 0.2 } })[1]).toBe(
      'What fades fastest of what was met, taken together.',
    )
  })

  it('of what was left over say what it is the rest of', () => {
    const rest = { of: 'whole', on: '2030-01-30' }
    expect(said({ kind: 'drill', topics: [topic!.id], rest })[1]).toBe(
      'The rest of what was begun on 2030-01-30.',
    )
    expect(said({ kind: 'review', form: 'plots', rest })[1]).toBe('The rest of what was begun on 2030-01-30.')
  })

  it('of a test say how long before the exam it stands, and why not whole', () => {
    const split = {
      number: 2,
      of: 2,
      other: 'two',
      sections: [gardenExam.sections[0]!.id],
      wholeMinutes: 130,
    }
    const [title, why] = said({ kind: 'test', form: 'plots', purpose: 'rehearsal', hour: 'split', split })
    expect(title).toBe('The plots paper, split: part 2 of 2')
    expect(why).toBe(
      "A rehearsal with one of the publisher's tests, 29 days before the exam. Split over two days: no free time near here holds the whole 130 minutes in one block.",
    )
    expect(said({ kind: 'test', form: 'plots', purpose: 'rhythm', hour: 'late' })[1]).toContain(
      'It starts at 18:00: when it was placed, no free time that day held the whole test from 09:30, when the exam starts.',
    )
    expect(said({ kind: 'test', form: 'gone' })).toEqual(['gone', ''])
  })

  it('of an errand count the days to the close of registration', () => {
    const by = (date: string) => words.why(session({ kind: 'errand', purpose: 'register', date }))
    expect(by('2030-02-01')).toContain('Registration closes 8 days later; the fee is 90 marks.')
    expect(by('2030-02-08')).toContain('Registration closes 1 day later')
    expect(by('2030-02-09')).toContain('Registration closes that day')
    expect(said({ kind: 'errand', purpose: 'journey' })[1]).toContain('45 minutes')
  })

  it('of a file of version 1 stay as they were worded', () => {
    const own = { label: 'Beds by heart', said: 'Because the beds come first.' }
    expect(said({ kind: 'drill', topics: [topic!.id], ...own })).toEqual([own.label, own.said])
    expect(said({ kind: 'test', form: 'plots', hour: 'moved', ...own })).toEqual([
      own.label,
      `${own.said} It starts at 18:00, where there was room when it was moved.`,
    ])
  })

  it('are made of a piece that has no place yet', () => {
    const { date: _, start: __, ...piece } = session({ kind: 'test', form: 'plots', purpose: 'rehearsal' })
    expect(words.why(piece as never)).toBe("A rehearsal with one of the publisher's tests.")
  })
})
