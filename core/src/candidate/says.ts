import type { Attempt, Conditions, ExamFormat, ItemGroup } from '@climber/contract'
import { calibration, type Calibrated, luckyAnswers } from '../attempts/says/calibration'
import { type Changed, changedAnswers } from '../attempts/says/changes'
import { conditionEffect, type ConditionEffect } from '../attempts/says/conditions'
import { type Drift, driftIn, drifts } from '../attempts/says/drift'
import type { ReadItem } from '../attempts/says/item'
import { chanceOfRun, leastRun, type MissRun, missRuns } from '../attempts/says/runs'
import { timeInAll, timeSpent, type TimeSpent } from '../attempts/says/time'
import { countResponses, markedOutcome, type Slot } from '../attempts/responses'
import { attemptTitle, examOfAttempt, formOf } from '../attempts/sat'
import { logistic, logit } from '../exact/functions'
import { asSat } from '../exam/accommodation'
import { forecast } from '../learner/forecast'
import { assess, type Assessment } from './assessment'
import type { CandidateRecord, Moment } from './moment'
import { pacesOf } from './room'

/** Draws of the permutations: the same test says the same whenever it is asked. */
const seed = 7001
/** Odds of the first and the last item of a group that gets harder, against its middle, in logarithms. */
const rise = 0.8
const least = 0.03
/** What has been learned of a topic since its diagnosis leaves no more than this open. */
const mostUnsure = 0.12

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

/** Chance of a right answer: known, or guessed; in a group that gets harder, less from item to item. */
function expectedOf(group: ItemGroup, at: number, known: number): number {
  const guess = group.kind === 'choice' && group.choices ? 1 / group.choices : 0
  const right = Math.min(1 - least, Math.max(least, known + (1 - known) * guess))
  if (group.difficulty !== 'rising' || group.items < 2) return right
  return logistic(logit(right) + rise * (1 - (2 * at) / (group.items - 1)))
}

/** What is known of the topics, and of the sections, today. */
function knownBy({ record, known, landscape }: Assessment) {
  const byTopic = new Map(record.exam.topics.map(({ id }, at) => [id, known[at]!]))
  const bySection = new Map(record.exam.sections.map(({ id }, at) => [id, landscape.sectionKnown(at, known)]))
  return (section: string, topic?: string): number =>
    (topic === undefined ? undefined : byTopic.get(topic)) ?? bySection.get(section) ?? 0.5
}

/** How far the chance of a right answer may be off for the items of a topic alike, one sd. */
function unsureOf({ diagnosis }: Assessment) {
  const sds = new Map(diagnosis.topics.map(({ topic, sd }) => [topic, sd]))
  return ({ kind, choices }: ItemGroup, topic?: string): number => {
    const guess = kind === 'choice' && choices ? 1 / choices : 0
    return topic === undefined ? 0 : Math.min(mostUnsure, (sds.get(topic) ?? 0) * (1 - guess))
  }
}

/** Budgets of a section's items by their place on its paper, remembered for one question. */
function budgetsBy(assessment: Assessment) {
  const { exam, timeFactor } = asSat(assessment.record.exam, assessment.record.settings)
  const found = new Map<string, Map<string | undefined, number[]>>()
  return (section: string, stage?: string): number[] => {
    if (!found.has(section)) {
      const own = exam.sections.find(({ id }) => id === section)!
      const paces = pacesOf(assessment, section, Math.round(own.minutes * 60 * timeFactor))
      found.set(section, new Map(paces.map((pace) => [pace.stage, pace.budgets])))
    }
    const ways = found.get(section)!
    return ways.get(stage) ?? [...ways.values()][0]!
  }
}

/** The second stage that holds the last of these slots. */
const stageOf = (exam: ExamFormat, slots: Slot[]): string | undefined => {
  const last = slots[slots.length - 1]
  const section = exam.sections.find(({ id }) => id === last?.section)
  return section?.stages?.find(({ groups }) => groups.some(({ id }) => id === last?.group.id))?.id
}

/** Items of one test as they are read, section by section. */
function readAttempt(
  assessment: Assessment,
  attempt: Attempt,
  known: ReturnType<typeof knownBy>,
  budgets: ReturnType<typeof budgetsBy>,
  unsure: ReturnType<typeof unsureOf>,
): Map<string, ReadItem[]> {
  const { exam } = assessment.record
  const own = examOfAttempt(exam, attempt)
  const read = new Map<string, ReadItem[]>()
  if (!own || !attempt.items?.length) return read
  const form = formOf(exam, attempt)
  const byItem = new Map(attempt.items.map((response) => [response.item, response]))
  const { slots } = countResponses(own, attempt.items, form)
  for (const { id } of own.sections) {
    const mine = slots.filter(({ section }) => section === id)
    const outcomes = mine.map((slot) => markedOutcome(slot.group, byItem.get(slot.item)))
    const last = outcomes.reduce((found, outcome, at) => (outcome === 'blank' ? found : at), -1)
    if (last < 0) continue
    const paced = budgets(id, stageOf(exam, mine))
    read.set(
      id,
      mine.map((slot, place) => {
        const response = byItem.get(slot.item)
        const known_ = form?.items?.[slot.group.id]?.[slot.at]
        const topic = response?.topic ?? known_?.topic
        const { confidence, seconds } = response ?? {}
        return {
          item: slot.item,
          test: attempt.id,
          section: id,
          ...(topic && { topic }),
          outcome: outcomes[place]!,
          reached: place <= last,
          order: response?.order ?? slot.item,
          ...(seconds !== undefined && { seconds }),
          budget: paced[place] ?? 0,
          expected: expectedOf(slot.group, slot.at, known(id, topic)),
          unsure: unsure(slot.group, topic),
          marks: slot.group.perRight,
          perWrong: slot.group.perWrong,
          ...(confidence && { confidence }),
          answer: response?.answer ?? '',
          key: response?.key ?? known_?.key ?? '',
          changes:
            response?.changes ?? (response?.changedFrom ? [response.changedFrom, response.answer ?? ''] : []),
        }
      }),
    )
  }
  return read
}

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
  const known = knownBy(assessment)
  const budgets = budgetsBy(assessment)
  const unsure = unsureOf(assessment)
  const tests = record.attempts
    .filter(({ id, items }) => items?.length && (!ids.length || ids.includes(id)))
    .map((attempt) => ({ attempt, read: readAttempt(assessment, attempt, known, budgets, unsure) }))
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
