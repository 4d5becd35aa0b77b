import type { CandidateRecord } from '@climber/contract'
import { daysOffOf } from '../plan/calendar/engaged'
import { chanceOf, type Deck, isBegun, rowsOf, secondsExpected } from '../recall/deck'
import { deckFrom, intoRow, isLeech } from '../recall/known'
import { recallMinutes } from '../recall/load'
import { type Policy, queueOf } from '../recall/queue'
import { type DayLoad, mostTried, play, policyFor } from '../recall/season'
import {
  HeldCards,
  isItem,
  type KnownMemory,
  type RecallChange,
  type RecallStock,
  type StockedCard,
  thinned,
} from '../recall/stock'
import { itemsOf } from '../scoring/raw'
import { ln } from '../exact/functions'
import { randomFrom } from '../exact/random'
import { dateOf, dayNumber, mondayOf } from '../time/day'
import { type MissedItem, queueFrom } from './again'
import { type Moment, sittingOf } from './moment'

/** Days that are looked ahead where no sitting is chosen. */
const withoutExam = 120
/** Cards on which a season is played; of more, every so many, with their share of the time. */
const mostPlayed = 2000
/** A queue holds no more: nobody answers as many in a day. */
const mostQueued = 1500

/** Policies that are remembered: that of the settings, and those of the last wishes. */
const mostFits = 6

/** One that is due. */
export interface DueCard {
  card: string
  isNew: boolean
  /** Seconds that its answer takes, as far as is known. */
  seconds: number
}
/** Cards of one topic; `topic` is absent for those of none. */
export interface TopicCards {
  topic?: string
  cards: number
  begun: number
  due: number
  /** Of those begun, how many would come back today. */
  today: number
}
export interface RecallView {
  /** Minutes a day, and new cards a day: those chosen, or those that carry to the exam. */
  minutes: number
  fresh: number
  /** Days until the exam; absent where no sitting is known. */
  left?: number
  /** What is due in the order in which it comes: all of it, as far as anybody could answer it in a day. */
  queue: DueCard[]
  /** So many of them fit into what is left of today's minutes. */
  fits: number
  /** What was answered today. */
  done: { answers: number; seconds: number }
  cards: number
  begun: number
  suspended: number
  /** Of those begun, how many would come back today. */
  today: number
  topics: TopicCards[]
  /** Cards that do not stay: they want another look than one more answer. */
  leeches: { card: string; lapses: number }[]
  /** The missed items among those that are due or do not stay, by what answers name them. */
  items: Record<string, MissedItem>
}
/** What the days until the exam bring. */
export interface RecallSeason {
  days: DayLoad[]
  /** Cards in it, and how many come back on the exam day. */
  cards: number
  recalled: number
  /** The same if nothing were done until then. */
  untouched: number
  minutes: number
  fresh: number
  /** The first day on which nothing is left waiting; absent where that is today, or does not come. */
  caughtUpOn?: string
}
/** Minutes and new cards a day other than those chosen. */
export interface RecallWish {
  minutes?: number
  fresh?: number
}

interface Fit {
  key: string
  policy: Policy
}

/** What a card of a topic is worth against others: as the topic's share of the marks, from half to twice the mean. */
function worthByTopic({ exam }: CandidateRecord): (topic: string | undefined) => number {
  const items = new Map(exam.sections.map((section) => [section.id, itemsOf(section)]))
  const marks = new Map(exam.topics.map(({ id, section, share }) => [id, share * (items.get(section) ?? 0)]))
  const mean = [...marks.values()].reduce((sum, own) => sum + own, 0) / Math.max(1, marks.size)
  return (topic = '') => (mean ? Math.min(2, Math.max(0.5, (marks.get(topic) ?? mean) / mean)) : 1)
}

const isAsked = ({ card }: StockedCard, today: string): boolean =>
  !card.suspended && (card.rests === undefined || card.rests <= today)

/** How the deck stands on a day, row by row: kept while it is the same, since a large one is not gone through for one answer. */
interface Standing {
  rows: readonly StockedCard[]
  date: string
  exam: CandidateRecord['exam']
  worth: (topic: string | undefined) => number
  whole: Deck
  /** Chances of today. */
  chances: Float64Array
  /** Rows that may be asked today. */
  asked: number[]
}

/** The open deck of a candidate, and what is asked of it. */
export class OpenRecall {
  private readonly held = new HeldCards()
  private fits: Fit[] = []
  private memory?: KnownMemory & { monday: number }
  private stands?: Standing

  /** Takes a deck in place of the one before. */
  open(stock: RecallStock): void {
    this.fits = []
    this.memory = this.stands = undefined
    this.held.open(stock)
  }
  /** Takes what changed of it. */
  change(change: RecallChange): void {
    this.held.change(change)
  }

  /** What is due now, and how the deck stands. */
  view(record: CandidateRecord, now: Moment): RecallView {
    const { queued, missed } = queueFrom(record, now)
    this.held.queue(queued)
    const today = dayNumber(now.date)
    const { left, minutes, fresh } = this.frame(record, now)
    const { policy } = this.fitted(record, now)
    const { keeping } = this.knownOn(now)
    const { rows: all, whole, chances, asked } = this.standing(record, now)
    const deck = asked.length < all.length ? rowsOf(whole, asked) : whole
    const done = this.doneOn(today)
    const onDay = { ...policy, fresh: Math.max(0, (fresh ?? policy.fresh) - done.begun) }
    const rows = queueOf(deck, today, left ?? withoutExam, onDay, Infinity, keeping).slice(0, mostQueued)
    const queue = rows.map((row) => ({
      card: all[asked[row]!]!.card.id,
      isNew: !isBegun(deck, row),
      seconds: secondsExpected(deck, row, today),
    }))
    let room = minutes * 60 - done.seconds
    const fits = queue.findIndex(({ seconds }) => (room -= seconds) < 0)
    const counts = countsOf(all, chances, new Set(queue.map(({ card }) => card)))
    const shown = [...queue, ...counts.leeches].map(({ card }) => card).filter(isItem)
    return {
      minutes,
      fresh: onDay.fresh + done.begun,
      ...(left !== undefined && { left }),
      queue,
      fits: fits < 0 ? queue.length : fits,
      done: { answers: done.answers, seconds: done.seconds },
      ...counts,
      items: Object.fromEntries(shown.map((id) => [id, missed.get(id)!])),
    }
  }

  /** The days until the exam with so many minutes and new cards a day; those chosen where nothing is wished. */
  season(record: CandidateRecord, now: Moment, wish: RecallWish = {}): RecallSeason {
    this.held.queue(queueFrom(record, now).queued)
    const today = dayNumber(now.date)
    const { left = withoutExam, minutes } = this.frame(record, now, wish)
    const { policy } = this.fitted(record, now, wish)
    const { keeping } = this.knownOn(now)
    const { rows, whole } = this.standing(record, now)
    const asked = rowsWhere(rows, ({ card }) => !card.suspended)
    const share = Math.min(1, mostPlayed / Math.max(1, asked.length))
    const deck = rowsOf(whole, thinned(asked, mostPlayed))
    const used = this.doneOn(today)
    const played = play(
      deck,
      {
        today,
        exam: today + left,
        seconds: (ahead) =>
          Math.max(0, this.secondsOn(record, today + ahead, minutes) - (ahead ? 0 : used.seconds)),
        share,
      },
      policy,
      keeping,
      randomFrom(1),
    )
    const days = played.days.map(({ day, again, fresh, seconds }) => ({
      day,
      again: Math.round(again / share),
      fresh: Math.round(fresh / share),
      seconds: seconds / share,
    }))
    const caughtUpOn = days.find(
      ({ day, seconds }) => seconds < 0.9 * this.secondsOn(record, day, minutes),
    )?.day
    return {
      days,
      cards: asked.length,
      recalled: asked.length * meanOf(deck, played.recalled),
      untouched: asked.reduce((sum, row) => sum + chanceOf(whole, row, today + left), 0),
      minutes,
      fresh: policy.fresh,
      ...(caughtUpOn !== undefined && caughtUpOn > today && { caughtUpOn: dateOf(caughtUpOn) }),
    }
  }

  private standing(record: CandidateRecord, now: Moment): Standing {
    const today = dayNumber(now.date)
    const { keeping, seconds } = this.knownOn(now)
    const { rows, touched } = this.held.allKnown(keeping)
    const before = this.stands
    if (before?.rows === rows && before.date === now.date && before.exam === record.exam) {
      for (const row of touched) {
        intoRow(before.whole, row, rows[row]!, seconds, before.worth)
        before.chances[row] = chanceOf(before.whole, row, today)
      }
      return before
    }
    const worth = worthByTopic(record)
    const whole = deckFrom(rows, seconds, worth)
    const chances = Float64Array.from(rows, (_, row) => chanceOf(whole, row, today))
    const asked = rowsWhere(rows, (one) => isAsked(one, now.date))
    this.stands = { rows, date: now.date, exam: record.exam, worth, whole, chances, asked }
    return this.stands
  }

  private frame(
    record: CandidateRecord,
    { date }: Moment,
    wish: RecallWish = {},
  ): { left?: number; minutes: number; fresh?: number } {
    const sitting = sittingOf(record, date)
    const { minutes = recallMinutes(record.settings), fresh = record.settings.recall?.fresh } = wish
    const left = sitting && dayNumber(sitting.date) - dayNumber(date)
    return {
      minutes,
      ...(fresh !== undefined && { fresh }),
      // After the exam there is nothing to bring back for it.
      ...(left !== undefined && { left }),
    }
  }
  private secondsOn({ availability }: CandidateRecord, day: number, minutes: number): number {
    return daysOffOf(availability).includes(dateOf(day)) ? 0 : minutes * 60
  }

  /** What was answered on a day: how often, how long, and how many cards for the first time. */
  private doneOn(day: number): { answers: number; seconds: number; begun: number } {
    const done = { answers: 0, seconds: 0, begun: 0 }
    for (const [card, answers] of this.held.allAnswers()) {
      if (answers[0]?.[0] === day && !isItem(card)) done.begun += 1
      for (let at = answers.length - 1; at >= 0 && answers[at]![0] >= day; at--) {
        done.answers += 1
        done.seconds += answers[at]![2]
      }
    }
    return done
  }

  /** The policy that brings most to the exam day, by what was known at the beginning of the week. */
  private fitted(record: CandidateRecord, now: Moment, wish: RecallWish = {}): Fit {
    const monday = mondayOf(dayNumber(now.date))
    const { left = withoutExam, minutes, fresh } = this.frame(record, now, wish)
    const daysOff = daysOffOf(record.availability)
    // A tenth more cards than when it was found, and it is found anew.
    const size = Math.round(ln(1 + this.held.inOrder().length) * 10)
    const key = [monday, left + dayNumber(now.date), minutes, fresh, size, daysOff.join()].join(' ')
    const before = this.fits.find((fit) => fit.key === key)
    if (before) return before
    const { keeping, seconds } = this.knownOn(now)
    const { cards, share } = this.held.askedBefore(monday, keeping, mostTried)
    const policy = policyFor(
      deckFrom(cards, seconds, worthByTopic(record)),
      {
        share,
        today: monday,
        exam: dayNumber(now.date) + left,
        seconds: (ahead) => this.secondsOn(record, monday + ahead, minutes),
      },
      keeping,
      () => randomFrom(1),
      fresh === undefined ? {} : { fresh },
    )
    const fit = { key, policy }
    this.fits = [fit, ...this.fits].slice(0, mostFits)
    return fit
  }
  /** The memory as it was known at the beginning of the week: the same on every device, and steady while one works. */
  private knownOn({ date }: Moment): KnownMemory {
    const monday = mondayOf(dayNumber(date))
    if (this.memory?.monday !== monday) this.memory = { monday, ...this.held.memoryBefore(monday) }
    return this.memory
  }
}

/** The share of a deck that came back, each card by its worth. */
function meanOf({ worth }: Deck, recalled: number): number {
  const all = worth.reduce((sum, own) => sum + own, 0)
  return all ? recalled / all : 0
}

const rowsWhere = (all: readonly StockedCard[], is: (one: StockedCard) => boolean): number[] =>
  all.reduce<number[]>((rows, one, row) => {
    if (is(one)) rows.push(row)
    return rows
  }, [])

/** What there is of each kind, and by topic; `chances` are those of today, row by row. */
function countsOf(
  all: readonly StockedCard[],
  chances: Float64Array,
  due: ReadonlySet<string>,
): Pick<RecallView, 'cards' | 'begun' | 'suspended' | 'today' | 'topics' | 'leeches'> {
  const found = new Map<string, TopicCards>()
  const counts = {
    cards: all.length,
    begun: 0,
    suspended: 0,
    today: 0,
    leeches: [] as RecallView['leeches'],
  }
  for (let row = 0; row < all.length; row++) {
    const { card, known } = all[row]!
    const { id, topic = '', suspended = false } = card
    let line = found.get(topic)
    if (!line) {
      line = { ...(topic && { topic }), cards: 0, begun: 0, due: 0, today: 0 }
      found.set(topic, line)
    }
    line.cards += 1
    if (due.has(id)) line.due += 1
    if (known.memory) line.begun += 1
    line.today += chances[row]!
    if (suspended) counts.suspended += 1
    else if (isLeech(known, card.looked?.lapses)) counts.leeches.push({ card: id, lapses: known.lapses })
  }
  const topics = [...found.values()].sort(
    (one, two) => two.due - one.due || (one.topic ?? '').localeCompare(two.topic ?? ''),
  )
  for (const { begun, today } of topics) {
    counts.begun += begun
    counts.today += today
  }
  return { ...counts, topics }
}
