import type { CandidateRecord, ItemGroup, Section } from '@climber/contract'
import { exp, ln, logistic, logit } from '../exact/functions'
import { reliabilityOf } from '../guessing/reliability'
import { blindGuess } from '../scoring/raw'
import type { LeaveClass } from './leave'
import type { PacedItem, SectionPace } from './section'
import { drilledItems, fitSolving, type TimedItem, type Trace, tracesOf } from './times'

/** A kind of item that a candidate can tell at sight: its group, and how far into a rising one or how strong its topic. */
export interface ItemClass extends LeaveClass {
  id: string
  group: string
  title: string
  /** What an item left for good earns on average: a guess, or the blank. */
  left: number
  /** Chance that a guess is right; 0 where leaving it blank is better. */
  guess: number
  marks: number
  wrong: number
  blank: number
  /** Items of the record behind it. */
  items: number
  /** What would be believed without them. */
  expected: { p: number; median: number; s: number }
}

export interface SectionClasses {
  classes: ItemClass[]
  /** Class of each item of the pace, in the order in which they are taken. */
  of: number[]
  /** Class of an item met in a test or drill; undefined where it cannot be told. */
  classOf(item: Pick<TimedItem, 'group' | 'at' | 'topic'>): number | undefined
}

/** Items of a prior: so many answers of the candidate's own weigh as much as what the exam lets expect. */
const groupStrength = 8
const classStrength = 5
/** What is expected before any record: those who can solve an item mostly do in three quarters of its budget. */
const defaultShare = 0.75
const defaultSpread = 0.5
/** Odds of solving the first and the last third of items that get harder, against the middle, in logarithms. */
const riseLogit = 0.8
/** Knowledge from which a topic is called weak no longer, and strong. */
const bandEnds = [0.45, 0.7] as const
export const weakTitle = 'weak topics'
const bandTitles = [weakTitle, 'fair topics', 'strong topics']
const thirdTitles = ['first third', 'middle third', 'last third']

const bandOf = (known: number): number => (known < bandEnds[0] ? 0 : known < bandEnds[1] ? 1 : 2)
/** Whether a topic of which so much is known, 0 to 1, is among the weak ones. */
export const isWeak = (known: number): boolean => bandOf(known) === 0
const keyOf = (group: ItemGroup, kind: number): string => `${group.id}/${kind}`
const clamp = (p: number): number => Math.min(0.97, Math.max(0.03, p))

/** Items that get harder are told apart by thirds, where there are enough of them. */
const inThirds = (group: ItemGroup): boolean => group.difficulty === 'rising' && group.items >= 6
const thirdOf = (at: number, items: number): number => Math.min(2, Math.floor((at * 3) / items))

/** The topics of a section in bands of what is known of them. */
class Bands {
  readonly topics: { id: string; share: number; known: number }[]
  /** Bands that some topic is in, in order. */
  readonly present: number[]
  private readonly byTopic: Map<string, number>

  constructor(record: CandidateRecord, section: string, known: number[]) {
    this.topics = record.exam.topics
      .map((topic, at) => ({ ...topic, known: known[at]! }))
      .filter((topic) => topic.section === section)
    this.byTopic = new Map(this.topics.map(({ id, known: k }) => [id, bandOf(k)]))
    this.present = [...new Set(this.byTopic.values())].sort()
  }
  /** Share known of the section. */
  get mean(): number {
    return this.topics.reduce((sum, { share, known }) => sum + share * known, 0)
  }
  /** What the topics of one band are of the section, and how much of them is known; -1 is all of them. */
  of(band: number): { share: number; known: number } {
    const own = this.topics.filter(({ known }) => band < 0 || bandOf(known) === band)
    const share = own.reduce((sum, topic) => sum + topic.share, 0)
    return {
      share,
      known: share > 0 ? own.reduce((sum, topic) => sum + topic.share * topic.known, 0) / share : this.mean,
    }
  }
  /** Kinds of items that can be told apart in a group: thirds, bands, or -1 where all are of one kind. */
  kindsOf(group: ItemGroup): number[] {
    return inThirds(group) ? [0, 1, 2] : this.tellApart(group) ? this.present : [-1]
  }
  /** The kind of an item in its group; undefined where it cannot be told. */
  kindOf(group: ItemGroup, { at, topic }: Pick<TimedItem, 'at' | 'topic'>): number | undefined {
    if (inThirds(group)) return at === undefined ? undefined : thirdOf(at, group.items)
    if (!this.tellApart(group)) return -1
    return topic === undefined ? undefined : this.byTopic.get(topic)
  }
  private tellApart(group: ItemGroup): boolean {
    return group.difficulty !== 'rising' && group.kind !== 'written' && this.present.length > 1
  }
}

/** What leaving an item for good earns on average, and the chance that a guess is right; 0 where a blank is better. */
function leaving(
  group: ItemGroup,
  notSure: Map<number, number>,
): { left: number; guess: number; blank: number } {
  const blank = group.perBlank ?? 0
  const guessRate = group.kind === 'choice' ? (notSure.get(group.choices!) ?? 1 / group.choices!) : 0
  const byGuess =
    group.kind === 'choice' ? guessRate * group.perRight - (1 - guessRate) * group.perWrong : -Infinity
  return {
    left: Math.max(blank, byGuess, blindGuess(group)),
    guess: byGuess > blank ? guessRate : 0,
    blank,
  }
}

/** How the items of each kind in a group are expected to go before any record. */
function expectedOf(group: ItemGroup, bands: Bands, pace: SectionPace) {
  const own = pace.items.filter((item) => item.group === group.id)
  const rising = inThirds(group)
  const budgetOf = (items: PacedItem[]) =>
    Math.max(2, items.reduce((sum, { seconds }) => sum + seconds, 0) / Math.max(1, items.length))
  return bands.kindsOf(group).map((kind) => {
    const items = rising ? own.filter(({ at }) => thirdOf(at, group.items) === kind) : own
    const known = rising ? logistic(logit(clamp(bands.mean)) + riseLogit * (1 - kind)) : bands.of(kind).known
    return { kind, p: clamp(known), median: defaultShare * budgetOf(items), s: defaultSpread }
  })
}

/**
 * The classes of one group: the group first, each item set against what was expected of its class; then each class towards
 * its group.
 */
function classesIn(
  group: ItemGroup,
  bands: Bands,
  pace: SectionPace,
  met: TimedItem[],
  notSure: Map<number, number>,
): ItemClass[] {
  const expected = expectedOf(group, bands, pace)
  const inGroup = met.filter((item) => item.group === group.id)
  const usual = expected.reduce((sum, { median }) => sum + ln(median), 0) / Math.max(1, expected.length)
  const medianOf = (item: TimedItem) => {
    const kind = bands.kindOf(group, item)
    return expected.find((one) => one.kind === kind)?.median ?? exp(usual)
  }
  const meanP = expected.reduce((sum, { p }) => sum + p, 0) / expected.length
  const whole = fitSolving(
    inGroup.map((item) => ({ seconds: item.seconds / medianOf(item), solved: item.solved })),
    { p: meanP, median: 1, s: defaultSpread, strength: groupStrength },
  )
  const shift = logit(clamp(whole.p)) - logit(clamp(meanP))
  const { left, guess, blank } = leaving(group, notSure)
  return expected.map(({ kind, p, median, s }) => {
    const items = inGroup.filter((item) => bands.kindOf(group, item) === kind)
    const fitted = fitSolving(items, {
      p: clamp(logistic(logit(p) + shift)),
      median: median * whole.median,
      s: whole.s,
      strength: classStrength,
    })
    return {
      id: keyOf(group, kind),
      group: group.id,
      title: inThirds(group) ? thirdTitles[kind]! : kind < 0 ? '' : bandTitles[kind]!,
      count: 0,
      p: fitted.p,
      median: fitted.median,
      s: fitted.s,
      items: kind < 0 ? inGroup.length : items.length,
      expected: { p, median, s },
      marks: group.perRight,
      wrong: group.perWrong,
      blank,
      left,
      guess,
      worth: Math.max(0, group.perRight - left),
    }
  })
}

/** The kind of each item of the pace: its own where it is told, else spread over the bands by their share of the section. */
function kindsOfPace(pace: SectionPace, groups: Map<string, ItemGroup>, bands: Bands): string[] {
  const shares = bands.present.map((band) => bands.of(band).share)
  const owed = new Map<string, number[]>()
  return pace.items.map(({ group: id, at }) => {
    const group = groups.get(id)!
    const told = bands.kindOf(group, { at })
    if (told !== undefined) return keyOf(group, told)
    const debt = owed.get(id) ?? shares.map(() => 0)
    const next = debt.map((value, band) => value + shares[band]!)
    const most = next.indexOf(Math.max(...next))
    next[most]! -= 1
    owed.set(id, next)
    return keyOf(group, bands.present[most]!)
  })
}

/**
 * The item classes of a section, each with how its items go for this candidate. `known` is the share known of each topic,
 * in the exam's order. Which topic a paper's item has is not known beforehand: places are shared out by the topics' shares,
 * spread evenly.
 */
export function classesOf(
  record: CandidateRecord,
  section: Section,
  pace: SectionPace,
  groups: ItemGroup[],
  known: number[],
  traces: Trace[] = tracesOf(record),
): SectionClasses {
  const bands = new Bands(record, section.id, known)
  const sat = traces.filter((trace) => trace.section === section.id).flatMap(({ items }) => items)
  const met = [...sat, ...drilledItems(record).filter((item) => item.section === section.id)]
  const notSure = reliabilityOf(record).unsolved
  const classes = groups.flatMap((group) => classesIn(group, bands, pace, met, notSure))
  const place = new Map(classes.map(({ id }, at) => [id, at]))
  const groupOf = new Map(groups.map((group) => [group.id, group]))
  const of = kindsOfPace(pace, groupOf, bands).map((key) => place.get(key)!)
  for (const at of of) classes[at]!.count += 1
  return {
    classes,
    of,
    classOf: (item) => {
      const group = groupOf.get(item.group)
      const kind = group && bands.kindOf(group, item)
      return group && kind !== undefined ? place.get(keyOf(group, kind)) : undefined
    },
  }
}
