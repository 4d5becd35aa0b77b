import type { CandidateRecord } from '@climber/contract'
import { type Deck, isBegun, rowsOf, secondsExpected } from '../recall/deck'
import { deckFrom, isLeech, knownOf } from '../recall/known'
import { chanceAfter, type Keeping } from '../recall/memory'
import { type Policy, queueOf } from '../recall/queue'
import { type DayLoad, play, policyFor } from '../recall/season'
import { HeldCards, type RecallStock, type StockedCard } from '../recall/stock'
import { itemsOf } from '../scoring/raw'
import { ln } from '../exact/functions'
import { randomFrom } from '../exact/random'
import { dateOf, dayNumber, mondayOf } from '../time/day'
import { type Moment, sittingOf } from './moment'

/** Minutes a day for what must come back from memory, unless chosen otherwise. */
const usualMinutes = 15
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
  /** What is due in the order in which it comes, the whole of it. */
  queue: DueCard[]
  /** So many of them fit into what is left of today's minutes. */
  fits: number
  /** What was answered today. */
  done: { answers: number; seconds: number }
  cards: number
  begun: number
  suspended: number
  /** Of those begun, how many would come back today, and on the exam day if nothing were done until then. */
  today: number
  untouched: number
  topics: TopicCards[]
  /** Cards that do not stay: they want another look than one more answer. */
  leeches: string[]
}
/** What the days until the exam bring. */
export interface RecallSeason {
  days: DayLoad[]
  /** Cards in it, and how many come back on the exam day. */
  cards: number
  recalled: number
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
  keeping: Keeping
  policy: Policy
}

/** What a card of a topic is worth against others: as the topic's share of the marks, from half to twice the mean. */
function worthByTopic({ exam }: CandidateRecord): (topic: string | undefined) => number {
  const items = new Map(exam.sections.map((section) => [section.id, itemsOf(section)]))
  const marks = new Map(exam.topics.map(({ id, section, share }) => [id, share * (items.get(section) ?? 0)]))
  const mean = [...marks.values()].reduce((sum, own) => sum + own, 0) / Math.max(1, marks.size)
  return (topic) =>
    Math.min(2, Math.max(0.5, (topic === undefined ? undefined : marks.get(topic)) ?? mean) / (mean || 1))
}

const isAsked = ({ card }: StockedCard, today: string): boolean =>
  !card.suspended && (card.rests === undefined || card.rests <= today)

/** The open deck of a candidate, and what is asked of it. */
export class OpenRecall extends HeldCards {
  private fits: Fit[] = []
  private kept?: { monday: number; keeping: Keeping }

  override open(stock: RecallStock): void {
    this.fits = []
    this.kept = undefined
    super.open(stock)
  }

  /** What is due now, and how the deck stands. */
  view(record: CandidateRecord, now: Moment): RecallView {
    const today = dayNumber(now.date)
    const { left, minutes, fresh } = this.frame(record, now)
    const { keeping, policy } = this.fitted(record, now)
    const all = this.allKnown(keeping)
    const asked = all.filter((one) => isAsked(one, now.date))
    const deck = this.deckOf(record, asked)
    const done = this.doneOn(today)
    const onDay = { ...policy, fresh: Math.max(0, (fresh ?? policy.fresh) - done.begun) }
    const rows = queueOf(deck, today, left ?? withoutExam, onDay, Infinity, keeping).slice(0, mostQueued)
    const queue = rows.map((row) => ({
      card: asked[row]!.card.id,
      isNew: !isBegun(deck, row),
      seconds: secondsExpected(deck, row, today),
    }))
    let room = minutes * 60 - done.seconds
    const fits = queue.findIndex(({ seconds }) => (room -= seconds) < 0)
    const begun = all.filter(({ known }) => known.memory)
    const chances = (day: number) =>
      begun.reduce((sum, { known: { memory } }) => sum + chanceAfter(memory!.stability, day - memory!.day), 0)
    return {
      minutes,
      fresh: onDay.fresh + done.begun,
      ...(left !== undefined && { left }),
      queue,
      fits: fits < 0 ? queue.length : fits,
      done: { answers: done.answers, seconds: done.seconds },
      cards: all.length,
      begun: begun.length,
      suspended: all.filter(({ card }) => card.suspended).length,
      today: chances(today),
      untouched: chances(today + Math.max(0, left ?? withoutExam)),
      topics: topicsOf(all, new Set(queue.map(({ card }) => card)), today),
      leeches: all.filter(({ card, known }) => !card.suspended && isLeech(known)).map(({ card }) => card.id),
    }
  }

  /** The days until the exam with so many minutes and new cards a day; those chosen where nothing is wished. */
  season(record: CandidateRecord, now: Moment, wish: RecallWish = {}): RecallSeason {
    const today = dayNumber(now.date)
    const frame = this.frame(record, now, wish)
    const { keeping, policy } = this.fitted(record, now, wish)
    const asked = this.allKnown(keeping).filter(({ card }) => !card.suspended)
    const whole = this.deckOf(record, asked)
    const { left = withoutExam, minutes } = frame
    const share = Math.min(1, mostPlayed / Math.max(1, asked.length))
    const deck = share < 1 ? rowsOf(whole, everySo(asked.length, mostPlayed)) : whole
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
      minutes,
      fresh: policy.fresh,
      ...(caughtUpOn !== undefined && caughtUpOn > today && { caughtUpOn: dateOf(caughtUpOn) }),
    }
  }

  private frame(
    record: CandidateRecord,
    { date }: Moment,
    wish: RecallWish = {},
  ): { left?: number; minutes: number; fresh?: number } {
    const sitting = sittingOf(record, date)
    const { minutes = usualMinutes, fresh } = { ...record.settings.recall, ...wish }
    const left = sitting && dayNumber(sitting.date) - dayNumber(date)
    return {
      minutes,
      ...(fresh !== undefined && { fresh }),
      // After the exam there is nothing to bring back for it.
      ...(left !== undefined && { left }),
    }
  }
  private secondsOn({ availability }: CandidateRecord, day: number, minutes: number): number {
    return availability.daysOff.includes(dateOf(day)) ? 0 : minutes * 60
  }

  /** What was answered on a day: how often, how long, and how many cards for the first time. */
  private doneOn(day: number): { answers: number; seconds: number; begun: number } {
    const done = { answers: 0, seconds: 0, begun: 0 }
    for (const { id } of this.inOrder()) {
      const answers = this.answersTo(id)
      if (answers[0]?.[0] === day) done.begun += 1
      for (let at = answers.length - 1; at >= 0 && answers[at]![0] >= day; at--) {
        done.answers += 1
        done.seconds += answers[at]![2]
      }
    }
    return done
  }

  private deckOf(record: CandidateRecord, cards: readonly StockedCard[]): Deck {
    return deckFrom(
      cards.map(({ card: { kind, topic }, known }) => ({ kind, known, ...(topic && { topic }) })),
      this.secondsByKind(),
      worthByTopic(record),
    )
  }

  /**
   * How the memory keeps, and the policy that brings most to the exam day, by what was known at the beginning of the week: the same on
   * every device, and steady while one works.
   */
  private fitted(record: CandidateRecord, now: Moment, wish: RecallWish = {}): Fit {
    const monday = mondayOf(dayNumber(now.date))
    const { left = withoutExam, minutes, fresh } = this.frame(record, now, wish)
    const { daysOff } = record.availability
    // A tenth more cards than when it was found, and it is found anew.
    const size = Math.round(ln(1 + this.inOrder().length) * 10)
    const key = [monday, left + dayNumber(now.date), minutes, fresh, size, daysOff.join()].join(' ')
    const before = this.fits.find((fit) => fit.key === key)
    if (before) return before
    const keeping = this.steadyKeeping(monday)
    const cards = this.inOrder()
      .filter(({ suspended }) => !suspended)
      .map((card) => {
        const answers = this.answersTo(card.id).filter(([on]) => on < monday)
        return { card, known: knownOf(card.id, answers, keeping) }
      })
    const policy = policyFor(
      this.deckOf(record, cards),
      {
        today: monday,
        exam: dayNumber(now.date) + left,
        seconds: (ahead) => this.secondsOn(record, monday + ahead, minutes),
      },
      keeping,
      () => randomFrom(1),
      fresh === undefined ? {} : { fresh },
    )
    const fit = { key, keeping, policy }
    this.fits = [fit, ...this.fits].slice(0, mostFits)
    return fit
  }
  private steadyKeeping(monday: number): Keeping {
    if (this.kept?.monday !== monday) this.kept = { monday, keeping: this.keepingBefore(monday) }
    return this.kept.keeping
  }
}

const everySo = (of: number, most: number): number[] =>
  Array.from({ length: most }, (_, at) => Math.floor((at * of) / most))
/** The share of a deck that came back, each card by its worth. */
function meanOf({ worth }: Deck, recalled: number): number {
  const all = worth.reduce((sum, own) => sum + own, 0)
  return all ? recalled / all : 0
}

function topicsOf(all: readonly StockedCard[], due: ReadonlySet<string>, today: number): TopicCards[] {
  const found = new Map<string, TopicCards>()
  for (const { card, known } of all) {
    const { topic } = card
    const line = found.get(topic ?? '') ?? {
      ...(topic !== undefined && { topic }),
      cards: 0,
      begun: 0,
      due: 0,
      today: 0,
    }
    line.cards += 1
    line.due += Number(due.has(card.id))
    if (known.memory) {
      line.begun += 1
      line.today += chanceAfter(known.memory.stability, today - known.memory.day)
    }
    found.set(topic ?? '', line)
  }
  return [...found.values()].sort(
    (one, two) => two.due - one.due || (one.topic ?? '').localeCompare(two.topic ?? ''),
  )
}
