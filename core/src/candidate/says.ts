import type { Attempt, Conditions, ExamFormat } from '@climber/contract'
import { calibration, type Calibrated, luckyAnswers } from '../attempts/says/calibration'
import { type Changed, changedAnswers } from '../attempts/says/changes'
import { conditionEffect, type ConditionEffect, leastOfEach } from '../attempts/says/conditions'
import { type Drift, driftIn, drifts } from '../attempts/says/drift'
import type { ReadItem } from '../attempts/says/item'
import { chanceOfRun, leastRun, type MissRun, missRuns } from '../attempts/says/runs'
import { timeInAll, timeSpent, type TimeSpent } from '../attempts/says/time'
import { attemptTitle } from '../attempts/sat'
import type { ScoredTest } from '../attempts/scored'
import { makerOf } from '../learner/answers'
import { weightedMean } from '../learner/estimate'
import { dayNumber } from '../time/day'
import { assess, type Assessment, learnerOf } from './assessment'
import type { CandidateRecord, Moment } from './moment'
import { reader } from './readItems'

/** Draws of the permutations: the same test says the same whenever it is asked. */
const seed = 7001

/** What one test says beyond its score, or several together. */
export interface Says {
  tests: { id: string; title: string; date?: string }[]
  sections: SectionSays[]
  changed: Changed
  calibrated: Calibrated[]
  lucky: ReadItem[]
  time: TimeSpent
  /** Answered after the bell. */
  late: { item: number; test: string; answer: string; seconds?: number }[]
  conditions: { name: ConditionName; effect: ConditionEffect }[]
}
export interface SectionSays {
  id: string
  title: string
  /** One list for each test, in the order of the paper. */
  items: ReadItem[][]
  drift?: Drift
  /** More than chance explains, as many sections as were looked at. */
  drifts: boolean
  runs: (MissRun & { test: string })[]
  /** Chance of a run as long as the longest, or longer, where nothing is wrong. */
  runChance?: number
}
export type ConditionName = keyof Pick<Conditions, 'examHour' | 'alone' | 'noise' | 'tired'>
const conditionNames: ConditionName[] = ['examHour', 'alone', 'noise', 'tired']

/** Possible candidates that a result is expected by. */
const fewer = 250

/** What each of some tests was above what was known before it let expect, its maker's papers being as they are found to be. */
function residualsOf(assessment: Assessment, tests: ScoredTest[]): Map<string, number> {
  const { record, shelf, today } = assessment
  return new Map(
    tests.map(({ test, score }) => {
      const before = { ...record, attempts: record.attempts.filter(({ date }) => !date || date < test.date) }
      const learner = learnerOf(before, shelf, Math.min(today, dayNumber(test.date)), fewer)
      const [exposure] = learner.exposures([dayNumber(test.date)])
      const maker = makerOf(record.exam, test, record.materials)
      const { composite } = learner.scores(exposure!, { ...(maker !== undefined && { maker }) })
      return [test.id, score.composite - weightedMean(composite, learner.weights)]
    }),
  )
}

function conditionsSaid(assessment: Assessment): Says['conditions'] {
  const counted = assessment.scored.filter(({ test }) => !test.seen)
  // Only where some were sat with a condition and some without is anything worked out.
  const compared = conditionNames.some(
    (name) =>
      counted.filter(({ test }) => test.conditions?.[name]).length >= leastOfEach &&
      counted.filter(({ test }) => test.conditions?.[name] === false).length >= leastOfEach,
  )
  if (!compared) return []
  const residuals = residualsOf(assessment, counted)
  const tests = counted.map(({ test }) => ({ test, residual: residuals.get(test.id)! }))
  return conditionNames.flatMap((name) => {
    const effect = conditionEffect(
      tests.map(({ test, residual }) => ({ id: test.id, residual, held: test.conditions?.[name] })),
      seed,
    )
    return effect ? [{ name, effect }] : []
  })
}

function sectionSays(
  exam: ExamFormat,
  id: string,
  tests: { attempt: Attempt; read: Map<string, ReadItem[]> }[],
): Omit<SectionSays, 'drifts'> {
  const own = tests.flatMap(({ attempt, read }) => {
    const items = read.get(id)
    return items ? [{ attempt, items }] : []
  })
  const lists = own.map(({ items }) => items)
  const runs = own.flatMap(({ attempt, items }) =>
    missRuns(id, items).map((run) => ({ ...run, test: attempt.id })),
  )
  const longest = Math.max(0, ...runs.map(({ items }) => items.length))
  const none = lists.reduce(
    (chance, items) =>
      chance *
      (1 -
        chanceOfRun(
          items.filter(({ reached }) => reached).map(({ expected }) => expected),
          longest,
        )),
    1,
  )
  const drift = driftIn(id, lists, seed)
  return {
    id,
    title: exam.sections.find((section) => section.id === id)!.title,
    items: lists,
    ...(drift && { drift }),
    runs,
    ...(longest >= leastRun && { runChance: 1 - none }),
  }
}

/**
 * What tests say beyond their scores: of those with these ids, of all that have items where none is named. Tests whose items are
 * not known, sets and drills are left out. Source: docs/models.md, 7.
 */
export function testsSay(record: CandidateRecord, now: Moment, ids: readonly string[] = []): Says {
  const assessment = assess(record, now)
  const { exam } = record
  const { paper } = reader(assessment)
  const tests = record.attempts
    .filter(({ id, items }) => items?.length && (!ids.length || ids.includes(id)))
    .map((attempt) => ({ attempt, read: paper(attempt) }))
    .filter(({ read }) => read.size > 0)
  const present = exam.sections.filter(({ id }) => tests.some(({ read }) => read.has(id)))
  const said = present.map(({ id }) => sectionSays(exam, id, tests))
  const looked = said.filter(({ drift }) => drift).length
  const all = tests.flatMap(({ read }) => [...read.values()].flat())
  return {
    tests: tests.map(({ attempt }) => ({
      id: attempt.id,
      title: attemptTitle(exam, attempt),
      ...(attempt.date && { date: attempt.date }),
    })),
    sections: said.map((one) => ({ ...one, drifts: one.drift ? drifts(one.drift, looked) : false })),
    changed: changedAnswers(all),
    calibrated: calibration(all),
    lucky: luckyAnswers(all),
    time: timeInAll(tests.flatMap(({ read }) => [...read.values()].map(timeSpent))),
    late: tests.flatMap(({ attempt }) =>
      (attempt.items ?? []).flatMap(({ item, late }) => (late ? [{ item, test: attempt.id, ...late }] : [])),
    ),
    conditions: conditionsSaid(assessment),
  }
}
