import type { Section } from '@climber/contract'
import { diagnosticOf } from '../attempts/sat'
import { ln } from '../exact/functions'
import type { Levels } from '../hours/landscape'
import { weightedMean } from '../learner/estimate'
import type { Scores } from '../learner/paper'
import { lossBudget, rawNeeded, type StageNeed, stageNeeds } from '../scoring/needed'
import { choicesOf, groupsMet, groupsOf, highestRaw, itemsOf } from '../scoring/raw'
import { filledGroups } from '../scoring/fill'
import { compositeRange, mustReach, sectionRange, tablesOf } from '../scoring/composite'
import { dayNumber } from '../time/day'
import {
  type Assessment,
  assess,
  exposureOn,
  type NextHour,
  nextHour,
  scoresOn,
  sectionKnownBy,
} from './assessment'
import type { CandidateRecord, Moment } from './moment'
import { afterHours, type Values, valuesOf } from './values'
import { hoursAhead, spoken } from './verdict'

/** Shares known from which a topic is called fair, and strong. */
export const fair = 0.5
export const strong = 0.85

export interface SectionGap {
  section: string
  /** Scaled score that the budget is for. */
  wanted: number
  cut?: number
  /** What this section must give for the whole target if the others stay where they are, or rise with the hours. */
  mustGive?: { othersToday: number; othersLater: number; othersWanted: number }
  today: number
  later: number
  /** By the strictest table; undefined where one does not reach so far. Of an adaptive section, see `stages`. */
  rawNeeded?: number
  /** Marks of a full paper. */
  fullMarks: number
  /** What each second stage of an adaptive section asks, by the format's own tables. */
  stages?: StageNeed[]
  /** Over all tables known (the exam format's and every form's own): the strictest counts, the easiest is the band. */
  strictest?: { wrong: number; blank: number }[]
  easiest?: { wrong: number; blank: number }[]
  tables: number
  /** Wrong and blank of the newest paper. */
  last?: { wrong: number; blank: number; of: string }
  /** Wrong and blank of a paper sat today, on average of the possible candidates; items not reached are blank. */
  expected?: { wrong: number; blank: number }
  low: number
  high: number
}

export interface TopicGap extends NextHour {
  id: string
  title: string
  section: string
  /** Share of its section. */
  share: number
  /** How much a point here counts towards the target and every cut, against one anywhere; absent where all count alike. */
  counts?: number
  /** What an hour more adds to the odds, after the hours shared out. */
  chance?: number
  /** Hours of the best allocation of `hours`. */
  hours: number
  hoursToFair: number
  hoursToStrong: number
}

export interface Gap {
  /** Hours that are shared out, and those there are until the sitting. */
  hours: number
  available: number
  points: number
  sections: SectionGap[]
  topics: TopicGap[]
}

/** Hours that bring a topic from `known` to `level`, 0 if it is there. */
export const hoursTo = (known: number, level: number, tau: number): number =>
  known >= level ? 0 : tau * ln((1 - known) / (1 - level))

/** The smallest, or largest, budget at each number wrong over several tables; it ends where one of them does. */
function envelope(
  budgets: { wrong: number; blank: number }[][],
  pick: (values: number[]) => number,
  all: boolean,
): { wrong: number; blank: number }[] {
  const lengths = budgets.map(({ length }) => length)
  const length = all ? Math.min(...lengths) : Math.max(...lengths)
  return Array.from({ length }, (_, wrong) => ({
    wrong,
    blank: pick(budgets.flatMap((budget) => budget[wrong]?.blank ?? [])),
  }))
}

function lastPaper(assessment: Assessment, section: Section): SectionGap['last'] {
  const newest = assessment.scored[assessment.scored.length - 1]
  const paper = newest?.test ?? diagnosticOf(assessment.record.attempts)
  const filled = filledGroups(assessment.record.exam, paper?.counts ?? { groups: {}, topics: {} })
  if (filled.shared.has(section.id)) return undefined
  const counts = filled.groups
  const of = paper?.date ?? ''
  const groups = groupsMet(section, counts).map(({ id }) => id)
  if (!groups.every((id) => counts[id])) return undefined
  return {
    wrong: Math.round(groups.reduce((sum, id) => sum + counts[id]!.wrong, 0)),
    blank: Math.round(groups.reduce((sum, id) => sum + counts[id]!.blank, 0)),
    of,
  }
}

/** Wrong and blank of a section that are to be expected today. */
function expectedLoss(assessment: Assessment, at: number, section: Section) {
  const { learner, today } = assessment
  const known = sectionKnownBy(assessment, at)
  const reach = learner.reach(exposureOn(assessment, today))[at]!
  const { blanks } = learner.candidates
  const items = itemsOf(section)
  const missed = 1 - 1 / choicesOf(groupsOf(section))
  const mean = (of: (one: number) => number) =>
    items *
    weightedMean(
      known.map((_, one) => of(one)),
      learner.weights,
    )
  return {
    wrong: mean((one) => (1 - known[one]!) * reach[one]! * (1 - blanks[one]!) * missed),
    blank: mean((one) => (1 - known[one]!) * reach[one]! * blanks[one]! + 1 - reach[one]!),
  }
}

/** Mean scores of the possible candidates. */
function levelsIn({ learner }: Assessment, { sections, composite }: Scores): Levels {
  const { weights } = learner
  return {
    sections: sections.map((own) => weightedMean(own, weights)),
    composite: weightedMean(composite, weights),
  }
}

/** Scores of the exam day with the plan, or of today where there is none ahead. */
const atExam = (assessment: Assessment): Scores =>
  scoresOn(
    assessment,
    Math.max(assessment.today, assessment.sitting ? dayNumber(assessment.sitting.date) : 0),
  )

/**
 * Levels with so many hours shared out as they pay. Where a plan stands, from what it leads to: by as much as these hours are worth more, or
 * less, than those it has for topics, since how it spaces them is known only of the plan itself.
 */
function withHours(assessment: Assessment, hours: number, day: number): Levels {
  const shared = (own: number) =>
    levelsIn(assessment, afterHours(assessment, valuesOf(assessment, own, day).hours, day))
  const wished = shared(hours)
  if (!assessment.ahead.length) return wished
  const { exam } = assessment.record
  const planned = levelsIn(assessment, atExam(assessment))
  const usual = shared(hoursAhead(assessment))
  const moved = (from: number, by: number, { low, high }: { low: number; high: number }) =>
    Math.min(high, Math.max(low, from + by))
  return {
    sections: planned.sections.map((level, at) =>
      moved(level, wished.sections[at]! - usual.sections[at]!, sectionRange(exam.sections[at]!)),
    ),
    composite: moved(planned.composite, wished.composite - usual.composite, compositeRange(exam)),
  }
}

/** Every topic: what its next hour brings and counts, and the hours that it gets and wants. */
const topicGaps = (assessment: Assessment, { hours, counts, chances }: Values): TopicGap[] =>
  assessment.record.exam.topics.map(({ id, title, section, share }, at) => {
    const next = nextHour(assessment, at)
    return {
      id,
      title,
      section,
      share,
      ...next,
      ...(counts && { counts: counts[assessment.landscape.sectionOf[at]!]! }),
      ...(chances && { chance: chances[at]! }),
      hours: hours[at]!,
      hoursToFair: hoursTo(next.known, fair, next.tau),
      hoursToStrong: hoursTo(next.known, strong, next.tau),
    }
  })

/**
 * What it takes, section by section and topic by topic. `hours` are shared out (those there are, when absent); `wanted`
 * are scaled scores by section, a section's cut or what the target asks of it when absent.
 */
export function gap(
  record: CandidateRecord,
  now: Moment,
  hours?: number,
  wanted: Record<string, number> = {},
): Gap {
  const { assessment } = spoken(assess(record, now))
  const { exam } = record
  const { sitting, today } = assessment
  const available = sitting ? hoursAhead(assessment) : 0
  const spent = hours ?? available
  const day = sitting ? dayNumber(sitting.date) : today
  const valued = valuesOf(assessment, spent, day)
  const start = levelsIn(assessment, scoresOn(assessment, today))
  const later =
    hours === undefined ? levelsIn(assessment, atExam(assessment)) : withHours(assessment, hours, day)
  const target = assessment.goal.mean
  const wished = exam.sections.map(({ id }, at) => wanted[id] ?? later.sections[at]!)
  return {
    hours: spent,
    available,
    points: later.composite - start.composite,
    sections: exam.sections.map((section, at) => {
      const { low, high } = sectionRange(section)
      const must = (levels: number[]) => mustReach(exam, levels, at, target!)
      const mustGive =
        target === undefined || must(later.sections) === undefined
          ? undefined
          : {
              othersToday: must(start.sections)!,
              othersLater: must(later.sections)!,
              othersWanted: must(wished)!,
            }
      const asked = wanted[section.id] ?? section.cut ?? mustGive?.othersLater ?? (low + high) / 2
      const scaled = Math.min(high, Math.max(low, asked))
      const tables = tablesOf(exam, section)
      const budgets = section.stages ? [undefined] : tables.map((table) => lossBudget(section, table, scaled))
      const whole = budgets.every((budget) => budget !== undefined)
        ? (budgets as { wrong: number; blank: number }[][])
        : undefined
      const needed = section.stages ? [undefined] : tables.map((table) => rawNeeded(section, table, scaled))
      return {
        section: section.id,
        wanted: scaled,
        cut: section.cut,
        mustGive,
        today: start.sections[at]!,
        later: later.sections[at]!,
        rawNeeded: needed.some((raw) => raw === undefined) ? undefined : Math.max(...(needed as number[])),
        strictest: whole && envelope(whole, (values) => Math.min(...values), true),
        easiest: whole && envelope(whole, (values) => Math.max(...values), false),
        tables: tables.length,
        last: lastPaper(assessment, section),
        ...(!section.stages && { expected: expectedLoss(assessment, at, section) }),
        fullMarks: highestRaw(section),
        stages: section.stages && stageNeeds(section, scaled),
        low,
        high,
      }
    }),
    topics: topicGaps(assessment, valued),
  }
}
