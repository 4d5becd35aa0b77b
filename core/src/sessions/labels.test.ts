import type { PlanSession } from '@climber/contract'
import { type gardenExam } from '../../test/fixture'
import { labelsFor } from './labels'

const exam = {
  sections: [
    { id: 'water', title: 'Water and clay' },
    { id: 'banks', title: 'Banks and wells' },
  ],
  topics: [
    { id: 'clay', title: 'Puddled clay in summer', section: 'water' },
    { id: 'rain', title: 'Rain and dew', section: 'water' },
    { id: 'weed', title: 'Weed and frost', section: 'water', short: 'Weeds' },
    { id: 'banks', title: 'Bank slopes', section: 'banks' },
  ],
} as unknown as typeof gardenExam
const forms = [
  { id: 'p1', title: 'Commoners’ paper 1' },
  { id: 'p2', title: 'Commoners’ paper 2' },
] as unknown as typeof gardenExam.forms
const labels = labelsFor(exam, forms)
const session = (facts: object): PlanSession =>
  ({ id: 's', date: '2030-01-05', start: '09:00', minutes: 50, status: 'planned', ...facts }) as PlanSession

describe('labels of sessions', () => {
  it('are the topic of study, down to one word and to four letters', () => {
    expect(labels(session({ kind: 'drill', topics: ['clay'] }))).toEqual([
      'Puddled clay in summer',
      'Puddled clay',
      'Puddled',
      'Pudd',
    ])
    expect(labels(session({ kind: 'learn', topics: ['weed'] }))).toEqual(['Weed and frost', 'Weeds', 'Weed'])
  })
  it('are several topics, and how many more where there is no room for all', () => {
    expect(labels(session({ kind: 'mixed', topics: ['clay', 'rain', 'weed', 'banks'] }))).toEqual([
      'Puddled clay in summer, Rain and dew, Weed and frost, Bank slopes',
      'Puddled clay, Rain and dew, Weeds, Bank slopes',
      'Pudd Rain Weed Bank',
      'Pudd Rain Weed +1',
      'Pudd Rain +2',
      'Puddled clay +3',
      'Puddled +3',
      'Pudd +3',
      'Pudd',
    ])
  })
  it('are the paper of a test and of its review, and the section that is sat by itself', () => {
    const [title, short, word] = labels(session({ kind: 'test', form: 'p2' }))
    expect([title, word]).toEqual(['Commoners’ paper 2', 'Test'])
    expect(short).not.toBe(labels(session({ kind: 'test', form: 'p1' }))[1])
    expect(labels(session({ kind: 'review', form: 'p1' }))[0]).toBe('Review Commoners’ paper 1')
    expect(labels(session({ kind: 'review', form: 'gone' }))).toEqual(['Review', 'Rev.'])
    expect(labels(session({ kind: 'test', sections: ['banks'] }))[0]).toBe('Banks and wells')
  })
  it('are there for whatever else a plan holds', () => {
    for (const facts of [
      { kind: 'errand', purpose: 'kit' },
      { kind: 'errand' },
      { kind: 'light', topics: [] },
      { kind: 'light', topics: [], purpose: 'pace card' },
      { kind: 'learn', topics: ['gone'] },
      { kind: 'drill', topics: ['clay'], label: 'Sketching by the pond' },
    ]) {
      const found = labels(session(facts))
      expect(found.every((text) => text.length > 0)).toBe(true)
      expect(Array.from(found.at(-1)!).length).toBeLessThanOrEqual(5)
    }
  })
})
