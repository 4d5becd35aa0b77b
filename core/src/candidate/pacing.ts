import type { ApproachShape, ItemGroup, PaceGoal, Section, SectionPacing } from '@climber/contract'
import { logistic, logit } from '../exact/functions'
import { asSat } from '../exam/accommodation'
import { byLeaveTimes, LeaveTimes, type PacedPaper } from '../pacing/approaches'
import { classesOf, type ItemClass, type SectionClasses } from '../pacing/classes'
import { goalsOf } from '../pacing/goals'
import { movable, type SectionClock, sectionClocks } from '../pacing/clock'
import { type LeaveRule, markSeconds } from '../pacing/leave'
import { type PacedItem, PacingProblem, paceSection, type SectionPace } from '../pacing/section'
import type { Leg } from '../pacing/sittings/paper'
import { sitMany } from '../pacing/sittings/sitMany'
import { type Trace, tracesOf } from '../pacing/times'
import { likeliest, stageChances } from '../scoring/expected'
import { dayNumber } from '../time/day'
import { weightedMean } from '../learner/estimate'
import { normalQuantile } from '../exact/normal'
import { type Assessment, assess } from './assessment'
import { sectionStates } from './whereYouStand'
import type { CandidateRecord, Moment } from './moment'

/** As what somebody sits: with today's knowledge, or with that of exam day if the plan is kept. */
export type AsOf = 'today' | 'exam'

/** A section as it is paced, with everything that simulated sittings need. */
export interface PacedSection {
  section: Section
  wish: SectionPacing
  /** One pace for each second stage of an adaptive section, else one. */
  paces: SectionPace[]
  /** Those of the first way, then those of the next; `firstOf` is where each way's begin. */
  classes: ItemClass[]
  firstOf: number[]
  told: SectionClasses[]
  traces: Trace[]
  paced: PacedPaper
  times: LeaveTimes
  chances: number[]
}

export const noWish: SectionPacing = { reserveMinutes: 0, goal: null, every: null }

/** Knowledge is known within limits: the sittings are spread over so many equally likely levels of it. */
const levelCount = 8
const levels = Array.from({ length: levelCount }, (_, at) => normalQuantile((at + 0.5) / levelCount))

const clampShare = (p: number): number => Math.min(0.98, Math.max(0.02, p))

function legOf(items: PacedItem[], of: number[], groups: ItemGroup[], until: number): Leg {
  const sets = new Map(groups.map(({ id, set }) => [id, set?.items]))
  let start = 0
  return {
    of,
    reading: items.map(({ reading }) => reading),
    setStart: items.map(({ group, at }, place) => {
      const set = sets.get(group)
      if (!set || at % set === 0) start = place
      return set ? start : place
    }),
    until,
  }
}

/** Share known of every topic, in the exam's order, today or on exam day. */
export function knownAsOf(assessment: Assessment, asOf: AsOf): number[] {
  const { learner, ahead, sitting, today } = assessment
  if (asOf === 'today' || !sitting || dayNumber(sitting.date) <= today) return assessment.known
  const [exposure] = learner.exposures([dayNumber(sitting.date)], ahead)
  return learner.known(exposure!).map((own) => weightedMean(own, learner.weights))
}

/** Paces, classes and leave times of one section. Throws `PacingProblem`. */
export function pacedSection(assessment: Assessment, id: string, asOf: AsOf = 'today'): PacedSection {
  const { record, landscape } = assessment
  const { exam, timeFactor } = asSat(record.exam, record.settings)
  const at = exam.sections.findIndex((one) => one.id === id)
  const section = exam.sections[at]!
  const wish = record.pacing.sections[id] ?? noWish
  const stages = section.stages ?? [undefined]
  const paces = stages.map((stage) => paceSection(section, wish, timeFactor, stage?.id))
  const known = knownAsOf(assessment, asOf)
  const share = landscape.sectionKnown(at, known)
  const traces = tracesOf(record).filter((trace) => trace.section === id)
  const classes: ItemClass[] = []
  const firstOf: number[] = []
  const told = stages.map((stage, way) =>
    classesOf(record, section, paces[way]!, [...section.groups, ...(stage?.groups ?? [])], known, traces),
  )
  const of = told.map((own) => {
    const first = classes.length
    firstOf.push(first)
    classes.push(...own.classes)
    return own.of.map((kind) => kind + first)
  })
  // How far the section's knowledge may be off, as a shift of the odds of each class.
  const state = sectionStates(assessment)[at]!
  const middle = clampShare(share)
  const shift = state.sd / (middle * (1 - middle))
  const sat = classes.map(({ p, median, s, marks, wrong, blank, guess }) => ({
    p,
    median,
    s,
    marks,
    wrong,
    blank,
    guess,
    levels: levels.map((z) => logistic(logit(clampShare(p)) + z * shift)),
  }))
  const first = paces[0]!
  const cut = section.stages ? first.firstStage! : first.items.length
  const groups = stages.flatMap((stage) => [...section.groups, ...(stage?.groups ?? [])])
  const until = section.stages ? first.finishBy[cut - 1]! : first.workingSeconds
  const paced: PacedPaper = {
    paper: {
      classes: sat,
      first: legOf(first.items.slice(0, cut), of[0]!.slice(0, cut), groups, until),
      ...(section.stages && {
        second: section.stages.map((stage, way) => ({
          ...legOf(paces[way]!.items.slice(cut), of[way]!.slice(cut), groups, paces[way]!.workingSeconds),
          from: stage.from,
        })),
      }),
    },
    worth: classes.map(({ worth }) => worth),
  }
  return {
    section,
    wish,
    paces,
    classes,
    firstOf,
    told,
    traces,
    paced,
    times: new LeaveTimes(paced),
    chances: section.stages ? stageChances(section, share) : [1],
  }
}

/** One class of items with its leave time. */
export interface ClassLine extends ItemClass {
  /** Seconds of the budget for one, on average. */
  budget: number
  rule: LeaveRule
  /** There is time enough: stay until it is done. */
  unhurried: boolean
  /** The first pass goes past it. */
  deferred: boolean
}

/** One item of a test that was sat, on the pace curve. */
export interface TracePoint {
  number: number
  /** Seconds on the clock when it was done, if items were taken in the paper's order. */
  at: number
  seconds: number
  budget: number
  outcome: 'right' | 'wrong' | 'left'
  topic?: string
  /** Seconds spent beyond the leave time. */
  over: number
}
export interface TraceLine {
  id: string
  title: string
  date?: string
  points: TracePoint[]
  /** Items of the section that were not reached. */
  notReached: number
  obeying: Obeying
}

/**
 * What leaving by the leave times would have been worth on a test: seconds saved on items that were not solved anyway,
 * at mu marks a second, less the marks of items that were solved after their leave time.
 */
export interface Obeying {
  saved: number
  items: number
  forgone: number
  marks: number
}

export interface PassTime {
  /** 0 the section or its first stage, 1 its second. */
  leg: number
  /** Seconds from the section's start, on average over simulated sittings. */
  from: number
  to: number
}

export interface PacingView {
  section: string
  clock?: SectionClock
  movable: boolean
  problem?: { field: string; message: string }
  stages: { id: string; title: string; chance: number }[]
  /** Place of the stage shown. */
  stage: number
  pace?: SectionPace
  untimed: boolean
  /** Time granted, of the section's own. */
  granted: number
  goals: PaceGoal[]
  classes: ClassLine[]
  /** Marks a second; 0 where there is time enough for everything. */
  mu: number
  /** Expected seconds of all items by these rules, and the seconds there are for them. */
  expected: number
  available: number
  shape?: ApproachShape
  passes: PassTime[]
  traces: TraceLine[]
}

/** Below this many marks a second nothing is short. */
export const plentyMu = 1e-5
const trialSeed = 20_01
const trialSittings = 1000

/** The rule of a class in one leg: 0 the section or its first stage, from 1 on the second stages. */
const ruleOf = (paced: PacedSection, leg: number, kind: number): LeaveRule =>
  paced.times.plans[leg]!.rules[kind]!

function traceLine(trace: Trace, paced: PacedSection, stage: number, mu: number): TraceLine {
  const pace = paced.paces[stage]!
  const told = paced.told[stage]!
  const offset = paced.firstOf[stage]!
  const byNumber = new Map(pace.items.map((item) => [item.number, item]))
  const points: TracePoint[] = []
  const obeying: Obeying = { saved: 0, items: 0, forgone: 0, marks: 0 }
  let clock = 0
  for (const item of trace.items) {
    const own = byNumber.get(item.number!)
    clock += item.seconds
    if (!own || own.group !== item.group) continue
    const kind = told.classOf(item) ?? told.of[pace.items.indexOf(own)]!
    const leg = paced.section.stages && item.number! > pace.firstStage! ? stage + 1 : 0
    const rule = ruleOf(paced, leg, kind + offset)
    const { worth } = paced.classes[kind + offset]!
    const limit = mu > plentyMu ? Math.max(rule.seconds, markSeconds) : Infinity
    const over = Math.max(0, item.seconds - limit)
    if (over > 0 && !item.solved) {
      obeying.saved += over
      obeying.items += 1
    }
    // A class that is not started at all is come back to; what it earned is not forgone.
    if (over > 0 && item.solved && rule.seconds > 0) {
      obeying.saved += over
      obeying.forgone += worth
    }
    points.push({
      number: item.number!,
      at: clock,
      seconds: item.seconds,
      budget: own.seconds + own.reading,
      outcome: item.outcome,
      topic: item.topic,
      over,
    })
  }
  obeying.marks = obeying.saved * mu - obeying.forgone
  return {
    id: trace.id,
    title: trace.title,
    date: trace.date,
    points,
    notReached: Math.max(0, pace.items.length - Math.max(0, ...trace.items.map(({ number }) => number ?? 0))),
    obeying,
  }
}

/** Everything the Pacing screen shows of a section. */
export function pacingView(
  record: CandidateRecord,
  now: Moment,
  id: string,
  stageId?: string,
  asOf: AsOf = 'today',
): PacingView {
  return viewOf(assess(record, now), id, stageId, asOf)
}

export function viewOf(
  assessment: Assessment,
  id: string,
  stageId?: string,
  asOf: AsOf = 'today',
): PacingView {
  const { record, sitting } = assessment
  const { exam, timeFactor } = asSat(record.exam, record.settings)
  const section = exam.sections.find((one) => one.id === id)!
  const original = record.exam.sections.find((one) => one.id === id)!
  const clocks = sitting ? sectionClocks(exam, timeFactor, sitting.start, record.pacing.order) : []
  const wish = record.pacing.sections[id] ?? noWish
  const view: PacingView = {
    section: id,
    clock: clocks.find((own) => own.section === id),
    movable: movable(exam.sections, exam.sections.indexOf(section)),
    stages: (section.stages ?? []).map((stage) => ({ id: stage.id, title: stage.title, chance: 0 })),
    stage: 0,
    untimed: section.timed === false,
    granted: (section.minutes * timeFactor) / original.minutes,
    goals: goalsOf(wish),
    classes: [],
    mu: 0,
    expected: 0,
    available: 0,
    passes: [],
    traces: [],
  }
  let paced: PacedSection
  try {
    paced = pacedSection(assessment, id, asOf)
  } catch (problem) {
    if (!(problem instanceof PacingProblem)) throw problem
    return { ...view, problem: { field: problem.field, message: problem.message } }
  }
  view.stages.forEach((stage, at) => (stage.chance = paced.chances[at]!))
  const named = view.stages.findIndex((stage) => stage.id === stageId)
  const stage = section.stages ? (named < 0 ? likeliest(paced.chances) : named) : 0
  const pace = paced.paces[stage]!
  const offset = paced.firstOf[stage]!
  const shown = paced.told[stage]!
  const found = byLeaveTimes(paced.times, (wish.passes ?? 2) as ApproachShape['passes'], trialSeed)
  const outcome = sitMany(paced.paced.paper, found.approach, trialSittings, trialSeed)
  const legs = section.stages ? [0, stage + 1] : [0]
  const mu = Math.max(...legs.map((leg) => paced.times.plans[leg]!.mu))
  const later = new Set(found.shape.passes > 1 ? paced.times.ranked.slice(0, found.shape.deferred) : [])
  return {
    ...view,
    // Where nobody stops it, its breaks put off its end; what follows keeps the time that the exam gives it.
    clock: view.clock && { ...view.clock, end: view.clock.start + pace.sectionSeconds / 60 },
    stage,
    pace,
    classes: shown.classes.map((own, kind) => {
      const places = shown.of.flatMap((one, place) => (one === kind ? [place] : []))
      const leg = section.stages && places.every((place) => place >= pace.firstStage!) ? stage + 1 : 0
      const budget =
        places.reduce((sum, place) => sum + pace.items[place]!.seconds, 0) / Math.max(1, places.length)
      return {
        ...own,
        budget,
        rule: ruleOf(paced, leg, kind + offset),
        unhurried: paced.times.plans[leg]!.mu <= plentyMu,
        deferred: later.has(kind + offset),
      }
    }),
    mu: mu > plentyMu ? mu : 0,
    expected: legs.reduce((sum, leg) => sum + paced.times.plans[leg]!.time, 0),
    available: pace.workingSeconds - pace.readingSeconds,
    shape: found.shape,
    passes: passTimes(outcome.passEnds),
    traces: paced.traces.map((trace) => traceLine(trace, paced, stage, mu)),
  }
}

/** Ends of passes as stretches, leg by leg; passes that take no time are not listed. */
function passTimes(ends: number[][]): PassTime[] {
  return ends.flatMap((own, leg) => {
    const begun = leg ? ends[0]!.at(-1)! : 0
    let from = 0
    return own.flatMap((end) => {
      if (end - from < 1) return []
      const time = { leg, from: begun + from, to: begun + end }
      from = end
      return time
    })
  })
}
