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

  it('of study say what it is worth, and what else would fit', () => {
    const reason = { share: 0.25, known: 0.4, yield: 1.24, daysSince: 1, kept: 0.8 }
    const [title, why] = said({ kind: 'drill', topics: [topic!.id], reason })
    expect(title).toBe(`Drill ${topic!.title}`)
    expect(why).toBe(
      `${topic!.title} is 25% of the exam and you will know about 40% of it by then; an hour here is worth about 1.2 points. Last touched 1 day before.`,
    )
    const better = { ...reason, instead: { topic: other!.id, yield: 2 } }
    expect(said({ kind: 'drill', topics: [topic!.id], reason: better })[1]).toContain(
      `In its place ${other!.title} would give 2.0; it has sessions of its own.`,
    )
    const worse = { ...reason, instead: { topic: other!.id, yield: 1 } }
    expect(said({ kind: 'drill', topics: [topic!.id], reason: worse })[1]).not.toContain(
      'sessions of its own',
    )
    expect(said({ kind: 'drill', topics: [topic!.id] })[1]).toBe('')
  })

  it('of a mixed set name all its topics, and what fades', () => {
    const topics = [topic!.id, other!.id]
    const [title, why] = said({ kind: 'mixed', topics, reason: { share: 0.2, daysSince: 3, kept: 0.555 } })
    expect(title).toBe(`Mixed set: ${topic!.title}, ${other!.title}`)
    expect(why).toContain(`${topic!.title} was last touched 3 days ago, and about 56% of what was new`)
    expect(said({ kind: 'mixed', topics, reason: { share: 0.2 } })[1]).toContain(
      'had not been touched before',
    )
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
      'It starts at 18:00: no free time that day holds the whole test from 09:30, when the exam starts.',
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
      `${own.said} It starts at 18:00: there was no other place left.`,
    ])
  })

  it('are made of a piece that has no place yet', () => {
    const { date: _, start: __, ...piece } = session({ kind: 'test', form: 'plots', purpose: 'rehearsal' })
    expect(words.why(piece as never)).toBe("A rehearsal with one of the publisher's tests.")
  })
})
