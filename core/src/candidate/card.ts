import { asSat } from '../exam/accommodation'
import { clockWords, inSatOrder, onTheClock } from '../pacing/clock'
import { isWeak, weakTitle } from '../pacing/classes'
import type { Checkpoint, SectionPace } from '../pacing/section'
import { shortNames } from '../exam/shortNames'
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
  /** The checkpoints are those of the first of several times through. */
  firstTime?: boolean
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

/**
 * When the first of several times through ends, seconds to a whole minute, where the checkpoints can be told of it: not where the
 * candidate's own goals say when which item is done, nor in an adaptive section, whose first stage has an end of its own.
 */
function firstTimeEnds({ passes, pace, stages, shape }: PacingView): number | undefined {
  const first = passes[0]
  if (!first || !pace || (shape?.passes ?? 1) < 2 || stages.length || pace.anchors.length) return undefined
  return Math.max(60, Math.min(Math.round(first.to / 60) * 60, pace.workingSeconds))
}

function passRules(view: PacingView, ends: number | undefined, groups: string[]): string[] {
  const passes = view.shape!.passes
  const deferred = view.classes.filter(({ deferred: later, count }) => later && count > 0)
  const past = deferred.map((own) => classTitle(own, groups)).join('; ')
  if (passes === 1) return ['Once through: answer, or leave at its time and do not come back.']
  const by = (seconds: number) =>
    view.clock ? onTheClock(view.clock.start, seconds).slice(0, 5) : `minute ${Math.round(seconds / 60)}`
  const second = view.passes[1]
  const { workingSeconds, reserveSeconds } = view.pace!
  const toTheEnd = `to ${by(workingSeconds)}${reserveSeconds ? ', when what is kept back begins' : ''}.`
  // Where the first time takes all there is, another is for whoever is ahead.
  const ahead = ends !== undefined && ends > workingSeconds - 60 ? ', if you are ahead' : ''
  const mark = 'mark ? between two, ○ no idea'
  return [
    `First time through${ends === undefined ? '' : `, to ${by(ends)}`}: answer what comes, leave at its time and ${mark}.${past ? ` Go past: ${past}.` : ''}`,
    passes === 2
      ? `Second${ahead}: the ? first, then the ○, ${toTheEnd}`
      : `Second${ends !== undefined && second ? `, to about ${by(second.to)}` : ''}: the ?, each as long again.`,
    ...(passes === 3 ? [`Third${ahead}: what is left, ${toTheEnd}`] : []),
  ]
}

/** Seconds to which checkpoints of a first time through are told. */
const grain = 30

/** Checkpoints of the budget; where the first of several times through ends before it, as that meets them. */
function cardCheckpoints(view: PacingView, pace: SectionPace, ends: number | undefined): CardCheckpoint[] {
  const last = pace.checkpoints[pace.checkpoints.length - 1]
  const placeOf = (point: Checkpoint): number => {
    if (ends === undefined || !last) return point.at
    return point === last ? ends : Math.round((point.at * ends) / last.at / grain) * grain
  }
  return pace.checkpoints.map((point) => {
    const at = placeOf(point)
    return {
      item: point.item,
      number: point.number,
      ...(view.clock && { clock: onTheClock(view.clock.start, at) }),
      at: clockWords(at),
      left: clockWords(pace.sectionSeconds - at),
      ...(point.ends && { ends: point.ends }),
    }
  })
}

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
  const names = shortNames(exam.topics)
  const weakOf = (section: string) =>
    exam.topics
      .flatMap((topic, at) =>
        topic.section === section && isWeak(assessment.known[at]!) ? [names[at]!.short] : [],
      )
      .join(', ')
  return {
    name,
    exam: exam.title,
    ...(sitting && { date: sitting.date, place: sitting.place }),
    cards: inSatOrder(exam.sections, record.pacing.order).map((section): PaceCard => {
      const view = viewOf(assessment, section.id)
      const { clock, pace, problem } = view
      const ends = firstTimeEnds(view)
      const groups = [...section.groups, ...(section.stages?.[view.stage]?.groups ?? [])].map(({ id }) => id)
      return {
        section: section.id,
        title: section.title,
        ...(section.paper && { paper: section.paper }),
        ...(clock && { start: timeOf(Math.round(clock.start)), end: timeOf(Math.round(clock.end)) }),
        minutes: (pace?.sectionSeconds ?? section.minutes * 60) / 60,
        items: pace?.items.length ?? 0,
        reserveMinutes: (pace?.reserveSeconds ?? 0) / 60,
        ...(ends !== undefined && { firstTime: true }),
        checkpoints: pace ? cardCheckpoints(view, pace, ends) : [],
        passes: pace ? passRules(view, ends, groups) : [],
        leave: view.classes
          .filter(({ count }) => count > 0)
          .map(
            (own) =>
              `${classTitle(own, groups)}${own.title === weakTitle ? ` (${weakOf(section.id)})` : ''}: ${leaveWords(own)}`,
          ),
        guess: guessRules(grounds.filter((ground) => ground.section === section.id)),
        ...(problem && { problem: problem.message }),
      }
    }),
  }
}

/** Pace cards of every section, in the order in which they are sat. */
export const paceCards = (record: CandidateRecord, now: Moment, name: string): PaceCards =>
  cardsFrom(assess(record, now), name)
