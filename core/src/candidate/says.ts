import type { Attempt, Conditions, ExamFormat } from '@climber/contract'
import { calibration, type Calibrated, luckyAnswers } from '../attempts/says/calibration'
import { type Changed, changedAnswers } from '../attempts/says/changes'
import { conditionEffect, type ConditionEffect } from '../attempts/says/conditions'
import { type Drift, driftIn, drifts } from '../attempts/says/drift'
import type { ReadItem } from '../attempts/says/item'
import { chanceOfRun, leastRun, type MissRun, missRuns } from '../attempts/says/runs'
import { timeInAll, timeSpent, type TimeSpent } from '../attempts/says/time'
import { attemptTitle } from '../attempts/sat'
import { forecast } from '../learner/forecast'
import { assess, type Assessment } from './assessment'
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

/** What each scored test was above what those before it let expect; tests of forms seen before are left out. */
function residualsOf({ scored, scales }: Assessment): Map<string, number> {
  const { model, tests } = scales.composite
  const found = new Map<string, number>()
  scored
    .filter(({ test }) => !test.seen)
    .forEach(({ test }, at) => {
      const own = tests[at]
      if (!own) return
      const { mean, offset } = forecast(model, tests.slice(0, at), own, false)
      found.set(test.id, own.score - mean - (own.source === 'other' ? offset : 0))
    })
  return found
}

function conditionsSaid(assessment: Assessment): Says['conditions'] {
  const residuals = residualsOf(assessment)
  const tests = assessment.scored.flatMap(({ test }) => {
    const residual = residuals.get(test.id)
    return residual === undefined ? [] : [{ test, residual }]
  })
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
