import {
  Attempt,
  type CandidateRecord,
  type Counts,
  diagnosticId,
  ExamFormat,
  recordFrom,
  type SelfRating,
} from '@climber/contract'
import { dateOf, dayNumber, examShares, itemsOf, type Kind, type Person } from '@climber/core'
import { numbers } from '../shared/numbers'
import { firstMoment, sits } from './life'
import { normalOf } from './normal'

/** Somebody whom nobody thought of: an exam, free hours and weeks as a seed has them, and the same person as often as asked for. */
export interface Anyone {
  record: CandidateRecord
  exam: ExamFormat
  weeks: number
  hoursAWeek: number
  /** The person on the first evening, of the kind asked for; the same each time. */
  person: () => Person
}

const first = dayNumber(firstMoment.date)
const scattered = (seed: number) => numbers((seed * 2654435761) % 2147483647 || 1)

/** From 8 to 60 topics in one to four sections, with forms of the publisher and of others. */
function examOf(random: () => number, seed: number, weeks: number): ExamFormat {
  const from = (least: number, most: number) => least + Math.floor(random() * (most - least + 1))
  const parts = from(1, 4)
  const count = Math.max(parts * 2, Math.round(8 * (60 / 8) ** random()))
  const penalty = random() < 0.3
  const sections = Array.from({ length: parts }, (_, at) => {
    const items = from(20, 70)
    const choices = from(3, 5)
    return {
      id: `part-${at + 1}`,
      title: `Part ${at + 1}`,
      minutes: Math.round(items * (0.8 + 1.1 * random())),
      groups: [
        {
          id: `part-${at + 1}-items`,
          kind: 'choice',
          items,
          choices,
          perRight: 1,
          perWrong: penalty ? 1 / (choices - 1) : 0,
        },
      ],
      conversion: {
        points: [
          [-Math.ceil(items / 2), 0],
          [items, 100],
        ],
        step: 1,
      },
      breakAfter: 5,
    }
  })
  const topics = Array.from({ length: count }, (_, at) => ({
    id: `topic-${at + 1}`,
    title: `Chapter ${at + 1}`,
    section: `part-${(at % parts) + 1}`,
    share: Math.exp(0.7 * normalOf(random)),
    prerequisites: at >= parts && random() < 0.15 ? [`topic-${at + 1 - parts}`] : [],
  }))
  const whole = new Map<string, number>()
  for (const { section, share } of topics) whole.set(section, (whole.get(section) ?? 0) + share)
  const publisher = from(1, 6)
  return ExamFormat.parse({
    title: `Register of hedges ${seed}`,
    sections,
    topics: topics.map((topic) => ({ ...topic, share: topic.share / whole.get(topic.section)! })),
    composite: { kind: 'sum', step: 1 },
    forms: Array.from({ length: publisher + from(0, 12) }, (_, at) => ({
      id: `form-${at + 1}`,
      title: `Form ${at + 1}`,
      source: at < publisher ? 'publisher' : 'other',
    })),
    sittings: [
      {
        id: 'only',
        date: dateOf(first + weeks * 7 + from(-2, 3)),
        start: ['08:30', '09:30', '13:00'][from(0, 2)],
      },
    ],
  })
}

/** Free evenings, and mostly a longer day, of so many hours a week. */
function windowsOf(random: () => number, hoursAWeek: number) {
  const weekend = random() < 0.8 ? Math.min(hoursAWeek * 0.6, 2 + 5 * random()) : 0
  const evenings = 2 + Math.floor(random() * 4)
  const each = Math.max(0.5, Math.min(4, (hoursAWeek - weekend) / evenings))
  const clock = (hours: number) => {
    const minutes = Math.round((hours * 60) / 5) * 5
    return `${String(Math.floor(minutes / 60)).padStart(2, '0')}:${String(minutes % 60).padStart(2, '0')}`
  }
  const days = [1, 2, 3, 4, 5].slice(0, evenings)
  return [
    ...days.map((weekday) => ({ weekday, from: '18:00', to: clock(18 + each) })),
    ...(weekend ? [{ weekday: 6, from: '09:00', to: clock(9 + weekend) }] : []),
  ]
}

/** True hours of each topic: anything between all alike and in proportion to its questions, in all more or fewer than is thought. */
function breadths(exam: ExamFormat, random: () => number): number[] {
  const bend = [0, 0.5, 1][Math.floor(random() * 3)]!
  const shares = examShares(exam)
  const raw = shares.map((share) => share ** bend * Math.exp(0.35 * normalOf(random)))
  const sum = raw.reduce((a, b) => a + b, 0)
  const items = exam.sections.reduce((all, section) => all + itemsOf(section), 0)
  const hours = items * 0.6 * Math.exp(0.3 * normalOf(random))
  return raw.map((one) => Math.max(0.5, (one * hours) / sum))
}

/** A book with a chapter for each topic, as long as the topic is broad. */
const bookOf = (exam: ExamFormat, taus: number[], random: () => number) => ({
  items: [
    {
      id: 'book',
      title: 'The book of hedges',
      kind: 'book' as const,
      chapters: exam.topics.map(({ id, title }, at) => ({
        title,
        pages: Math.max(2, Math.round(((taus[at]! * 60) / 3) * Math.exp(0.2 * normalOf(random)))),
        topics: [id],
      })),
    },
  ],
})

/** Anyone, of a kind, so many weeks before the exam, or as many as the seed says; the plan sees the record, never the person. */
export function anyone(kind: Kind, seed: number, ahead?: number): Anyone {
  const random = scattered(seed)
  const drawn = Math.round(3 * (52 / 3) ** random())
  const weeks = ahead ?? drawn
  const hoursAWeek = 3 * (25 / 3) ** random()
  const exam = examOf(random, seed, weeks)
  const taus = breadths(exam, random)
  const windows = windowsOf(random, hoursAWeek)
  const materials = random() < 0.5 ? bookOf(exam, taus, random) : undefined
  const person = () => kind({ exam, taus, random: scattered(seed * 31 + 7), today: first })
  const one = person()
  const fine = random() < 0.5
  const measured = random() < 0.85
  const counts: { groups: Record<string, Counts>; topics: Record<string, Counts> } = sits(
    one,
    exam,
    first - 1,
    random,
    0,
  )
  const ratings = exam.topics.flatMap(({ id }, at): [string, SelfRating][] => {
    const felt = one.knows(at, first) + 0.15 * normalOf(random)
    return random() < (measured ? 0.4 : 1)
      ? [[id, felt < 0.35 ? 'weak' : felt > 0.65 ? 'strong' : 'fair']]
      : []
  })
  const record = recordFrom({
    exam,
    parts: {
      availability: { windows },
      ratings: { topics: Object.fromEntries(ratings) },
      ...(materials && { materials }),
    },
    attempts: measured
      ? [
          Attempt.parse({
            id: diagnosticId,
            kind: 'diagnostic',
            date: dateOf(first - 1),
            counts: fine ? counts : { groups: counts.groups },
          }),
        ]
      : [],
  })
  return { record, exam, weeks, hoursAWeek, person }
}
