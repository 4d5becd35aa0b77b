import { type ExamFormat } from '@climber/contract'
import { assess, compositeRange, dateOf, type Kind, type Odds, planOdds } from '@climber/core'
import { randomExam, shippedExams as exams } from './learners/exams'
import { kindNamed } from './learners/kinds'
import { type Life, live, passes } from './learners/life'
import { normalOf } from './learners/normal'
import { own } from './learners/own'
import { table } from './table'

/**
 * Whole lives: a plan is made, lived and not mended, tests are logged, and at the end the paper is sat. What Climber says on the way is
 * held against that. The learners share no code with its model (learners/, one file a kind). LIVES sets how many of each; EXAMS=random takes
 * exams that nobody thought of in place of the four that ship.
 */
const lives = Number(process.env['LIVES'] ?? 500)
const looks = [0, 1, 3, 6]
/** The four that ship, or exams that nobody thought of. */
const random = process.env['EXAMS'] === 'random'
const examOf = (seed: number) => (random ? randomExam(seed) : exams[seed % exams.length]!)
const kinds: [string, Kind][] = [
  ['own kind', own()],
  ['no pace limit', own({ pace: () => 0.5 })],
  ['makers run hard', own({ maker: (random) => -0.35 + 0.2 * normalOf(random) })],
  ['power law', kindNamed('power law')],
  ['traces, fatigue', kindNamed('traces, fatigue')],
]

/** What came of the figures that were told so many tests after the start. */
interface Told {
  lives: number
  inside: number
  sections: number
  sectionsInside: number
  width: number
  bias: number
  odds: { told: number; reached: boolean }[]
}
const nothing = (): Told => ({
  lives: 0,
  inside: 0,
  sections: 0,
  sectionsInside: 0,
  width: 0,
  bias: 0,
  odds: [],
})

const within = (value: number, { low, high }: { low: number; high: number }) => value >= low && value <= high

function compare(into: Told, life: Life, { forecast, odds, sections }: Spoken): void {
  const { low, high } = compositeRange(life.exam)
  into.lives++
  if (within(life.composite, forecast)) into.inside++
  sections.forEach((own, at) => {
    into.sections++
    if (within(life.sections[at]!, own)) into.sectionsInside++
  })
  into.width += (forecast.high - forecast.low) / (high - low)
  into.bias += (forecast.mean - life.composite) / (high - low)
  const reached = passes(life.exam, life.target, life.composite, life.sections)
  into.odds.push({ told: odds, reached })
}

interface Spoken {
  forecast: { mean: number; low: number; high: number }
  odds: number
  sections: { low: number; high: number }[]
}
/** Every section with a cut that nobody misses, so that its forecast is told too. */
const withCuts = (exam: ExamFormat): ExamFormat => ({
  ...exam,
  sections: exam.sections.map((section) => ({ ...section, cut: section.cut ?? -1e6 })),
})

const rateOf = (list: { told: number; reached: boolean }[]) =>
  list.filter(({ reached }) => reached).length / Math.max(1, list.length)
const percent = (share: number) => `${(100 * share).toFixed(1)}%`

const rows: (string | number)[][] = []
const bins = new Map<number, { told: number; reached: boolean }[]>()
for (const [name, kind] of kinds) {
  const kept = new Map(looks.map((tests) => [tests, nothing()]))
  const rate = new Map(looks.map((tests) => [tests, nothing()]))
  for (let seed = 1; seed <= lives; seed++) {
    const life = live(kind, examOf(seed), seed, random ? 0.48 : undefined)
    if (!life) continue
    for (const [tests, { record, day }] of life.looks) {
      const found: Odds = planOdds(
        assess({ ...record, exam: withCuts(life.exam) }, { date: dateOf(day), minute: 1200 }),
      )!
      const sections = found.cuts.map(({ forecast }) => forecast)
      compare(kept.get(tests)!, life, { forecast: found.forecast, odds: found.odds!, sections })
      const { forecast, odds } = found.atRate ?? found
      compare(rate.get(tests)!, life, { forecast, odds: odds!, sections })
      const bin = Math.min(9, Math.floor(10 * odds!))
      bins.set(bin, [
        ...(bins.get(bin) ?? []),
        { told: odds!, reached: rate.get(tests)!.odds.at(-1)!.reached },
      ])
    }
  }
  for (const tests of looks)
    for (const [words, all] of [
      ['at the rate', rate],
      ['if kept', kept],
    ] as const) {
      const own = all.get(tests)!
      if (!own.lives) continue
      const base = rateOf(own.odds)
      const brier = own.odds.reduce((sum, { told, reached }) => sum + (told - Number(reached)) ** 2, 0)
      rows.push([
        name,
        tests,
        words,
        own.lives,
        percent(own.inside / own.lives),
        percent(own.sectionsInside / own.sections),
        percent(own.width / own.lives),
        percent(own.bias / own.lives),
        (brier / own.lives).toFixed(3),
        (base * (1 - base)).toFixed(3),
      ])
    }
}
table(
  `Lives, ${lives} of each kind that have six tests: how often the 80% range holds, and the odds of target and cuts`,
  ['kind', 'tests', 'told', 'lives', 'whole', 'sections', 'width', 'bias', 'Brier', 'of the mean'],
  rows,
)
table(
  'How often what was told, at the rate of keeping, came true: all kinds together',
  ['told', 'of', 'mean told', 'came true'],
  [...bins]
    .sort(([a], [b]) => a - b)
    .map(([bin, list]) => [
      `${bin / 10} to ${(bin + 1) / 10}`,
      list.length,
      percent(list.reduce((sum, { told }) => sum + told, 0) / list.length),
      percent(rateOf(list)),
    ]),
)
