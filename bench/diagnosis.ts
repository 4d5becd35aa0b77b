import { type Counts, ExamFormat, parts } from '@climber/contract'
import { allocate, diagnose, posterior, readResponses, tellingQuestions, writeResponses } from '@climber/core'
import { randomFrom } from '../core/src/exact/random'
import { median, table } from './table'

const random = randomFrom(23)
const normal = () => Math.sqrt(-2 * Math.log(1 - random())) * Math.cos(2 * Math.PI * random())

/** Gamma of a shape (Marsaglia and Tsang 2000); Beta from two of them. */
function gamma(shape: number): number {
  if (shape < 1) return gamma(shape + 1) * Math.pow(1 - random(), 1 / shape)
  const d = shape - 1 / 3
  const c = 1 / Math.sqrt(9 * d)
  for (;;) {
    const x = normal()
    const v = (1 + c * x) ** 3
    if (v > 0 && Math.log(1 - random()) < 0.5 * x * x + d - d * v + d * Math.log(v)) return d * v
  }
}
const beta = (mean: number, strength = 4) => {
  const a = gamma(Math.max(1e-3, mean * strength))
  return a / (a + gamma(Math.max(1e-3, (1 - mean) * strength)))
}
const answers = (known: number, items: number, choices: number): Counts => {
  let right = 0
  for (let item = 0; item < items; item++) if (random() < known + (1 - known) / choices) right++
  return { right, wrong: items - right, blank: 0, notReached: 0 }
}

const runs = 5000
const percent = (inside: number, all: number) => `${((100 * inside) / all).toFixed(1)}%`
const rows: (string | number)[][] = []
for (const mean of [0.3, 0.55, 0.8])
  for (const items of [0, 4, 10, 30]) {
    let inside = 0
    let width = 0
    for (let run = 0; run < runs; run++) {
      const known = beta(mean)
      const { right, wrong } = answers(known, items, 4)
      const { low, high } = posterior(mean, { right, wrong, skipped: 0 }, 4)
      if (known >= low && known <= high) inside++
      width += high - low
    }
    rows.push([
      `a topic, prior mean ${mean}, ${items} items`,
      percent(inside, runs),
      (width / runs).toFixed(2),
    ])
  }

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
const noRatings = parts.ratings.parse({})
/** Whole candidates: the section's mean from its prior, topics about it, every item answered. */
for (const [name, byTopic] of [
  ['whole candidate, counted by topic', true],
  ['whole candidate, section totals only', false],
] as const) {
  let [topicsIn, sectionsIn] = [0, 0]
  for (let run = 0; run < runs; run++) {
    const centre = beta(0.5)
    const known = exam.topics.map(() => beta(centre))
    const counts = known.map((k) => answers(k, 10, 4))
    const sum = counts.reduce((a, b) => ({ ...a, right: a.right + b.right, wrong: a.wrong + b.wrong }))
    const counted = {
      groups: { 's-items': sum },
      topics: byTopic ? Object.fromEntries(counts.map((own, at) => [`t${at}`, own])) : {},
    }
    const found = diagnose(exam, [{ kind: 'diagnostic', counts: counted }], noRatings)
    found.topics.forEach(({ low, high }, at) => known[at]! >= low && known[at]! <= high && topicsIn++)
    const whole = known.reduce((a, b) => a + b, 0) / known.length
    const [section] = found.sections
    if (whole >= section!.low && whole <= section!.high) sectionsIn++
  }
  rows.push([`${name}: its topics`, percent(topicsIn, runs * 6), ''])
  rows.push([`${name}: its section`, percent(sectionsIn, runs), ''])
}
table(
  `Diagnosis: how often the 80% range holds the truth, ${runs} simulated candidates a row`,
  ['case', 'held', 'mean width'],
  rows,
)

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
const state = diagnose(wide, [], noRatings)
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
    ['diagnosis of 400 topics', time(() => void diagnose(wide, [], noRatings)), ''],
    [
      'ten most telling questions of 400 topics',
      time(
        () =>
          void tellingQuestions(
            wide,
            state,
            wide.topics.map(() => 1),
          ),
      ),
      '',
    ],
    ['50,000 item responses read and counted', time(() => void readResponses(text, huge), 5), '2000'],
  ],
)
