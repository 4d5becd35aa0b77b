import type { Attempt } from '@climber/contract'
import { attemptTitle } from '../attempts/sat'
import type { ReviewItem } from '../review/item'
import { inPayingOrder } from '../review/order'
import { satOf } from '../review/session'
import { ofKind } from '../sessions/session'
import { retestDaysOf } from '../sessions/ways'
import { dateOf, dayNumber } from '../time/day'
import { assess } from './assessment'
import type { CandidateRecord, Moment } from './moment'
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
}

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
      })
    }
  return traces
}

/**
 * What was missed and is to be tried again: each reviewed miss some days after its review, and after each time that it was missed
 * again. Of one retest session its own test's misses; of one topic all of its; else everything that is due.
 */
export function againView(
  record: CandidateRecord,
  now: Moment,
  wanted: { session?: string; topic?: string } = {},
): AgainView {
  const reviewing = new Reviewing(assess(record, now))
  const wait = retestDaysOf(record.settings) ?? usualWait
  const missed = [...tracesOf(record, reviewing).values()]
    .filter((trace) => trace.missed && trace.reviewed !== undefined)
    .map(({ first, last, misses, reviewed = '' }): MissedItem => ({
      ...first.item,
      title: attemptTitle(record.exam, first.attempt),
      ...(first.attempt.date !== undefined && { date: first.attempt.date }),
      dueOn: dateOf(dayNumber(last > reviewed ? last : reviewed) + wait),
      misses,
    }))
  const session = ofKind(record.plan?.sessions ?? [], 'retest').find(({ id }) => id === wanted.session)
  const of = session && satOf(session, record.attempts)
  const due = missed.filter(({ dueOn }) => dueOn <= now.date)
  const own = of
    ? missed.filter(({ attempt }) => attempt === of.id)
    : wanted.topic === undefined
      ? due
      : missed.filter(({ topic }) => topic === wanted.topic)
  const ordered = inPayingOrder(own)
  const budget = own.reduce((sum, item) => sum + item.budget, 0) / Math.max(1, own.length) || 60
  const fit = session ? Math.floor((session.minutes * 60) / (slower * budget)) : most
  const topics = new Map<string, { topic: string; due: number; waiting: number }>()
  for (const { topic = '', dueOn } of missed) {
    const line = topics.get(topic) ?? { topic, due: 0, waiting: 0 }
    topics.set(topic, {
      ...line,
      due: line.due + Number(dueOn <= now.date),
      waiting: line.waiting + 1,
    })
  }
  return {
    items: ordered.slice(0, Math.min(most, Math.max(fewest, fit))),
    due: due.length,
    waiting: missed.length,
    topics: [...topics.values()].sort(
      (a, b) => b.due - a.due || b.waiting - a.waiting || a.topic.localeCompare(b.topic),
    ),
    ...(of && { of: of.id }),
  }
}
