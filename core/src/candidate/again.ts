import type { Attempt, CardHistory } from '@climber/contract'
import { attemptTitle } from '../attempts/sat'
import { gradeOfItem } from '../recall/session'
import { itemName, type QueuedItem } from '../recall/stock'
import type { ReviewItem } from '../review/item'
import { inPayingOrder } from '../review/order'
import { satOf } from '../review/session'
import { ofKind } from '../sessions/session'
import { retestDaysOf } from '../sessions/ways'
import { dateOf, dayNumber } from '../time/day'
import { assess } from './assessment'
import type { CandidateRecord, Moment } from './moment'
import { rememberedButFirst } from './remembered'
import { Reviewing } from './review'

/** Days until a miss comes back where no retests are planned. */
const usualWait = 7
/** Items of one sitting, whatever the minutes. */
const fewest = 5
const most = 40
/** An item that is tried again takes so many times its budget: there is no clock. */
const slower = 1.5

/** A missed item that has not been right since, as it was first met. */
export interface MissedItem extends ReviewItem {
  /** Of the test in which it was first met. */
  title: string
  date?: string
  /** The day from which it is to be tried again. */
  dueOn: string
  /** How often it was missed, the first time included. */
  misses: number
}
export interface AgainView {
  /** To be tried now, in the order that pays; of one session no more than fit into it. */
  items: MissedItem[]
  /** All that is due by that, and all that was missed and not right since. */
  due: number
  waiting: number
  /** Those of them that were tried again already: from then on they come in recall. */
  queued: number
  /** By topic, those due first: short sets of their own. */
  topics: { topic: string; due: number; waiting: number }[]
  /** What was sat that a retest session takes up. */
  of?: string
}

interface Trace {
  first: { attempt: Attempt; item: ReviewItem }
  last: string
  missed: boolean
  misses: number
  reviewed?: string
  /** What was answered when it was met elsewhere than in recall, the first time left out. */
  met: CardHistory['answers']
}

/** An item that was met again, as an answer from memory. */
const metOn = (
  { date }: Attempt,
  { outcome, confidence, seconds = 0 }: ReviewItem,
): CardHistory['answers'] =>
  date === undefined ? [] : [[dayNumber(date), gradeOfItem(outcome === 'right', confidence), seconds]]

/** Every item that was missed, with what became of it since. */
function tracesOf(record: CandidateRecord, reviewing: Reviewing): Map<string, Trace> {
  const traces = new Map<string, Trace>()
  for (const attempt of record.attempts)
    for (const item of reviewing.items(attempt)) {
      const { id = `${attempt.id}/${item.item}`, outcome, confidence, note } = item
      const before = traces.get(id)
      const missed = outcome !== 'right'
      if (!before && !missed) continue
      const reviewed = note?.reviewedOn ?? before?.reviewed
      traces.set(id, {
        first: before?.first ?? { attempt, item },
        last: attempt.date ?? '',
        // Right without being sure is not yet right.
        missed: missed || (Boolean(before?.missed) && confidence !== undefined && confidence !== 'sure'),
        misses: (before?.misses ?? 0) + Number(missed),
        ...(reviewed !== undefined && { reviewed }),
        met: before ? [...before.met, ...metOn(attempt, item)] : [],
      })
    }
  withRecalled(record, traces)
  return traces
}

/** What was answered in recall counts like any other time: the last decides whether an item is still missed. */
function withRecalled({ recalled }: CandidateRecord, traces: Map<string, Trace>): void {
  const answered = new Map(recalled.items.map(({ card, answers }) => [card, answers]))
  for (const trace of traces.values()) {
    const answers = answered.get(nameOf(trace)) ?? []
    const [day = -1, grade = 1] = answers.at(-1) ?? []
    trace.misses += answers.filter(([, one]) => one === 1).length
    if (!answers.length || dateOf(day) < trace.last) continue
    trace.missed = grade < 3
    trace.last = dateOf(day)
  }
}

const nameOf = ({ first: { attempt, item } }: Trace): string => itemName(attempt.id, item.item)

/** Times that it was tried again since its review, outside recall. */
const triesOf = ({ met, reviewed }: Trace): CardHistory['answers'] =>
  reviewed === undefined ? [] : met.filter(([day]) => day >= dayNumber(reviewed))

const missedItem = (record: CandidateRecord, { first, last, misses, reviewed = '' }: Trace): MissedItem => ({
  ...first.item,
  title: attemptTitle(record.exam, first.attempt),
  ...(first.attempt.date !== undefined && { date: first.attempt.date }),
  dueOn: dateOf(dayNumber(last > reviewed ? last : reviewed) + (retestDaysOf(record.settings) ?? usualWait)),
  misses,
})

/**
 * The missed items that recall asks: each that was reviewed, and tried again once since. Its review is what its first answer is to a card,
 * and each time that it was met since an answer.
 */
export function queueFrom(
  record: CandidateRecord,
  now: Moment,
): { queued: readonly QueuedItem[]; missed: ReadonlyMap<string, MissedItem> } {
  const { exam, attempts, review, settings, recalled } = record
  return queuedOf({ record, now }, exam, attempts, review, settings, recalled.items)
}
const queuedOf = rememberedButFirst(
  ({ record, now }: { record: CandidateRecord; now: Moment }, ..._rests: unknown[]) => {
    const missed = new Map<string, MissedItem>()
    const queued: QueuedItem[] = []
    if (!record.review.length) return { queued, missed }
    for (const trace of tracesOf(record, new Reviewing(assess(record, now))).values()) {
      const tries = triesOf(trace)
      if (!tries.length) continue
      const item = missedItem(record, trace)
      const id = nameOf(trace)
      missed.set(id, item)
      const added = trace.reviewed!
      const { topic } = item
      queued.push({
        id,
        kind: 'item',
        added,
        ...(topic !== undefined && { topic }),
        before: [[dayNumber(added), 1, 0], ...tries],
      })
    }
    return { queued, missed }
  },
)

/**
 * What was missed and is to be tried again: each reviewed miss some days after its review, and from then on in recall. Of one retest session its own test's misses; of one topic all of its; else everything that is due.
 */
export function againView(
  record: CandidateRecord,
  now: Moment,
  wanted: { session?: string; topic?: string } = {},
): AgainView {
  const reviewing = new Reviewing(assess(record, now))
  const traces = [...tracesOf(record, reviewing).values()].filter(
    (trace) => trace.missed && trace.reviewed !== undefined,
  )
  const missed = traces.map((trace) => missedItem(record, trace))
  /** Those that recall does not ask yet. */
  const first = missed.filter((_, at) => !triesOf(traces[at]!).length)
  const session = ofKind(record.plan?.sessions ?? [], 'retest').find(({ id }) => id === wanted.session)
  const of = session && satOf(session, record.attempts)
  const due = first.filter(({ dueOn }) => dueOn <= now.date)
  const own = of
    ? missed.filter(({ attempt }) => attempt === of.id)
    : wanted.topic === undefined
      ? due
      : missed.filter(({ topic }) => topic === wanted.topic)
  const ordered = inPayingOrder(own)
  const budget = own.reduce((sum, item) => sum + item.budget, 0) / Math.max(1, own.length) || 60
  const fit = session ? Math.floor((session.minutes * 60) / (slower * budget)) : most
  const topics = new Map<string, { topic: string; due: number; waiting: number }>()
  const isDue = new Set(due)
  for (const item of missed) {
    const { topic = '' } = item
    const line = topics.get(topic) ?? { topic, due: 0, waiting: 0 }
    topics.set(topic, {
      ...line,
      due: line.due + Number(isDue.has(item)),
      waiting: line.waiting + 1,
    })
  }
  return {
    items: ordered.slice(0, Math.min(most, Math.max(fewest, fit))),
    due: due.length,
    waiting: missed.length,
    queued: missed.length - first.length,
    topics: [...topics.values()].sort(
      (a, b) => b.due - a.due || b.waiting - a.waiting || a.topic.localeCompare(b.topic),
    ),
    ...(of && { of: of.id }),
  }
}
