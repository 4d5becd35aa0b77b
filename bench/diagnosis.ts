import { ExamFormat, nothingRecalled, parts } from '@climber/contract'
import { allocate, Learner, readResponses, tellingQuestions, writeResponses } from '@climber/core'
import { randomFrom } from '../core/src/exact/random'
import { median, table } from './table'

const random = randomFrom(23)
const topicsOf = (count: number) =>
  Array.from({ length: count }, (_, at) => ({
    id: `t${at}`,
    title: `T${at}`,
    section: 's',
    share: 1 / count,
  }))
const exam = ExamFormat.parse({
  title: 'Bench',
  sections: [
    {
      id: 's',
      title: 'S',
      minutes: 60,
      groups: [{ id: 's-items', kind: 'choice', items: 60, choices: 4, perRight: 1 }],
      conversion: {
        points: [
          [0, 100],
          [60, 300],
        ],
      },
    },
  ],
  topics: topicsOf(6),
  composite: { kind: 'sum' },
})
const blank = {
  attempts: [],
  ratings: parts.ratings.parse({}),
  recalled: nothingRecalled,
  done: [],
  today: 0,
}
const learnerOf = (own: ExamFormat) => Learner.of({ ...blank, exam: own, taus: own.topics.map(() => 5) })

const time = (work: () => void, times = 9): string => {
  work()
  return median(
    Array.from({ length: times }, () => {
      const begun = performance.now()
      work()
      return performance.now() - begun
    }),
  ).toFixed(1)
}
const many = Array.from({ length: 400 }, () => ({
  value: 50 * random(),
  known: random(),
  tau: 1 + 30 * random(),
}))
const wide = ExamFormat.parse({ ...exam, topics: topicsOf(400) })
const learner = learnerOf(wide)
const [exposure] = learner.exposures([1])
const known = learner.known(exposure!)
const huge = ExamFormat.parse({
  ...exam,
  sections: [
    {
      ...exam.sections[0]!,
      groups: Array.from({ length: 50 }, (_, at) => ({
        ...exam.sections[0]!.groups[0]!,
        id: `g${at}`,
        items: 1000,
      })),
    },
  ],
})
const text = writeResponses(
  Array.from({ length: 50_000 }, (_, at) => ({ item: at + 1, answer: 'ABCD'[at % 4]!, key: 'A' })),
)
table(
  'Know, stand, take: core times, medians of nine',
  ['work', 'ms', 'wanted'],
  [
    ['allocation of 300 h over 400 topics', time(() => void allocate(many, 300)), '5'],
    ['possible candidates of 400 topics', time(() => void learnerOf(wide)), ''],
    [
      'ten most telling questions of 400 topics',
      time(
        () =>
          void tellingQuestions(
            wide,
            learner,
            known,
            learner.weights.map((_, one) => known.reduce((sum, own) => sum + own[one]!, 0)),
          ),
      ),
      '',
    ],
    ['50,000 item responses read and counted', time(() => void readResponses(text, huge), 5), '2000'],
  ],
)
