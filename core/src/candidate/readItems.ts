import type { Attempt, ExamFormat, ItemGroup, ItemResponse } from '@climber/contract'
import { countResponses, markedOutcome, type Slot } from '../attempts/responses'
import { examOfAttempt, formOf, identityOf } from '../attempts/sat'
import type { ReadItem } from '../attempts/says/item'
import { logistic, logit } from '../exact/functions'
import { guessIn } from '../scoring/raw'
import { rise } from '../learner/paperCells'
import { estimateOf } from '../learner/estimate'
import { asSat } from '../exam/accommodation'
import type { Assessment } from './assessment'
import { pacesOf } from './room'

const least = 0.03
/** What has been learned of a topic since its diagnosis leaves no more than this open. */
const mostUnsure = 0.12

/** Chance of a right answer: known, or guessed; in a group that gets harder, less from item to item. */
function expectedOf(group: ItemGroup, at: number, known: number): number {
  const guess = group.kind === 'choice' && group.choices ? 1 / group.choices : 0
  const right = Math.min(1 - least, Math.max(least, known + (1 - known) * guess))
  if (group.difficulty !== 'rising' || group.items < 2) return right
  return logistic(logit(right) + rise * (1 - (2 * at) / (group.items - 1)))
}

/** What is known of the topics, and of the sections, today. */
function knownOf({ record, known, landscape }: Assessment) {
  const byTopic = new Map(record.exam.topics.map(({ id }, at) => [id, known[at]!]))
  const bySection = new Map(record.exam.sections.map(({ id }, at) => [id, landscape.sectionKnown(at, known)]))
  return (section: string, topic?: string): number =>
    (topic === undefined ? undefined : byTopic.get(topic)) ?? bySection.get(section) ?? 0.5
}

/** How far the chance of a right answer may be off for the items of a topic alike, one sd. */
function unsureOf({ record, learner, knownBy }: Assessment) {
  const sds = new Map(
    record.exam.topics.map(({ id }, at) => [id, estimateOf(knownBy[at]!, learner.weights).sd]),
  )
  return (group: ItemGroup, topic?: string): number =>
    topic === undefined ? 0 : Math.min(mostUnsure, (sds.get(topic) ?? 0) * (1 - guessIn(group)))
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

/** Answers given, oldest first, where one was changed. */
const changesOf = ({ changes, changedFrom, answer = '' }: ItemResponse): string[] =>
  changes ?? (changedFrom ? [changedFrom, answer] : [])

/** What the items of tests are read with, worked out once for all of them. */
interface Reading {
  exam: ExamFormat
  known: ReturnType<typeof knownOf>
  budgets: ReturnType<typeof budgetsBy>
  unsure: ReturnType<typeof unsureOf>
}

function readAttempt({ exam, known, budgets, unsure }: Reading, attempt: Attempt): Map<string, ReadItem[]> {
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
          id: response?.id ?? identityOf(attempt, slot),
          group: slot.group.id,
          at: slot.at,
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
          changes: response ? changesOf(response) : [],
        }
      }),
    )
  }
  return read
}

/** Items of what is no paper: a set, a drill, a retest. Its numbers are its own, and no item stands in a group. */
function readLoose({ exam, known, budgets, unsure }: Reading, attempt: Attempt): ReadItem[] {
  const sectionOf = new Map(exam.topics.map(({ id, section }) => [id, section]))
  const usual = attempt.scope?.sections?.[0] ?? exam.sections[0]!.id
  const means = new Map<string, number>()
  const usualBudget = (section: string): number => {
    const known = means.get(section)
    if (known !== undefined) return known
    const paced = budgets(section)
    const mean = paced.reduce((sum, one) => sum + one, 0) / Math.max(1, paced.length)
    means.set(section, mean)
    return mean
  }
  return [...(attempt.items ?? [])]
    .sort((a, b) => a.item - b.item)
    .map((response): ReadItem => {
      const { item, topic, confidence, seconds, answer = '', key = '' } = response
      const section = (topic !== undefined && sectionOf.get(topic)) || usual
      const [group] = exam.sections.find(({ id }) => id === section)!.groups
      // No item of these has a place in a section that gets harder.
      const kind = /^[A-Za-z]$/.test(key) || !key ? group!.kind : ('numeric' as const)
      const own: ItemGroup = { ...group!, kind, difficulty: 'flat' }
      return {
        item,
        test: attempt.id,
        id: response.id ?? identityOf(attempt, response),
        section,
        ...(topic && { topic }),
        outcome: markedOutcome(own, response),
        reached: true,
        order: response.order ?? item,
        ...(seconds !== undefined && { seconds }),
        budget: attempt.budgetSeconds ?? usualBudget(section),
        expected: expectedOf(own, 0, known(section, topic)),
        unsure: unsure(own, topic),
        marks: own.perRight,
        perWrong: own.perWrong,
        ...(confidence && { confidence }),
        answer,
        key,
        changes: changesOf(response),
      }
    })
}

export interface Reader {
  /** The items of a paper, section by section; of what is none, nothing. */
  paper(attempt: Attempt): Map<string, ReadItem[]>
  /** The items of anything that was sat. */
  items(attempt: Attempt): ReadItem[]
}

/** Reads the items of what was sat. */
export function reader(assessment: Assessment): Reader {
  const reading: Reading = {
    exam: assessment.record.exam,
    known: knownOf(assessment),
    budgets: budgetsBy(assessment),
    unsure: unsureOf(assessment),
  }
  return {
    paper: (attempt) => readAttempt(reading, attempt),
    items: (attempt) =>
      examOfAttempt(reading.exam, attempt)
        ? [...readAttempt(reading, attempt).values()].flat()
        : readLoose(reading, attempt),
  }
}
