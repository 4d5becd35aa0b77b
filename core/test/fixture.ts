import type { z } from 'zod'
import type {
  Attempt,
  CandidateRecord,
  Conversion,
  Counts,
  ExamFormat,
  PartName,
  Section,
  Topic,
} from '@climber/contract'
import {
  Attempt as AttemptSchema,
  diagnosticId,
  ExamFormat as ExamSchema,
  recordFrom,
} from '@climber/contract'

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

/** What of a record a test sets: parts as they are written in a file, and what was sat and planned. */
export type RecordChange = Partial<Record<PartName, unknown>> &
  Partial<Pick<CandidateRecord, 'exam' | 'attempts' | 'review' | 'recalled' | 'plan' | 'before' | 'taken'>>

/** A record from a base and a change of some of it. */
export function changedRecord(
  base: RecordChange & { exam: ExamFormat },
  change: RecordChange,
): CandidateRecord {
  const { exam, attempts, review, recalled, plan, before, taken, ...parts } = { ...base, ...change }
  return recordFrom({ exam: exam ?? base.exam, attempts, review, recalled, plan, before, taken, parts })
}

/** A diagnostic with counts by item group. */
export const diagnostic = (
  groups: Record<string, Partial<Counts>>,
  more: Partial<z.input<typeof AttemptSchema>> = {},
): Attempt =>
  AttemptSchema.parse({
    id: diagnosticId,
    kind: 'diagnostic',
    ...more,
    counts: { topics: {}, ...more.counts, groups },
  })

/** A practice test with counts by item group; `n` makes its id. */
export const practice = (
  n: number,
  date: string,
  groups: Record<string, Partial<Counts>>,
  more: Partial<z.input<typeof AttemptSchema>> = {},
): Attempt =>
  AttemptSchema.parse({
    id: `00000000-0000-4000-8000-${String(n).padStart(12, '0')}`,
    kind: 'practice',
    date,
    ...more,
    counts: { groups },
  })

export const gardenBaseline = diagnostic(
  {
    'names-items': { right: 30, wrong: 18, blank: 12, notReached: 4 },
    'ledgers-items': { right: 14, wrong: 9, blank: 7 },
  },
  { date: '2031-03-01' },
)

/** A candidate with an average baseline and eleven free hours a week. */
export const gardenRecord = (change: RecordChange = {}): CandidateRecord =>
  changedRecord(
    {
      exam: gardenExam,
      availability: {
        windows: [
          ...[1, 2, 3, 4].map((weekday) => ({ weekday, from: '18:00', to: '20:00' })),
          { weekday: 6, from: '09:00', to: '13:00' },
        ],
      },
      ratings: { topics: { 'names-2': 'weak', 'names-4': 'strong', 'ledgers-4': 'not-covered' } },
      attempts: [gardenBaseline],
      target: { scaled: 440, sitting: 'spring' },
    },
    change,
  )

export const morning = (date: string) => ({ date, minute: 7 * 60 })
