import { asSat } from '../exam/accommodation'
import { clockWords, inSatOrder, onTheClock } from '../pacing/clock'
import type { Checkpoint } from '../pacing/section'
import { timeOf } from '../time/day'
import { type Assessment, assess } from './assessment'
import { groundsFrom, guessAdvice, type GuessGround } from './guessing'
import { type ClassLine, type PacingView, viewOf } from './pacing'
import type { CandidateRecord, Moment } from './moment'

/** The pace card of one section: everything to learn by heart, as text that needs nothing else. */
export interface PaceCard {
  section: string
  title: string
  paper?: string
  /** HH:MM; nothing where no sitting is chosen. */
  start?: string
  end?: string
  minutes: number
  items: number
  /** What is kept back at the end, in minutes. */
  reserveMinutes: number
  checkpoints: CardCheckpoint[]
  /** Rules for the times through the section. */
  passes: string[]
  leave: string[]
  guess: string[]
  /** Why there is no card, where the wishes do not fit. */
  problem?: string
}
export interface CardCheckpoint {
  item: number
  /** Number on the paper, where items are not taken in its order. */
  number: number
  /** On the clock, HH:MM:SS; the time since the start, and what is left, m:ss. */
  clock?: string
  at: string
  left: string
  ends?: string
}

export interface PaceCards {
  name: string
  exam: string
  date?: string
  place?: string
  cards: PaceCard[]
}

/** What a class of items is called: the part it stands in, and which of its items. */
export function classTitle(own: ClassLine, groups: string[]): string {
  const part = groups.length > 1 ? `part ${groups.indexOf(own.group) + 1}` : ''
  return [part, own.title].filter(Boolean).join(', ') || 'every item'
}

/** When an item of a class is left, in words. */
export function leaveWords({ rule, unhurried, count }: ClassLine): string {
  if (unhurried) return 'stay until it is done'
  const seconds = Math.floor(rule.seconds)
  if (rule.started < 0.5 || seconds < 1) return 'leave at once, come back with what is left'
  const some = rule.started < 0.9 * count ? `; time for ${Math.round(rule.started)} of ${count}` : ''
  return `leave after ${clockWords(seconds)}${some}`
}

function passRules(view: PacingView, passes: number, groups: string[]): string[] {
  const deferred = view.classes.filter(({ deferred: later, count }) => later && count > 0)
  const past = deferred.map((own) => classTitle(own, groups)).join('; ')
  const [first, second] = view.passes.filter(({ leg }) => leg === 0)
  const until = (time?: { to: number }) =>
    time && view.clock
      ? `, to about ${onTheClock(view.clock.start, time.to).slice(0, 5)}`
      : time
        ? `, to about minute ${Math.round(time.to / 60)}`
        : ''
  if (passes === 1) return ['Once through: answer, or leave at its time and do not come back.']
  const mark = 'mark ? between two, ○ no idea'
  return [
    `First time through${until(first)}: answer what comes, leave at its time and ${mark}.${past ? ` Go past: ${past}.` : ''}`,
    passes === 2
      ? 'Second: the ? first, then the ○, to the end of the time.'
      : `Second${until(second)}: the ?, each as long again.`,
    ...(passes === 3 ? ['Third: what is left, to the end of the time.'] : []),
  ]
}

const cardCheckpoint = (view: PacingView, { item, number, at, left, ends }: Checkpoint): CardCheckpoint => ({
  item,
  number,
  ...(view.clock && { clock: onTheClock(view.clock.start, at) }),
  at: clockWords(at),
  left: clockWords(left),
  ...(ends && { ends }),
})

/** The guess rules of a section: plain advice once, or a sentence for two options left and one for three. */
export function guessRules(grounds: GuessGround[]): string[] {
  const told = grounds.map((ground) => {
    if (ground.plain) return [ground.plain]
    const most = Math.min(3, ground.group.choices! - 1)
    return Array.from({ length: Math.max(1, most - 1) }, (_, at) => Math.min(most, at + 2)).map(
      (left) => guessAdvice(ground, { aim: ground.usual, left }).sentence,
    )
  })
  // Parts that are told the same are told once; where they differ, each says which it is.
  if (new Set(told.map((rules) => rules.join())).size < 2) return told[0] ?? []
  return told.flatMap((rules, at) =>
    rules.map((rule) => `Part ${grounds[at]!.way.indexOf(grounds[at]!.group) + 1}. ${rule}`),
  )
}

export function cardsFrom(assessment: Assessment, name: string): PaceCards {
  const { record, sitting } = assessment
  const { exam } = asSat(record.exam, record.settings)
  const grounds = groundsFrom(assessment)
  return {
    name,
    exam: exam.title,
    ...(sitting && { date: sitting.date, place: sitting.place }),
    cards: inSatOrder(exam.sections, record.pacing.order).map((section): PaceCard => {
      const view = viewOf(assessment, section.id)
      const { clock, pace, problem } = view
      const groups = [...section.groups, ...(section.stages?.[view.stage]?.groups ?? [])].map(({ id }) => id)
      return {
        section: section.id,
        title: section.title,
        ...(section.paper && { paper: section.paper }),
        ...(clock && { start: timeOf(Math.round(clock.start)), end: timeOf(Math.round(clock.end)) }),
        minutes: (pace?.sectionSeconds ?? section.minutes * 60) / 60,
        items: pace?.items.length ?? 0,
        reserveMinutes: (pace?.reserveSeconds ?? 0) / 60,
        checkpoints: pace?.checkpoints.map((point) => cardCheckpoint(view, point)) ?? [],
        passes: pace ? passRules(view, view.shape!.passes, groups) : [],
        leave: view.classes
          .filter(({ count }) => count > 0)
          .map((own) => `${classTitle(own, groups)}: ${leaveWords(own)}`),
        guess: guessRules(grounds.filter((ground) => ground.section === section.id)),
        ...(problem && { problem: problem.message }),
      }
    }),
  }
}

/** Pace cards of every section, in the order in which they are sat. */
export const paceCards = (record: CandidateRecord, now: Moment, name: string): PaceCards =>
  cardsFrom(assess(record, now), name)
