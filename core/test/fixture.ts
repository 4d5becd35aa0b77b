import type { Conversion, ExamFormat, Section, Topic } from '@climber/contract'
import { ExamFormat as ExamSchema, parts } from '@climber/contract'
import type { CandidateRecord } from '../src/index'

/** Table E of docs/models.md: 60 items, a third of a mark off for a wrong answer. */
export const tableE: Conversion = {
  points: [
    [-20, 100],
    [0, 130],
    [24, 190],
    [40, 230],
    [54, 270],
    [60, 300],
  ],
  step: 1,
}

export const sectionOf = (
  id: string,
  items: number,
  minutes: number,
  conversion: Conversion,
  more: Partial<Section> = {},
): Section => ({
  id,
  title: `Section ${id}`,
  minutes,
  groups: [{ id: `${id}-items`, kind: 'choice', items, choices: 4, perRight: 1, perWrong: 1 / 3 }],
  conversion,
  breakAfter: 10,
  ...more,
})

export const sectionE = sectionOf('e', 60, 75, tableE)

const evenTopics = (section: string, titles: string[]): Topic[] =>
  titles.map((title, at) => ({
    id: `${section}-${at + 1}`,
    title,
    section,
    share: 1 / titles.length,
    prerequisites: at === 2 ? [`${section}-1`] : [],
    hours: 5 + at,
  }))

/** An invented exam of the record keepers of walled gardens: two sections, ten topics. */
export const gardenExam: ExamFormat = ExamSchema.parse({
  title: 'Garden Records Assistant',
  sections: [
    sectionOf('names', 60, 75, tableE, { cut: 180 }),
    sectionOf('ledgers', 30, 45, {
      points: [
        [-10, 100],
        [0, 120],
        [15, 200],
        [30, 300],
      ],
      step: 5,
    }),
  ],
  topics: [
    ...evenTopics('names', [
      'Old names',
      'Graft labels',
      'Seed lists',
      'Bed numbering',
      'Synonyms',
      'Misread tags',
    ]),
    ...evenTopics('ledgers', ['Sowing ledgers', 'Weather books', 'Accounts of exchange', 'Losses']),
  ],
  composite: { kind: 'sum', step: 1, cut: 420 },
  forms: [
    ...[1, 2, 3, 4].map((n) => ({ id: `board-${n}`, title: `Board paper ${n}`, source: 'publisher' })),
    ...[1, 2, 3, 4, 5, 6].map((n) => ({ id: `wall-${n}`, title: `Wall press paper ${n}`, source: 'other' })),
  ],
  sittings: [
    { id: 'spring', date: '2031-05-24', start: '09:30' },
    { id: 'autumn', date: '2031-10-11', start: '09:30' },
  ],
})

/** A candidate with an average baseline and eleven free hours a week. */
export function gardenRecord(change: Partial<CandidateRecord> = {}): CandidateRecord {
  return {
    exam: gardenExam,
    availability: parts.availability.parse({
      windows: [
        ...[1, 2, 3, 4].map((weekday) => ({ weekday, from: '18:00', to: '20:00' })),
        { weekday: 6, from: '09:00', to: '13:00' },
      ],
    }),
    diagnosis: parts.diagnosis.parse({
      date: '2031-03-01',
      sections: {
        'names-items': { right: 30, wrong: 18, blank: 12, notReached: 4 },
        'ledgers-items': { right: 14, wrong: 9, blank: 7 },
      },
      topics: {
        'names-2': { rating: 'weak' },
        'names-4': { rating: 'strong' },
        'ledgers-4': { rating: 'not-covered' },
      },
    }),
    target: { scaled: 440, sitting: 'spring' },
    settings: parts.settings.parse({}),
    pacing: parts.pacing.parse({}),
    examDay: parts.examDay.parse({}),
    tests: [],
    ...change,
  }
}

export const morning = (date: string) => ({ date, minute: 7 * 60 })
