import { ln } from '../exact/functions'
import { knownAfter, yieldOf } from '../hours/allocate'
import { lossBudget, rawNeeded } from '../scoring/needed'
import { rangeOf } from '../scoring/conversion'
import { compositeWeights } from '../scoring/standing'
import { dayNumber } from '../time/day'
import { type Assessment, assess, planInput, targetOf } from './assess'
import { studyHours } from '../plan/makePlan'
import type { CandidateRecord, Moment } from './record'

/** Shares known from which a topic is called fair, and strong. */
export const fair = 0.5
export const strong = 0.85

export interface SectionGap {
  section: string
  /** Scaled score that the budget is for. */
  wanted: number
  cut?: number
  /** What this section must give for the whole target if the others stay where they are, or rise with the hours. */
  mustGive?: { othersToday: number; othersLater: number }
  today: number
  later: number
  rawNeeded?: number
  /** Over all tables known (the exam format's and every form's own): the strictest counts, the easiest is the band. */
  strictest?: { wrong: number; blank: number }[]
  easiest?: { wrong: number; blank: number }[]
  tables: number
  /** Wrong and blank of the newest paper. */
  last?: { wrong: number; blank: number; of: string }
}

export interface TopicGap {
  id: string
  title: string
  section: string
  known: number
  /** Points that the next hour brings. */
  yield: number
  tau: number
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

function lastPaper(assessment: Assessment, groups: string[]): SectionGap['last'] {
  const newest = assessment.scored[assessment.scored.length - 1]
  const [counts, of] = newest
    ? [newest.test.counts, newest.test.date]
    : [assessment.record.diagnosis.sections, assessment.record.diagnosis.date ?? '']
  if (!groups.every((id) => counts[id])) return undefined
  return {
    wrong: groups.reduce((sum, id) => sum + counts[id]!.wrong, 0),
    blank: groups.reduce((sum, id) => sum + counts[id]!.blank, 0),
    of,
  }
}

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
  const assessment = assess(record, now)
  const { exam } = record
  const { landscape, known, sitting } = assessment
  const available =
    sitting && dayNumber(sitting.date) > assessment.today ? studyHours(planInput(assessment, sitting, 0)) : 0
  const spent = hours ?? available
  const start = landscape.startingFrom(known)
  const allocation = start.allocate(spent)
  const after = start.topics.map((topic, at) => start.atExam(at, knownAfter(topic, allocation.hours[at]!)))
  const later = start.levels(after)
  const weights = compositeWeights(exam)
  const target = targetOf(record)
  return {
    hours: spent,
    available,
    points: later.composite - start.now.composite,
    sections: exam.sections.map((section, at) => {
      const { low, high } = rangeOf(section.conversion)
      const others = (levels: number[]) =>
        levels.reduce((sum, level, other) => (other === at ? sum : sum + weights[other]! * level), 0)
      const must = (levels: number[]) => (target! - others(levels)) / weights[at]!
      const mustGive =
        target === undefined || !weights[at]
          ? undefined
          : { othersToday: must(start.now.sections), othersLater: must(later.sections) }
      const asked = wanted[section.id] ?? section.cut ?? mustGive?.othersLater ?? (low + high) / 2
      const scaled = Math.min(high, Math.max(low, asked))
      const tables = [
        section.conversion,
        ...exam.forms.flatMap(({ conversions }) => conversions[section.id] ?? []),
      ]
      const budgets = tables.map((table) => lossBudget(section, table, scaled))
      const whole = budgets.every((budget) => budget !== undefined)
        ? (budgets as { wrong: number; blank: number }[][])
        : undefined
      const needed = tables.map((table) => rawNeeded(section, table, scaled))
      return {
        section: section.id,
        wanted: scaled,
        cut: section.cut,
        mustGive,
        today: start.now.sections[at]!,
        later: later.sections[at]!,
        rawNeeded: needed.some((raw) => raw === undefined) ? undefined : Math.max(...(needed as number[])),
        strictest: whole && envelope(whole, (values) => Math.min(...values), true),
        easiest: whole && envelope(whole, (values) => Math.max(...values), false),
        tables: tables.length,
        last: lastPaper(
          assessment,
          section.groups.map(({ id }) => id),
        ),
      }
    }),
    topics: exam.topics.map((topic, at) => {
      const one = start.topics[at]!
      return {
        id: topic.id,
        title: topic.title,
        section: topic.section,
        known: one.known,
        yield: yieldOf(one),
        tau: one.tau,
        hours: allocation.hours[at]!,
        hoursToFair: hoursTo(one.known, fair, one.tau),
        hoursToStrong: hoursTo(one.known, strong, one.tau),
      }
    }),
  }
}
