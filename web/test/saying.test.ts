import type { CandidateRow, Lately } from '@climber/contract'
import { sayingOf } from '../src/screens/roster/saying'

const today = '2030-03-04'
const quietLife: Lately = {
  lastWork: '2030-03-03',
  week: { planned: 360, done: 360 },
  weekday: null,
  before: null,
  topic: null,
}
const row = (lately: Partial<Lately> = {}, more: Partial<CandidateRow> = {}): CandidateRow => ({
  id: '00000000-0000-4000-8000-000000000001',
  name: 'Wenna Tarrowby',
  examTitle: 'Tidal Pilot',
  mine: false,
  examDate: '2030-05-01',
  target: 312,
  odds: 0.85,
  oddsAtRate: 0.7,
  forecast: { mean: 330, low: 300, high: 350 },
  slippedMinutes: 0,
  nextTest: '2030-03-10',
  lastScore: null,
  lately: { ...quietLife, ...lately },
  ...more,
})
const said = (...parts: Parameters<typeof row>) => {
  const { what, say } = sayingOf(row(...parts), today)
  return `${what} ${say}`
}

describe('what is said of a candidate', () => {
  it('is praise where all is kept', () => {
    expect(said()).toBe('All 6 h of the week done. On course: say so.')
  })
  it('names the days without work, the day of the week that does not hold, and what the last test showed', () => {
    expect(said({ lastWork: '2030-02-18', week: { planned: 360, done: 0 } })).toBe(
      'Nothing done since Mon 18 Feb. Ask what got in the way.',
    )
    expect(said({ lastWork: null, week: { planned: 60, done: 0 } })).toMatch(/^Nothing done yet\./)
    const score = { lastScore: { date: '2030-03-02', scaled: 310 } }
    expect(
      said(
        {
          week: { planned: 360, done: 270 },
          weekday: { weekday: 3, slipped: 3, of: 4 },
          before: { date: '2030-02-02', scaled: 296 },
          topic: { title: 'Tide heights', minutes: 120 },
        },
        score,
      ),
    ).toBe(
      '4 h 30 of 6 h done in a week; 310 on Sat 2 Mar, 14 higher than before, after 2 h of Tide heights. Ask about Wednesdays: 3 of 4 slipped.',
    )
    expect(said({ before: { date: '2030-02-02', scaled: 320.5 } }, score)).toMatch(
      /310 on Sat 2 Mar, 10.5 lower than before\. Look at the last test together\.$/,
    )
  })
  it('says what is missing, and nothing of days that are left after the exam', () => {
    expect(said({}, { target: null })).toBe('There is no target yet. Agree on a score and a sitting.')
    expect(said({}, { odds: null })).toMatch(/^There is no plan yet\./)
    expect(said({}, { nextTest: null })).toMatch(/none is planned\.$/)
    expect(said({}, { odds: 0.3 })).toMatch(/another sitting\.$/)
    expect(said({ week: { planned: 0, done: 0 }, lastWork: null }, { examDate: '2030-03-01' })).toBe(
      'The exam was on Fri 1 Mar. Ask how it went, and for the result.',
    )
  })
  it('has nothing to say of a week that has not begun', () => {
    const week = { planned: 0, done: 0 }
    expect(said({ week, lastWork: null }, { odds: 0.9 })).toBe('Just begun: nothing was to be done yet. ')
    expect(said({ week, lastWork: '2030-03-01' }, { odds: 0.9 })).toBe(
      'Nothing was planned for the last seven days. ',
    )
  })
})
