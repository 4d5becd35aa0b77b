import type { PlanSession } from '@climber/contract'
import {
  assess,
  type Assessment,
  dayNumber,
  examShares,
  makePlan,
  minuteOf,
  planInput,
  timedSeconds,
  weekdayOf,
} from '@climber/core'
import {
  alternatives,
  type Deed,
  deedsOf,
  inOwnSlots,
  inSameSlots,
  minutesOf,
  seenOf,
} from './learners/alternatives'
import { type Anyone, anyone } from './learners/anyone'
import { factByFact } from './learners/facts'
import { grasping } from './learners/grasp'
import type { Kind, Person } from './learners/kind'
import { firstMoment } from './learners/life'
import { own } from './learners/own'
import { powerLaw } from './learners/powerLaw'
import { traces } from './learners/traces'
import { table } from './table'

/**
 * Climber's plans against plain alternatives at exactly equal minutes, on random candidates and simulated learners of five kinds, four of
 * which are not the model's. What counts is the share of the exam's marks on the day, of a hundred. PEOPLE sets how many; HALF is `tune`
 * (odd seeds) or `tell` (even ones, the default): settings are chosen on one half and reported on the other.
 */
const people = Number(process.env['PEOPLE'] ?? 100)
const odd = process.env['HALF'] === 'tune' ? 1 : 0
const only = process.env['KIND']
const kinds: [string, Kind][] = [
  ['own kind', own()],
  ['power law', powerLaw],
  ['traces, fatigue', traces],
  ['fact by fact', factByFact],
  ['grasping', grasping],
]
const days = 8

/** The share of the exam's marks on the day, of a hundred, after deeds. */
function scoreOf({ exam, person }: Anyone, deeds: Deed[], day: number): number {
  const one: Person = person()
  for (const { day: on, kind, minutes, topics, timed } of deeds) {
    one.works(on, kind === 'study' ? 'learn' : kind, minutes, topics)
    if (timed) one.times(timed)
  }
  const place = new Map(exam.sections.map(({ id }, at) => [id, at]))
  const reach = exam.sections.map((_, at) => {
    let sum = 0
    for (let turn = 0; turn < days; turn++) sum += one.reaches(at)
    return sum / days
  })
  return (
    100 *
    examShares(exam).reduce(
      (sum, share, at) => sum + share * one.knows(at, day) * reach[place.get(exam.topics[at]!.section)!]!,
      0,
    )
  )
}

/** Sessions of each full week before the taper. */
function fullWeeks(sessions: PlanSession[], exam: number, taper: number): PlanSession[][] {
  const first = dayNumber(firstMoment.date)
  return Array.from({ length: Math.max(0, Math.floor((exam - taper - first) / 7)) }, (_, week) =>
    sessions.filter(({ date }) => Math.floor((dayNumber(date) - first) / 7) === week),
  )
}

/** What a tutor would look for in a plan. */
function looks(assessment: Assessment, sessions: PlanSession[], exam: number) {
  const planned = sessions.filter(({ status }) => status === 'planned')
  const tests = planned.filter(({ kind }) => kind === 'test')
  const share = examShares(assessment.record.exam)
  const met = new Set(planned.flatMap((session) => ('topics' in session ? session.topics : [])))
  const { windows } = assessment.record.availability
  const last = exam - assessment.record.settings.taperDays
  let painted = 0
  for (let day = dayNumber(firstMoment.date); day < last; day++)
    for (const { weekday, from, to } of windows)
      if (weekday === weekdayOf(day)) painted += minuteOf(to) - minuteOf(from)
  const spent = planned.reduce((sum, { kind, minutes }) => (kind === 'errand' ? sum : sum + minutes), 0)
  return {
    used: spent / painted,
    tests: tests.length,
    last: tests.some(({ date }) => exam - dayNumber(date) <= 10),
    untimed: fullWeeks(planned, exam, assessment.record.settings.taperDays).filter(
      (week) => !week.some((session) => session.kind === 'test' || timedSeconds(session)),
    ).length,
    crumbs: planned.filter(({ kind, minutes }) => minutes < 25 && kind !== 'light' && kind !== 'errand')
      .length,
    untouched: assessment.known.filter(
      (known, at) => share[at]! > 0.02 && known < 0.5 && !met.has(assessment.record.exam.topics[at]!.id),
    ).length,
  }
}

const mean = (list: number[]) => list.reduce((a, b) => a + b, 0) / Math.max(1, list.length)
const error = (list: number[]) => {
  const middle = mean(list)
  return Math.sqrt(mean(list.map((one) => (one - middle) ** 2)) / Math.max(1, list.length))
}
const rows: (string | number)[][] = []
const seenRows: (string | number)[][] = []
for (const [name, kind] of kinds) {
  if (only && !name.startsWith(only)) continue
  const ours: number[] = []
  const idle: number[] = []
  const behind = alternatives.map(() => ({ same: [] as number[], own: [] as number[] }))
  const found: ReturnType<typeof looks>[] = []
  for (let number = 1; number <= people; number++) {
    const some = anyone(kind, 2 * number - odd)
    const ratio = Number(process.env['RATIO'] ?? 1.5)
    some.record = { ...some.record, settings: { ...some.record.settings, reviewRatio: ratio } }
    const assessment = assess(some.record, firstMoment)
    const { sitting } = assessment
    if (!sitting) continue
    const { sessions } = makePlan(planInput(assessment, sitting, 1))
    const exam = dayNumber(sitting.date)
    const deeds = deedsOf(some.exam, sessions)
    const seen = seenOf(assessment)
    const score = scoreOf(some, deeds, exam)
    ours.push(score)
    idle.push(scoreOf(some, [], exam))
    found.push(looks(assessment, sessions, exam))
    alternatives.forEach((other, at) => {
      behind[at]!.same.push(score - scoreOf(some, inSameSlots(other, deeds, seen), exam))
      const free = inOwnSlots(other, some.record, exam, minutesOf(deeds), seen)
      behind[at]!.own.push(score - scoreOf(some, free, exam))
    })
  }
  alternatives.forEach((other, at) => {
    const told = (list: number[]) => `${mean(list).toFixed(2)} ± ${error(list).toFixed(2)}`
    rows.push([
      name,
      other.name,
      at ? '' : mean(idle).toFixed(1),
      at ? '' : mean(ours).toFixed(2),
      told(behind[at]!.same),
      told(behind[at]!.own),
    ])
  })
  const some = (of: (one: (typeof found)[number]) => boolean) => found.filter(of).length
  seenRows.push([
    name,
    found.length,
    mean(found.map(({ used }) => 100 * used)).toFixed(1),
    some(({ tests }) => !tests),
    some(({ untimed }) => untimed > 0),
    some(({ last }) => !last),
    some(({ crumbs }) => crumbs > 0),
    some(({ untouched }) => untouched > 0),
  ])
}
table(
  `Climber ahead, of a hundred marks, at equal minutes (${people} candidates of each kind)`,
  ['kind', 'against', 'no work', 'Climber', 'ahead in its slots', 'ahead of its own'],
  rows,
)
table(
  'Plans in which',
  [
    'kind',
    'plans',
    '% of time used',
    'no test',
    'a week untimed',
    'none in the last ten days',
    'a crumb',
    'a topic over 2% untouched',
  ],
  seenRows,
)
