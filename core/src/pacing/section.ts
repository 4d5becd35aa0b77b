import type { ItemGroup, Section, SectionPacing } from '@climber/contract'
import { itemsOf, waysThrough } from '../scoring/raw'
import { type Anchor, type Budget, ruleOfThumb, shareOut, type Step, stepsOf, workingSeconds } from './budget'
import { anchorsOf, goalsOf } from './goals'

export interface Checkpoint {
  /** Items done, in the order in which they are taken. */
  item: number
  /** Number on the paper of the last of them. */
  number: number
  /** Seconds since the section's start. */
  at: number
  /** Seconds left of the section at that moment, the reserve included. */
  left: number
  /** What ends here, where it is more than a count: an item set, a group, the first stage. */
  ends?: string
}
/** One item on the way through a section. */
export interface PacedItem {
  /** Number on the section's paper, from 1. */
  number: number
  group: string
  /** Place in its group, from 0. */
  at: number
  /** Seconds of the budget for it alone, its reading left out. */
  seconds: number
  reading: number
  marks: number
}
export interface Pause {
  /** After so many items, at so many seconds from the start; the budget goes on `seconds` later. */
  after: number
  at: number
  seconds: number
}
export interface SectionPace extends Budget {
  /** Seconds from start to end, suggested pauses included; and without them. */
  sectionSeconds: number
  grantedSeconds: number
  reserveSeconds: number
  readingSeconds: number
  checkpoints: Checkpoint[]
  items: PacedItem[]
  anchors: Anchor[]
  pauses: Pause[]
  /** Items of the first stage of an adaptive section; its time is the same whichever second stage follows. */
  firstStage?: number
  /** Exact seconds for one item, reading left out, where every item gets the same. */
  secondsEach: number
  /** Exact seconds for a mark, where marks differ. */
  secondsPerMark?: number
  /** The rounded-up rule people use instead, and the item it ends on; absent where rounding loses nothing. */
  thumb?: { secondsEach: number; lastItem: number }
}

/** Wishes that do not fit. `field` is a path in the section's pacing, such as `goals.0.minutes`. */
export class PacingProblem extends Error {
  constructor(
    readonly field: string,
    message: string,
  ) {
    super(message)
  }
}

/** How much longer the last item gets than the first where items get harder, unless the candidate says. */
export const defaultRise = 2
/** Breaks suggested in an untimed section: so many minutes after each stretch of so many. */
export const defaultPauses = { everyMinutes: 20, minutes: 2 }

/** The groups of one way through a section in the order wished; groups that are not named keep their place after. */
export function inOrder(groups: ItemGroup[], order: string[] = []): ItemGroup[] {
  const place = (id: string) => {
    const at = order.indexOf(id)
    return at < 0 ? order.length : at
  }
  return [...groups].sort((a, b) => place(a.id) - place(b.id))
}

/** Sizes of a group's item sets, the last of which may be short. */
export const setsOf = ({ items, set }: ItemGroup): number[] =>
  set
    ? Array.from({ length: Math.ceil(items / set.items) }, (_, at) =>
        Math.min(set.items, items - at * set.items),
      )
    : []

interface Walk {
  items: PacedItem[]
  steps: Step[]
  sets: number[]
}

/** Items of one way as they are taken, weighed by their marks and, where they get harder, by their place. */
function walkOf(section: Section, way: ItemGroup[], wish: SectionPacing): Walk {
  const first = new Map<string, number>()
  let number = 1
  for (const group of way) {
    first.set(group.id, number)
    number += group.items
  }
  const stageGroups = way.slice(section.groups.length)
  const groups = [...inOrder(section.groups, wish.order), ...inOrder(stageGroups, wish.order)]
  const walk: Walk = { items: [], steps: [], sets: [] }
  for (const group of groups) {
    const steps = stepsOf({
      items: group.items,
      parts: group.items * group.perRight,
      set: group.set,
      rise: group.difficulty === 'rising' ? (wish.rise ?? defaultRise) : 1,
    })
    walk.steps.push(...steps)
    walk.sets.push(...setsOf(group))
    steps.forEach(({ reading }, at) =>
      walk.items.push({
        number: first.get(group.id)! + at,
        group: group.id,
        at,
        seconds: 0,
        reading,
        marks: group.perRight,
      }),
    )
  }
  return walk
}

/** Pauses of an untimed section: after the first item that ends past each stretch of work, never after the last. */
function pausesIn(finishBy: number[], everySeconds: number, seconds: number): Pause[] {
  const pauses: Pause[] = []
  let next = everySeconds
  for (let item = 0; item < finishBy.length - 1; item++) {
    if (finishBy[item]! < next) continue
    pauses.push({ after: item + 1, at: finishBy[item]! + pauses.length * seconds, seconds })
    next = finishBy[item]! + everySeconds
  }
  return pauses
}

/** The seconds-an-item that people round to: the next ten above the exact value. */
export const roundedRule = (each: number): number => Math.ceil(each / 10 - 1e-9) * 10

const weightOf = (way: ItemGroup[]): number =>
  way.reduce((sum, { items, perRight }) => sum + items * perRight, 0)

const itemsIn = (groups: ItemGroup[]): number => groups.reduce((sum, { items }) => sum + items, 0)

/** The way through a section by one of its second stages; the longest where none is named. */
function wayThrough(section: Section, stage?: string): ItemGroup[] {
  const ways = waysThrough(section)
  const chosen = section.stages?.findIndex(({ id }) => id === stage) ?? -1
  return ways[chosen] ?? ways.find((groups) => itemsIn(groups) === itemsOf(section))!
}

/**
 * The goals with the end of an adaptive section's first stage among them. Which second stage comes is not known in the first:
 * it ends where the way with most to do would have it.
 */
function withFirstStage(section: Section, wish: SectionPacing, seconds: number, goals: Anchor[]): Anchor[] {
  const firstStage = itemsIn(section.groups)
  if (!section.stages || goals.some(({ items }) => items === firstStage)) return goals
  const heaviest = waysThrough(section).reduce((a, b) => (weightOf(b) > weightOf(a) ? b : a))
  const before = goals.filter(({ items }) => items < firstStage)
  const after = goals.filter(({ items }) => items > firstStage)
  const at = shareOut(walkOf(section, heaviest, wish).steps, seconds, before)[firstStage - 1]!
  // A goal further on may ask for an earlier end; then the goal holds.
  return after[0] && at >= after[0].at ? goals : [...before, { items: firstStage, at }, ...after]
}

/** Numbers of items after which there is a checkpoint, ascending, each with what ends there. */
function marksIn(walk: Walk, way: ItemGroup[], anchors: Anchor[], every: number, firstStage?: number) {
  const items = walk.items.length
  const ends = new Map<number, string>()
  walk.items.forEach(({ group }, place) => {
    const next = walk.items[place + 1]
    if (next && next.group !== group)
      ends.set(place + 1, `part ${way.findIndex(({ id }) => id === group) + 1}`)
  })
  if (firstStage !== undefined) ends.set(firstStage, 'the first stage')
  const named = new Set([...ends.keys(), ...anchors.map((anchor) => anchor.items)])
  const marks = new Set([...named, items])
  // What ends, or was wished for, says more than a round number beside it.
  for (let item = every; item < items - every / 2; item += every)
    if (![...named].some((own) => own !== item && Math.abs(own - item) < every / 2)) marks.add(item)
  return [...marks].sort((a, b) => a - b).map((item) => ({ item, ends: ends.get(item) }))
}

/**
 * Budget and checkpoints of one section, or of one way through an adaptive one (the longest when `stage` is absent).
 * Throws `PacingProblem` naming the field where the wishes do not fit in the section's time. Source: docs/models.md, 5.
 */
export function paceSection(
  section: Section,
  wish: SectionPacing,
  timeFactor: number,
  stage?: string,
): SectionPace {
  const granted = Math.round(section.minutes * 60 * timeFactor)
  const reserveSeconds = Math.round(wish.reserveMinutes * 60)
  const seconds = workingSeconds(section.minutes * 60, timeFactor, reserveSeconds)
  const way = wayThrough(section, stage)
  const walk = walkOf(section, way, wish)
  const items = walk.steps.length
  const readingSeconds = walk.steps.reduce((sum, step) => sum + step.reading, 0)
  if (seconds < items + readingSeconds)
    throw new PacingProblem(
      'reserveMinutes',
      `${wish.reserveMinutes} minutes of reserve leave too little of the ${Number((granted / 60).toFixed(2))} for ${items} items; keep back less`,
    )
  const read = anchorsOf(goalsOf(wish), walk.steps, walk.sets, seconds)
  if ('problem' in read)
    throw new PacingProblem(`goals.${read.problem.goal}.${read.problem.field}`, read.problem.message)
  const anchors = withFirstStage(section, wish, seconds, read.anchors)
  const worked = shareOut(walk.steps, seconds, anchors)
  walk.items.forEach((item, place) => {
    item.seconds = worked[place]! - (place ? worked[place - 1]! : 0) - item.reading
  })

  const pause = section.timed === false && wish.pauses !== null ? (wish.pauses ?? defaultPauses) : undefined
  const pauses = pause ? pausesIn(worked, pause.everyMinutes * 60, Math.round(pause.minutes * 60)) : []
  const restedBy = (item: number) =>
    pauses.reduce((sum, { after, seconds: own }) => sum + (after < item ? own : 0), 0)
  const finishBy = worked.map((at, place) => at + restedBy(place + 1))
  const sectionSeconds = granted + restedBy(Infinity)

  const firstStage = section.stages && itemsIn(section.groups)
  const every = wish.every ?? checkpointSpacing(items)
  const toAnswer = seconds - readingSeconds
  const secondsEach = toAnswer / items
  const marksDiffer = walk.items.some(({ marks }) => marks !== walk.items[0]!.marks)
  const thumb = roundedRule(secondsEach)
  const lastItem = ruleOfThumb(thumb, granted - readingSeconds, items)
  return {
    finishBy,
    workingSeconds: seconds,
    sectionSeconds,
    grantedSeconds: granted,
    reserveSeconds,
    readingSeconds,
    items: walk.items,
    anchors,
    pauses,
    firstStage,
    secondsEach,
    secondsPerMark: marksDiffer
      ? toAnswer / walk.items.reduce((sum, { marks }) => sum + marks, 0)
      : undefined,
    checkpoints: marksIn(walk, way, anchors, every, firstStage).map(({ item, ends }) => ({
      item,
      number: walk.items[item - 1]!.number,
      at: finishBy[item - 1]!,
      left: sectionSeconds - finishBy[item - 1]!,
      ...(ends && { ends }),
    })),
    thumb: section.timed !== false && lastItem < items ? { secondsEach: thumb, lastItem } : undefined,
  }
}

/** Four to eight checkpoints a section, at a round number of items. */
export function checkpointSpacing(items: number): number {
  return (
    [1, 2, 3, 4, 5, 6, 8, 10, 12, 15, 20, 25, 50].find((every) => items / every <= 8) ?? Math.ceil(items / 8)
  )
}
