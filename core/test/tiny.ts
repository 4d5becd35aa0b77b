import {
  type Attempt,
  Attempt as AttemptSchema,
  type Counts,
  diagnosticId,
  ExamFormat,
  nothingRecalled,
  parts,
} from '@climber/contract'
import { dayNumber, Learner } from '../src/index'

/** A small exam: sections of some items of four options, each with some topics of equal share; a point a mark. */
export const tinyExam = (items: number[], topics: number, more: Partial<ExamFormat> = {}): ExamFormat =>
  ExamFormat.parse({
    title: 'Hedge registers',
    sections: items.map((count, at) => ({
      id: `s${at}`,
      title: `Part ${at + 1}`,
      minutes: 40,
      groups: [{ id: `g${at}`, kind: 'choice', items: count, choices: 4, perRight: 1 }],
      conversion: {
        points: [
          [0, 0],
          [count, 100],
        ],
      },
    })),
    topics: items.flatMap((_, at) =>
      Array.from({ length: topics }, (__, topic) => ({
        id: `t${at}-${topic}`,
        title: `Topic ${at} ${topic}`,
        section: `s${at}`,
        share: 1 / topics,
      })),
    ),
    composite: { kind: 'mean' },
    ...more,
  })

type Few = [right: number, wrong: number, blank?: number, notReached?: number]
export const countsOf = ([right, wrong, blank = 0, notReached = 0]: Few): Counts => ({
  right,
  wrong,
  blank,
  notReached,
})

/** A paper by counts of its groups, and of topics where they are told. */
export const paper = (
  groups: Record<string, Few>,
  {
    topics = {},
    ...more
  }: { topics?: Record<string, Few>; kind?: Attempt['kind']; date?: string; source?: 'other' } = {},
  n = 0,
): Attempt =>
  AttemptSchema.parse({
    id: n ? `00000000-0000-4000-8000-${String(n).padStart(12, '0')}` : diagnosticId,
    kind: 'diagnostic',
    date: '2031-03-03',
    ...more,
    counts: {
      groups: Object.fromEntries(Object.entries(groups).map(([id, few]) => [id, countsOf(few)])),
      topics: Object.fromEntries(Object.entries(topics).map(([id, few]) => [id, countsOf(few)])),
    },
  })

type Given = Partial<Parameters<typeof Learner.of>[0]>
export const on = dayNumber('2031-03-04')
/** What is known of somebody who sat some papers. */
export const learnerOf = (exam: ExamFormat, attempts: Attempt[], given: Given = {}, size?: number): Learner =>
  Learner.of(
    {
      exam,
      attempts,
      ratings: parts.ratings.parse({}),
      recalled: nothingRecalled,
      done: [],
      taus: exam.topics.map(() => 5),
      today: on,
      ...given,
    },
    size,
  )
