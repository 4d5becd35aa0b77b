import { type ExamFormat, parts } from '@climber/contract'
import {
  dayNumber,
  type Kind,
  paperScore,
  planOdds,
  assess,
  previewPlan,
  sectionRange,
  topicsOf,
  withPlan,
} from '@climber/core'
import { shippedExams as exams } from './learners/exams'
import { kindNamed } from './learners/kinds'
import { beginning, firstMoment, passes, sits } from './learners/life'
import { own } from './learners/own'
import { numbers } from './shared/numbers'
import { table } from './table'

/**
 * What an hour counts by: plans made by points, and by the odds of the target and every cut, of the same people, who keep them whole. What
 * Climber tells of each, and how often the paper is passed in the end. LIVES sets how many of each.
 */
const lives = Number(process.env['LIVES'] ?? 60)
const papers = 40
const kinds: [string, Kind][] = [
  ['own kind', own()],
  ['power law', kindNamed('power law')],
  ['traces, fatigue', kindNamed('traces, fatigue')],
]

/** Cuts somewhere about the middle of each scale. */
function withCuts(exam: ExamFormat, seed: number): ExamFormat {
  const random = numbers(seed * 7919 + 1)
  const sections = exam.sections.map((section) => {
    const { low, high } = sectionRange(section)
    return { ...section, cut: Math.round(low + (0.4 + 0.35 * random()) * (high - low)) }
  })
  return { ...exam, sections }
}

/** What is told of a plan, and how often it is enough. */
function lived(kind: Kind, of: ExamFormat, seed: number, counts: 'odds' | 'points') {
  const { exam, person, random, record, target } = beginning(kind, of, seed)
  const settings = parts.settings.parse({ schools: { counts } })
  const made = previewPlan({ ...record, settings }, firstMoment, seed)
  if (!made) return undefined
  const { odds } = planOdds(assess(withPlan(record, made.plan), firstMoment))!
  const place = new Map(exam.topics.map(({ id }, at) => [id, at]))
  for (const session of made.plan.sessions)
    if (session.kind !== 'errand')
      person.works(
        dayNumber(session.date),
        session.kind,
        session.minutes,
        topicsOf(session).map((id) => place.get(id)!),
      )
  let passed = 0
  for (let paper = 0; paper < papers; paper++) {
    const { groups } = sits(person, exam, dayNumber(exam.sittings[0]!.date), random, 0)
    const { sections, composite } = paperScore(exam, groups)!
    const scaled = sections.map((own) => own.scaled)
    if (passes(exam, target, composite, scaled)) passed++
  }
  return { told: odds!, came: passed / papers }
}

const rows: (string | number)[][] = []
for (const [name, kind] of kinds)
  for (const cuts of [false, true]) {
    const pairs = Array.from({ length: lives }, (_, seed) => {
      const of = exams[seed % exams.length]!
      const exam = cuts ? withCuts(of, seed) : of
      const [points, odds] = (['points', 'odds'] as const).map((counts) =>
        lived(kind, exam, seed + 1, counts),
      )
      return points && odds ? [{ points, odds }] : []
    }).flat()
    const mean = (of: (pair: (typeof pairs)[number]) => number) =>
      pairs.reduce((sum, pair) => sum + of(pair), 0) / pairs.length
    const gain = (of: (pair: (typeof pairs)[number]) => number) => {
      const middle = mean(of)
      const sd = Math.sqrt(mean((pair) => (of(pair) - middle) ** 2))
      return `${(100 * middle).toFixed(1)} ± ${((100 * sd) / Math.sqrt(pairs.length)).toFixed(1)}`
    }
    rows.push([
      name,
      cuts ? 'with cuts' : 'no cuts of ours',
      pairs.length,
      (100 * mean(({ points }) => points.told)).toFixed(1),
      gain(({ points, odds }) => odds.told - points.told),
      (100 * mean(({ points }) => points.came)).toFixed(1),
      gain(({ points, odds }) => odds.came - points.came),
    ])
  }
table(
  'What an hour counts by',
  ['kind', 'cuts', 'lives', 'told by points', 'by odds', 'came by points', 'by odds'],
  rows,
)
