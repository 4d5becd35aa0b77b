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
const bands = [0.45, 0.7]
const bandTitles = ['weak topics', 'fair topics', 'strong topics']
const thirdTitles = ['first third', 'middle third', 'last third']

const clamp = (p: number): number => Math.min(0.97, Math.max(0.03, p))

/** Items that get harder are told apart by thirds, where there are enough of them. */
const inThirds = (group: ItemGroup): boolean => group.difficulty === 'rising' && group.items >= 6
const thirdOf = (at: number, items: number): number => Math.min(2, Math.floor((at * 3) / items))

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
  const topics = record.exam.topics
    .map((topic, at) => ({ ...topic, known: known[at]! }))
    .filter((topic) => topic.section === section.id)
  const mean = topics.reduce((sum, { share, known: k }) => sum + share * k, 0)
  const bandOf = (k: number) => (k < bands[0]! ? 0 : k < bands[1]! ? 1 : 2)
  const topicBand = new Map(topics.map(({ id, known: k }) => [id, bandOf(k)]))
  const present = [...new Set(topicBand.values())].sort()
  const notSure = reliabilityOf(record).unsolved

  const sat = traces.filter((trace) => trace.section === section.id).flatMap(({ items }) => items)
  const met = [...sat, ...drilledItems(record).filter((item) => item.section === section.id)]
  const classes: ItemClass[] = []
  const place = new Map<string, number>()
  const banded = (group: ItemGroup) =>
    group.difficulty !== 'rising' && group.kind !== 'written' && present.length > 1
  const keyOf = (group: ItemGroup, kind: number) => `${group.id}/${kind}`
  /** The kind of an item in its group: a third, a band of its topic, or -1 for the only one; undefined where untold. */
  const kindOf = (group: ItemGroup, { at, topic }: Pick<TimedItem, 'at' | 'topic'>): number | undefined =>
    inThirds(group)
      ? at === undefined
        ? undefined
        : thirdOf(at, group.items)
      : !banded(group)
        ? -1
        : topic === undefined
          ? undefined
          : topicBand.get(topic)

  for (const group of groups) {
    const own = pace.items.filter((item) => item.group === group.id)
    const rising = inThirds(group)
    const kinds = rising ? [0, 1, 2] : banded(group) ? present : [-1]
    const guessRate = group.kind === 'choice' ? (notSure.get(group.choices!) ?? 1 / group.choices!) : 0
    const blank = group.perBlank ?? 0
    const byGuess =
      group.kind === 'choice' ? guessRate * group.perRight - (1 - guessRate) * group.perWrong : -Infinity
    const left = Math.max(blank, byGuess, blindGuess(group))
    const guess = byGuess > blank ? guessRate : 0
    const budgetOf = (items: PacedItem[]) =>
      Math.max(2, items.reduce((sum, { seconds }) => sum + seconds, 0) / Math.max(1, items.length))
    const defaults = kinds.map((kind) => {
      const items = rising ? own.filter(({ at }) => thirdOf(at, group.items) === kind) : own
      const inBand = topics.filter(({ known: k }) => kind < 0 || rising || bandOf(k) === kind)
      const share = inBand.reduce((sum, topic) => sum + topic.share, 0)
      const k = rising
        ? logistic(logit(clamp(mean)) + riseLogit * (1 - kind))
        : share > 0
          ? inBand.reduce((sum, topic) => sum + topic.share * topic.known, 0) / share
          : mean
      return { kind, share, p: clamp(k), median: defaultShare * budgetOf(items), s: defaultSpread }
    })
    // The group first, each time set against what was expected of its class; then each class towards its group.
    const inGroup = met.filter((item) => item.group === group.id)
    const usual = defaults.reduce((sum, { median }) => sum + ln(median), 0) / Math.max(1, defaults.length)
    const expectedOf = (item: TimedItem) => {
      const kind = kindOf(group, item)
      return defaults.find((one) => one.kind === kind)?.median ?? exp(usual)
    }
    const meanP = defaults.reduce((sum, { p }) => sum + p, 0) / defaults.length
    const whole = fitSolving(
      inGroup.map((item) => ({ seconds: item.seconds / expectedOf(item), solved: item.solved })),
      { p: meanP, median: 1, s: defaultSpread, strength: groupStrength },
    )
    const shift = logit(clamp(whole.p)) - logit(clamp(meanP))
    defaults.forEach(({ kind, p, median, s }) => {
      const items = inGroup.filter((item) => kindOf(group, item) === kind)
      const fitted = fitSolving(items, {
        p: clamp(logistic(logit(p) + shift)),
        median: median * whole.median,
        s: whole.s,
        strength: classStrength,
      })
      place.set(keyOf(group, kind), classes.length)
      classes.push({
        id: keyOf(group, kind),
        group: group.id,
        title: rising ? thirdTitles[kind]! : kind < 0 ? '' : bandTitles[kind]!,
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
      })
    })
  }

  // Places of a group's items, spread over the bands by their share of the section.
  const groupOf = new Map(groups.map((group) => [group.id, group]))
  const shares = present.map((band) =>
    topics.reduce((sum, { known: k, share }) => sum + (bandOf(k) === band ? share : 0), 0),
  )
  const owed = new Map<string, number[]>()
  const of = pace.items.map(({ group: id, at }) => {
    const group = groupOf.get(id)!
    const told = kindOf(group, { at })
    if (told !== undefined) return place.get(keyOf(group, told))!
    const debt = owed.get(id) ?? shares.map(() => 0)
    const next = debt.map((value, at) => value + shares[at]!)
    const most = next.indexOf(Math.max(...next))
    next[most]! -= 1
    owed.set(id, next)
    return place.get(keyOf(group, present[most]!))!
  })
  for (const at of of) classes[at]!.count += 1
  return {
    classes,
    of,
    classOf: (item) => {
      const group = groupOf.get(item.group)
      const kind = group && kindOf(group, item)
      return kind === undefined ? undefined : place.get(keyOf(group!, kind))
    },
  }
}
