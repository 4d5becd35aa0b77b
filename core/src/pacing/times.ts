import type { CandidateRecord, ExamFormat, ItemResponse } from '@climber/contract'
import { exp, ln, square } from '../exact/functions'
import { normalCdf } from '../exact/normal'
import { countResponses, markedOutcome } from '../attempts/responses'
import { attemptTitle, examOfAttempt, isDrill } from '../attempts/sat'
import type { Solving } from './solving'

/** One item that was met against the clock. */
export interface TimedItem {
  section: string
  group: string
  /** Place in its group, from 0; unknown in a drill. */
  at?: number
  /** Number on the section's paper, from 1; unknown in a drill. */
  number?: number
  topic?: string
  seconds: number
  /** Solved: right, and not by a guess. */
  solved: boolean
  outcome: 'right' | 'wrong' | 'left'
}

/** A test that was sat with its items timed, section by section, in the order of the paper. */
export interface Trace {
  id: string
  title: string
  date?: string
  section: string
  items: TimedItem[]
}

/** Answers faster than this are taps, not times. */
const leastSeconds = 1

function traceOf(
  exam: ExamFormat,
  responses: ItemResponse[],
  formId: string | undefined,
): Map<string, TimedItem[]> {
  const form = exam.forms.find(({ id }) => id === formId)
  const { slots } = countResponses(exam, responses, form)
  const byItem = new Map(responses.map((response) => [response.item, response]))
  const sections = new Map<string, TimedItem[]>()
  const numbers = new Map<string, number>()
  for (const { item, section, group, at } of slots) {
    const number = (numbers.get(section) ?? 0) + 1
    numbers.set(section, number)
    const response = byItem.get(item)
    if (response?.seconds === undefined || response.seconds < leastSeconds) continue
    const marked = markedOutcome(group, response)
    const outcome = marked === 'blank' ? 'left' : marked
    const own = sections.get(section) ?? []
    own.push({
      section,
      group: group.id,
      at,
      number,
      topic: response.topic ?? form?.items?.[group.id]?.[at]?.topic,
      seconds: response.seconds,
      // A right answer that was no idea of the candidate's own was guessed: the item was not solved by then.
      solved: outcome === 'right' && response.confidence !== 'no idea',
      outcome,
    })
    sections.set(section, own)
  }
  return sections
}

/** Every test of a record that has item times, oldest first, one trace for each of its sections. */
export function tracesOf(record: CandidateRecord): Trace[] {
  const { exam, attempts } = record
  return attempts
    .flatMap((attempt) => {
      const own = examOfAttempt(exam, attempt)
      return own ? [{ attempt, own }] : []
    })
    .flatMap(({ attempt, own }) =>
      [...traceOf(own, attempt.items ?? [], attempt.form)].map(([section, items]) => ({
        id: attempt.id,
        title: attemptTitle(exam, attempt),
        date: attempt.date,
        section,
        items,
      })),
    )
    .sort((a, b) => (a.date ?? '').localeCompare(b.date ?? ''))
}

/** Items of pace drills. */
export const drilledItems = (record: CandidateRecord): TimedItem[] =>
  record.attempts.filter(isDrill).flatMap(({ scope, items = [] }) => {
    const [section] = scope?.sections ?? []
    const [group] = scope?.groups ?? []
    if (section === undefined || group === undefined) return []
    return items.flatMap(({ seconds = 0, right, topic }): TimedItem[] =>
      seconds < leastSeconds
        ? []
        : [
            {
              section,
              group,
              topic,
              seconds,
              solved: right === true,
              outcome: right === null || right === undefined ? 'left' : right ? 'right' : 'wrong',
            },
          ],
    )
  })

/** What is believed before any record, each part as strong as so many items. */
export interface SolvingPrior extends Solving {
  strength: number
}

const pdf = (z: number): number => exp((-z * z) / 2) / Math.sqrt(2 * Math.PI)

/**
 * p, median and s from items met against the clock, shrunk towards a prior worth `strength` items: maximum a posteriori by
 * expectation-maximisation in the mixture cure model. A solved item tells its time; one given up or got wrong after t
 * seconds either cannot be solved or would have taken longer (censored). Source: Boag 1949, Farewell 1982 (cure models);
 * docs/models.md, 5.
 */
export function fitSolving(
  items: Pick<TimedItem, 'seconds' | 'solved'>[],
  prior: SolvingPrior,
): Solving & { items: number } {
  const { strength } = prior
  let { p, median, s } = prior
  const solved = items.filter((item) => item.solved)
  const given = items.filter((item) => !item.solved)
  const m0 = ln(prior.median)
  for (let round = 0; items.length && round < 200; round++) {
    const before = [p, median, s]
    const m = ln(median)
    let could = solved.length
    let first = solved.reduce((sum, { seconds }) => sum + ln(seconds), 0)
    let second = solved.reduce((sum, { seconds }) => sum + square(ln(seconds)), 0)
    for (const { seconds } of given) {
      const z = (ln(seconds) - m) / s
      const beyond = 1 - normalCdf(z)
      // The chance that it could have been solved, had one stayed; and the first two moments of ln time beyond t.
      const share = (p * beyond) / (1 - p + p * beyond)
      const ratio = beyond > 1e-9 ? pdf(z) / beyond : Math.max(0, z)
      const mean = m + s * ratio
      could += share
      first += share * mean
      second += share * (square(mean) + s * s * Math.max(0, 1 + z * ratio - ratio * ratio))
    }
    p = (could + prior.p * strength) / (items.length + strength)
    const weight = could + strength
    const next = (first + strength * m0) / weight
    const around =
      second - 2 * next * first + could * square(next) + strength * (square(prior.s) + square(m0 - next))
    median = exp(next)
    s = Math.min(1.5, Math.max(0.15, Math.sqrt(Math.max(0, around) / weight)))
    if (
      Math.abs(p - before[0]!) < 1e-7 &&
      Math.abs(median / before[1]! - 1) < 1e-7 &&
      Math.abs(s - before[2]!) < 1e-7
    )
      break
  }
  return { p: Math.min(0.995, Math.max(0.005, p)), median, s, items: items.length }
}
