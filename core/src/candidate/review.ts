import type { Attempt, ItemGroup, ReviewNote, ReviewSession, Schools } from '@climber/contract'
import { judge } from '../attempts/responses'
import { attemptTitle, formOf, isPaper } from '../attempts/sat'
import type { ReadItem } from '../attempts/says/item'
import { type Reworked, reworked } from '../attempts/says/rework'
import { asSat } from '../exam/accommodation'
import { makerOf } from '../learner/answers'
import { estimateOf, weightedMean } from '../learner/estimate'
import { readyTopics } from '../plan/around/remedial'
import { testMinutes } from '../plan/tests/lengths'
import type { ReviewItem } from '../review/item'
import { inPayingOrder } from '../review/order'
import { type CauseOver, causesOver, type ReviewedTest, type Stall, stallOf } from '../review/over'
import { type Remedy, remediesOf } from '../review/remedies'
import { reworkedRight } from '../review/rework'
import { follows } from '../review/session'
import { minutesAt, type ReviewPace, reviewPace } from '../review/time'
import { looksAt } from '../review/worth'
import { groupsOf } from '../scoring/raw'
import { isOpen, ofKind } from '../sessions/session'
import { chosenWays } from '../sessions/ways'
import { dayNumber } from '../time/day'
import { assess, type Assessment } from './assessment'
import { type CandidateRecord, type Moment, sessionsOf } from './moment'
import { reader } from './readItems'
import { remembered } from './remembered'

/** Days for which a review asks for its remedies; by then another has been made, or it is history. */
const remedyDays = 28

/** A review of one thing that was sat, in a line of a list. */
export interface ReviewRow {
  id: string
  title: string
  kind: Attempt['kind']
  date?: string
  /** Items worth a look, those of them that are done with, and those with a cause. */
  worth: number
  done: number
  caused: number
  /** Marks that the items worth a look lost. */
  lost: number
  bookedMinutes: number
  usedMinutes: number
  /** The review session that is still to come. */
  next?: { id: string; date: string; start: string }
}

export interface ReviewView extends ReviewRow {
  /** Items worth a look, in the order that pays, and every other by number. */
  items: ReviewItem[]
  others: ReviewItem[]
  way: Required<Schools>
  reworked: Reworked
  /** Work that the causes ask for; `waits` where its topics are still to be begun, and have hours of their own. */
  remedies: (Remedy & { waits: boolean })[]
  /** What the log says of the minutes an item takes, and those that this review needs by it. */
  pace?: ReviewPace
  expectedMinutes?: number
  /** Review time of the next test, as a multiple of its length, as the log has it. */
  nextRatio?: number
}

/** What reviews say together. */
export interface Notebook {
  rows: ReviewRow[]
  /** Every item with a note, newest test first. */
  noted: (ReviewItem & { title: string; date?: string })[]
  tests: { id: string; title: string; date: string }[]
  causes: CauseOver[]
  stall?: Stall
}

/** What the items of a record are reviewed with. */
export class Reviewing {
  private readonly reads = new Map<string, ReadItem[]>()
  private readonly worked = new Map<string, ReviewItem[]>()
  private readonly notes = new Map<string, Map<number, ReviewNote>>()
  private readonly yields: Map<string, number>
  private readonly groups: Map<string, ItemGroup>
  private readonly met = new Map<string, { attempt: string; date: string; right: boolean }[]>()
  readonly way: Required<Schools>

  constructor(readonly assessment: Assessment) {
    const { record, landscape, known } = assessment
    const { items } = reader(assessment)
    this.way = chosenWays(record.settings)
    this.groups = new Map(record.exam.sections.flatMap(groupsOf).map((group) => [group.id, group]))
    this.yields = new Map(
      record.exam.topics.map(({ id }, at) => {
        const { value, tau } = landscape.topics[at]!
        return [id, (value * (1 - known[at]!)) / tau]
      }),
    )
    for (const note of record.review) {
      const own = this.notes.get(note.attempt)
      if (own) own.set(note.item, note)
      else this.notes.set(note.attempt, new Map([[note.item, note]]))
    }
    for (const attempt of record.attempts) {
      const read = items(attempt)
      this.reads.set(attempt.id, read)
      for (const { id, outcome, reached } of read) {
        if (id === undefined || !reached) continue
        const one = { attempt: attempt.id, date: attempt.date ?? '', right: outcome === 'right' }
        const own = this.met.get(id)
        if (own) own.push(one)
        else this.met.set(id, [one])
      }
    }
  }

  notesOf(attempt: string): Map<number, ReviewNote> {
    return this.notes.get(attempt) ?? new Map<number, ReviewNote>()
  }

  /** Marks that an item lost, against a right answer. */
  private lostBy({ item, marks, perWrong, outcome, group }: ReadItem, attempt: Attempt): number {
    const own = group === undefined ? undefined : this.groups.get(group)
    if (own?.kind === 'written') {
      const earned = judge(
        own,
        attempt.items?.find((response) => response.item === item),
      )
      return own.perRight - (typeof earned === 'number' ? earned : earned === 'right' ? own.perRight : 0)
    }
    if (outcome === 'right') return 0
    return outcome === 'wrong' ? marks + perWrong : marks - (own?.perBlank ?? 0)
  }

  private setOf(attempt: Attempt, { group, at = 0 }: ReadItem): string | undefined {
    const own = group === undefined ? undefined : this.groups.get(group)
    if (!own) return undefined
    const stimulus = formOf(this.assessment.record.exam, attempt)?.items?.[own.id]?.[at]?.stimulus
    if (stimulus) return `stimulus ${stimulus}`
    return own.set && `set ${own.id} ${Math.floor(at / own.set.items)}`
  }

  /** Every item of an attempt; one that is only known by its note too. */
  items(attempt: Attempt): ReviewItem[] {
    const known = this.worked.get(attempt.id)
    if (known) return known
    const notes = this.notesOf(attempt.id)
    const read = this.reads.get(attempt.id) ?? []
    const numbers = new Set(read.map(({ item }) => item))
    const bare = [...notes.values()]
      .filter(({ item }) => !numbers.has(item))
      .map((note) => this.bare(attempt, note))
    const found = [...read, ...bare]
      .sort((a, b) => a.item - b.item)
      .map((item) => this.reviewed(attempt, item))
    this.worked.set(attempt.id, found)
    return found
  }

  /** An item of which nothing is known but what its note says: it was missed, or nobody would have written it down. */
  private bare(attempt: Attempt, { item, topic }: ReviewNote): ReadItem {
    const { exam } = this.assessment.record
    const section =
      exam.topics.find(({ id }) => id === topic)?.section ??
      attempt.scope?.sections?.[0] ??
      exam.sections[0]!.id
    const [group] = exam.sections.find(({ id }) => id === section)!.groups
    return {
      item,
      test: attempt.id,
      section,
      outcome: 'wrong',
      reached: true,
      order: item,
      budget: 0,
      expected: 0.5,
      marks: group!.perRight,
      perWrong: group!.perWrong,
      answer: '',
      key: '',
      changes: [],
    }
  }

  private reviewed(attempt: Attempt, read: ReadItem): ReviewItem {
    const note = this.notesOf(attempt.id).get(read.item)
    const topic = read.topic ?? note?.topic
    const group = read.group === undefined ? undefined : this.groups.get(read.group)
    const letter = /^[A-Za-z]$/.test(read.key)
    const own = this.assessment.record.exam.sections.find(({ id }) => id === read.section)!.groups[0]
    const set = this.setOf(attempt, read)
    const later = (one: { attempt: string; date: string }) =>
      one.attempt !== attempt.id && one.date >= (attempt.date ?? '')
    return {
      ...read,
      attempt: attempt.id,
      ...(topic !== undefined && { topic }),
      kind: group?.kind ?? (letter || !read.key ? (own?.kind ?? 'choice') : 'numeric'),
      ...((group ?? own)?.choices !== undefined && { choices: (group ?? own)!.choices }),
      ...(set !== undefined && { set }),
      why: looksAt(read, this.way.review),
      lost: this.lostBy(read, attempt),
      yield: (topic === undefined ? undefined : this.yields.get(topic)) ?? 0,
      ...(note && { note }),
      again: (read.id === undefined ? [] : (this.met.get(read.id) ?? []))
        .filter(later)
        .map(({ date, right }) => ({ date, right })),
    }
  }
}

/** Whether an item is done with: a cause is named, or it was said to be. */
const isDone = ({ note }: ReviewItem): boolean => Boolean(note?.reviewedOn)

/** The review sessions of something that was sat. */
const sessionsFor = (record: CandidateRecord, attempt: Attempt): ReviewSession[] =>
  ofKind(sessionsOf(record), 'review').filter((session) => follows(session, attempt))

function rowOf({ assessment }: Reviewing, attempt: Attempt, items: readonly ReviewItem[]): ReviewRow {
  const { record } = assessment
  const worth = items.filter(({ why, note }) => why.length || note)
  const sessions = sessionsFor(record, attempt)
  const sum = (of: (session: ReviewSession) => number) => sessions.reduce((all, one) => all + of(one), 0)
  const spent = items.reduce((all, { note }) => all + (note?.seconds ?? 0) / 60, 0)
  const logged = sum(({ status, minutes, minutesDone }) => (status === 'done' ? (minutesDone ?? minutes) : 0))
  const next = sessions
    .filter((session) => session.status === 'running' || isOpen(session, assessment.now.date))
    .sort((a, b) => a.date.localeCompare(b.date) || a.start.localeCompare(b.start))[0]
  return {
    id: attempt.id,
    title: attemptTitle(record.exam, attempt),
    kind: attempt.kind,
    ...(attempt.date !== undefined && { date: attempt.date }),
    worth: worth.length,
    done: worth.filter(isDone).length,
    caused: worth.filter(({ note }) => note?.cause).length,
    lost: worth.reduce((all, { lost }) => all + lost, 0),
    bookedMinutes: sum(({ status, minutes }) => (status === 'skipped' ? 0 : minutes)),
    usedMinutes: Math.max(spent, logged),
    ...(next && { next: { id: next.id, date: next.date, start: next.start } }),
  }
}

const lately = ({ date }: Attempt, today: number): boolean =>
  date !== undefined && today - dayNumber(date) <= remedyDays && dayNumber(date) <= today

/** Whole tests that were reviewed, and what of each was worth a look. */
function lookedAt(reviewing: Reviewing): { misses: number; others: number; items: ReviewItem[] }[] {
  const { attempts } = reviewing.assessment.record
  return attempts
    .filter((attempt) => isPaper(attempt) && reviewing.notesOf(attempt.id).size)
    .map((attempt) => {
      const items = reviewing.items(attempt)
      const worth = items.filter(({ why }) => why.length)
      const misses = worth.filter(({ lost }) => lost > 0).length
      return { misses, others: worth.length - misses, items }
    })
}

const ratioSteps = 20
const mean = (list: readonly number[]) => list.reduce((sum, one) => sum + one, 0) / Math.max(1, list.length)

/**
 * Review time as a multiple of the length of a test, as the candidate's own log has it: minutes an item, for as many items as tests
 * have had; undefined while the log says nothing. What was chosen in Set-up is what it is drawn to.
 */
function ratioLearned(reviewing: Reviewing): number | undefined {
  const { exam, settings } = reviewing.assessment.record
  const tests = lookedAt(reviewing)
  const misses = mean(tests.map((test) => test.misses))
  const sat = asSat(exam, settings)
  const minutes = testMinutes(sat.exam.sections, sat.timeFactor)
  if (!tests.length || !misses || !minutes) return undefined
  const usual = (settings.reviewRatio * minutes) / misses
  const pace = reviewPace(
    tests.flatMap(({ items }) => items),
    usual,
  )
  if (!pace) return undefined
  const learned = minutesAt(pace, misses, mean(tests.map((test) => test.others))) / minutes
  return Math.min(4, Math.max(0.25, Math.round(learned * ratioSteps) / ratioSteps))
}

/** What the planner takes from reviews: the remedies of those of late, newest first, and how long the next will take. */
export const fromReviews = remembered(
  (assessment: Assessment): { remedies: Remedy[]; reviewRatio?: number } => {
    const { record, today } = assessment
    if (!record.review.length) return { remedies: [] }
    const reviewing = new Reviewing(assessment)
    const noted = new Set(record.review.flatMap(({ attempt, cause }) => (cause ? [attempt] : [])))
    const remedies = [...record.attempts]
      .reverse()
      .filter((attempt) => noted.has(attempt.id) && lately(attempt, today))
      .flatMap((attempt) => remediesOf(reviewing.items(attempt), record.settings.sessionMinutes))
    const reviewRatio = ratioLearned(reviewing)
    return { remedies, ...(reviewRatio !== undefined && { reviewRatio }) }
  },
)

/** Minutes of a miss in review where the log says nothing: what is booked, spread over the misses of this test. */
const usualMinutes = (booked: number, misses: number): number =>
  Math.min(12, Math.max(2, booked / Math.max(1, misses) || 4))

/** One review, worked through; undefined where nothing of that id was sat. */
export function reviewView(record: CandidateRecord, now: Moment, id: string): ReviewView | undefined {
  const attempt = record.attempts.find((one) => one.id === id)
  if (!attempt) return undefined
  const reviewing = new Reviewing(assess(record, now))
  const all = reviewing.items(attempt)
  const worth = all.filter(({ why, note }) => why.length || note)
  const row = rowOf(reviewing, attempt, all)
  const misses = worth.filter(({ lost }) => lost > 0).length
  const timed = record.attempts.filter((one) => reviewing.notesOf(one.id).size)
  const pace = reviewPace(
    timed.flatMap((one) => reviewing.items(one)),
    usualMinutes(row.bookedMinutes, misses),
  )
  const untimed = new Map(
    all.flatMap((item) => {
      const right = reworkedRight(item, item.note?.rework)
      return right === undefined ? [] : [[item.item, right] as const]
    }),
  )
  const nextRatio = ratioLearned(reviewing)
  const { touches } = reviewing.assessment
  const ready = readyTopics(record.exam.topics.map((topic, at) => ({ ...topic, touches: touches[at]! })))
  return {
    ...row,
    ...(nextRatio !== undefined && { nextRatio }),
    items: inPayingOrder(worth),
    others: all.filter((item) => !worth.includes(item)),
    way: reviewing.way,
    reworked: reworked(all, untimed),
    remedies: remediesOf(all, record.settings.sessionMinutes).map((remedy) => {
      const topics = remedy.topics.filter((topic) => ready.has(topic))
      return { ...remedy, waits: !topics.length, ...(topics.length && { topics }) }
    }),
    ...(pace && { pace, expectedMinutes: minutesAt(pace, misses, worth.length - misses) }),
  }
}

/** Scores of scored tests as of the publisher's own, and what chance moves one by. */
function scoresOf({ record, scored, learner, today }: Assessment) {
  const { exam, materials } = record
  const tests = scored.filter(({ test }) => !test.seen)
  const [exposure] = learner.exposures([today + 1])
  const known = learner.known(exposure!)
  const mean = known.map((own) => own.map(() => weightedMean(own, learner.weights)))
  const papersOf = (maker?: string) =>
    estimateOf(learner.scores(exposure!, { maker }, mean).composite, learner.weights)
  const own = papersOf()
  const makers = new Map(
    tests.flatMap(({ test }) => {
      const maker = makerOf(exam, test, materials)
      return maker === undefined ? [] : [[maker, papersOf(maker).mean - own.mean]]
    }),
  )
  return {
    scores: tests.map(
      ({ test, score }) => score.composite - (makers.get(makerOf(exam, test, materials) ?? '') ?? 0),
    ),
    sd: own.sd,
  }
}

/** Everything that was sat and can be reviewed, the notes on it, and what the causes come to over tests. */
export function notebook(record: CandidateRecord, now: Moment): Notebook {
  const assessment = assess(record, now)
  const reviewing = new Reviewing(assessment)
  const { exam } = record
  const all = [...record.attempts].reverse().map((attempt) => ({ attempt, items: reviewing.items(attempt) }))
  const tests = [...all].reverse().flatMap(({ attempt, items }): ReviewedTest[] => {
    const { id, date } = attempt
    if (date === undefined || !items.some(({ note }) => note?.cause)) return []
    return [{ id, title: attemptTitle(exam, attempt), date, sat: items.length, items }]
  })
  const { scores, sd } = scoresOf(assessment)
  const stall = stallOf(scores, sd, tests)
  return {
    rows: all.map(({ attempt, items }) => rowOf(reviewing, attempt, items)),
    noted: all.flatMap(({ attempt, items }) =>
      items
        .filter(({ note }) => note)
        .map((item) => ({
          ...item,
          title: attemptTitle(exam, attempt),
          ...(attempt.date !== undefined && { date: attempt.date }),
        })),
    ),
    tests: tests.map(({ id, title, date }) => ({ id, title, date })),
    causes: causesOver(tests),
    ...(stall && { stall }),
  }
}
