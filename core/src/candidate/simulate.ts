import type {
  AimChoice,
  ApproachResult,
  ApproachShape,
  OrderResult,
  SectionPacing,
  SimulationRequest,
  SimulationResult,
} from '@climber/contract'
import { bestApproach, bestFixedLimit, byLeaveTimes, fixedLimit, straightThrough } from '../pacing/approaches'
import { inOrder, roundedRule } from '../pacing/section'
import type { Approach } from '../pacing/sittings/paper'
import { sitMany } from '../pacing/sittings/sitMany'
import { conversionFor } from '../scoring/composite'
import { convert } from '../scoring/conversion'
import { square } from '../exact/functions'
import { aimsOf, type SectionAim, usualAim, worthOfScaled } from './aim'
import { type Assessment, assess } from './assessment'
import { noWish, pacedSection, type PacedSection } from './pacing'
import type { CandidateRecord, Moment } from './moment'

/** Sittings between two looks at whether to go on. */
const chunk = 2000
const orderSittings = 4000
const mostOrders = 24

interface Tally {
  raws: Float64Array
  scaled: Float64Array
  odds: Float64Array
}

const meanAndSd = (values: Float64Array): { mean: number; sd: number } => {
  const mean = values.reduce((sum, value) => sum + value, 0) / values.length
  const variance =
    values.reduce((sum, value) => sum + square(value - mean), 0) / Math.max(1, values.length - 1)
  return { mean, sd: Math.sqrt(variance) }
}

const differences = (a: Float64Array, b: Float64Array): { mean: number; error: number } => {
  const { mean, sd } = meanAndSd(a.map((value, at) => value - b[at]!))
  return { mean, error: sd / Math.sqrt(a.length) }
}

/** Every order of some things. */
function ordersOf<T>(things: T[]): T[][] {
  if (things.length < 2) return [things]
  return things.flatMap((thing, at) =>
    ordersOf([...things.slice(0, at), ...things.slice(at + 1)]).map((rest) => [thing, ...rest]),
  )
}

/** Scaled score of a sitting: by the table of the stage that it led to. */
function scorer({ section }: PacedSection): (raw: number, stage: number) => number {
  const tables = (section.stages ?? [section]).map((part) => conversionFor(part).conversion)
  return (raw, stage) => convert(tables[stage]!, raw)
}

/**
 * Simulated sittings of a section by each approach, on the same items, times and luck (common random numbers). A
 * generator that yields the share done: whoever runs it can show progress, rest between two steps, or stop. Throws
 * `PacingProblem` where the wishes do not fit the section.
 */
export function* simulation(
  record: CandidateRecord,
  now: Moment,
  request: SimulationRequest,
): Generator<number, SimulationResult> {
  const assessment = assess(record, now)
  const paced = pacedSection(assessment, request.section, request.asOf)
  const place = record.exam.sections.findIndex(({ id }) => id === request.section)
  const aims = aimsOf(assessment)[place]!
  const aim = request.aim ?? usualAim(aims)
  const approaches = yield* approachesOf(paced, request.seed)
  const orders = ordersToTry(paced)
  const total = approaches.length + orders.length * (orderSittings / request.sittings)
  let done = 0
  const share = (part: number) => 0.25 + (0.75 * (done + part)) / total
  const results: ApproachResult[] = []
  let first: Tally | undefined
  for (const own of approaches) {
    const { tally, result } = yield* sitAll(paced, own.approach, request, aims, aim, share)
    first ??= tally
    const marks = differences(tally.raws, first.raws)
    const odds = differences(tally.odds, first.odds)
    results.push({
      ...result,
      id: own.id,
      title: own.title,
      ...(own.limit !== undefined && { limit: own.limit }),
      ...(own.shape && { shape: own.shape }),
      against: {
        marks: marks.mean,
        marksError: marks.error,
        odds: odds.mean,
        oddsError: odds.error,
      },
    })
    done++
  }
  const tried = yield* tryOrders(assessment, request, orders, () => {
    done += orderSittings / request.sittings
    return share(0)
  })
  return {
    request,
    aim,
    items: paced.paces[0]!.items.length,
    seconds: paced.paces[0]!.workingSeconds,
    approaches: results,
    orders: tried,
  }
}

interface Named {
  id: ApproachResult['id']
  title: string
  approach: Approach
  limit?: number
  shape?: ApproachShape
}

function* approachesOf(paced: PacedSection, seed: number): Generator<number, Named[]> {
  const { paced: paper, times } = paced
  const pace = paced.paces[0]!
  const even = Math.max(10, roundedRule(pace.secondsEach))
  const fixed = bestFixedLimit(paper, seed)
  yield 0.05
  const search = bestApproach(times, seed)
  let step = search.next()
  for (; !step.done; step = search.next()) yield 0.05 + 0.2 * step.value
  const best = step.value
  const leave = ([1, 2, 3] as const).map((passes) => byLeaveTimes(times, passes, seed))
  return [
    { id: 'straight', title: 'Straight through', approach: straightThrough(paper) },
    { id: 'even', title: `${even} seconds each`, approach: fixedLimit(paper, even), limit: even },
    {
      id: 'fixed',
      title: `Best single limit, ${fixed.shape} seconds`,
      approach: fixed.approach,
      limit: fixed.shape,
    },
    { id: 'leave', title: 'Leave times, one pass', approach: leave[0]!.approach, shape: leave[0]!.shape },
    { id: 'two', title: 'Leave times, two passes', approach: leave[1]!.approach, shape: leave[1]!.shape },
    { id: 'three', title: 'Leave times, three passes', approach: leave[2]!.approach, shape: leave[2]!.shape },
    { id: 'best', title: 'Best found', approach: best.approach, shape: best.shape },
  ]
}

function* sitAll(
  paced: PacedSection,
  approach: Approach,
  { sittings, seed }: SimulationRequest,
  aims: SectionAim,
  aim: AimChoice,
  share: (part: number) => number,
): Generator<number, { tally: Tally; result: Omit<ApproachResult, 'id' | 'title' | 'against'> }> {
  const score = scorer(paced)
  const worth = worthOfScaled(aims, aim)
  const tally: Tally = {
    raws: new Float64Array(sittings),
    scaled: new Float64Array(sittings),
    odds: new Float64Array(sittings),
  }
  const counted = new Map<number, number>()
  let [notReached, leftOver, used] = [0, 0, 0]
  let passEnds: number[][] = []
  for (let from = 0; from < sittings; from += chunk) {
    const many = Math.min(chunk, sittings - from)
    const outcome = sitMany(paced.paced.paper, approach, many, seed, from)
    outcome.raw.forEach((raw, at) => {
      const scaled = score(raw, outcome.stage?.[at] ?? 0)
      tally.raws[from + at] = raw
      tally.scaled[from + at] = scaled
      tally.odds[from + at] = worth(scaled)
      counted.set(scaled, (counted.get(scaled) ?? 0) + 1)
    })
    const part = many / sittings
    notReached += outcome.notReached * part
    leftOver += outcome.leftOver * part
    used += outcome.used * part
    passEnds = outcome.passEnds.map((ends, leg) =>
      ends.map((end, pass) => (passEnds[leg]?.[pass] ?? 0) + end * part),
    )
    yield share((from + many) / sittings)
  }
  const raw = meanAndSd(tally.raws)
  const odds = meanAndSd(tally.odds)
  const whole = aims.whole && worthOfScaled(aims, { kind: 'whole' })
  return {
    tally,
    result: {
      marks: raw.mean,
      sd: raw.sd,
      scaled: meanAndSd(tally.scaled).mean,
      scores: [...counted].sort((a, b) => a[0] - b[0]).map(([scaled, count]) => [scaled, count / sittings]),
      odds: odds.mean,
      oddsError: odds.sd / Math.sqrt(sittings),
      ...(whole && {
        whole: [...counted].reduce((sum, [scaled, count]) => sum + (count / sittings) * whole(scaled), 0),
      }),
      notReached,
      leftOver,
      used,
      passEnds,
    },
  }
}

/** Orders of the groups to try: every one where there are few, none where there is but one. */
function ordersToTry(paced: PacedSection): string[][] {
  const own = inOrder(paced.section.groups, paced.wish.order).map(({ id }) => id)
  if (own.length < 2) return []
  const groups = paced.section.groups.map(({ id }) => id)
  return [own, ...ordersOf(groups).filter((order) => order.join() !== own.join())].slice(0, mostOrders)
}

/** Each order by two passes of leave times, on the same seed. */
function* tryOrders(
  assessment: Assessment,
  { section, seed, asOf }: SimulationRequest,
  orders: string[][],
  next: () => number,
): Generator<number, OrderResult[]> {
  const results: OrderResult[] = []
  let first: Float64Array | undefined
  for (const order of orders) {
    const { record } = assessment
    const wish: SectionPacing = record.pacing.sections[section] ?? noWish
    // Goals name items in the order wished; another order has its own.
    const pacing = {
      ...record.pacing,
      sections: { ...record.pacing.sections, [section]: { ...wish, goal: null, goals: [], order } },
    }
    const paced = pacedSection({ ...assessment, record: { ...record, pacing } }, section, asOf)
    const { approach } = byLeaveTimes(paced.times, 2, seed)
    const { raw } = sitMany(paced.paced.paper, approach, orderSittings, seed)
    first ??= raw
    const { mean, error } = differences(raw, first)
    results.push({ order, marks: meanAndSd(raw).mean, against: mean, error })
    yield next()
  }
  return results
}
