import {
  allocate,
  dateOf,
  dayNumber,
  effective,
  fillSlots,
  improve,
  keptAfter,
  type PlanInput,
} from '@climber/core'
import highsLoader from 'highs'
import { mustsOf } from '../core/src/plan/fill/budgets'
import { weightsOf } from '../core/src/plan/fill/improve'
import type { Slot } from '../core/src/plan/fill/slots'
import { inputsOf, today } from '../core/test/arbitrary'
import { gardenRecord } from '../core/test/fixture'
import { numbers } from './shared/numbers'
import { median, table } from './table'

const first = dayNumber(today)

/** A small placement: slots over some days, topics with their values, no prerequisites and no mixed sets. */
function instance(seed: number): { input: PlanInput; slots: Slot[]; exam: number } {
  const random = numbers(seed * 7919 + 1)
  const topics = 3 + Math.floor(random() * 3)
  const count = 7 + Math.floor(random() * 4)
  const days = 10 + Math.floor(random() * 40)
  const record = gardenRecord()
  const input = inputsOf({ record, minute: 420, seed: 1 }, today).plan
  const chosen = input.topics.slice(0, topics).map((topic) => ({
    ...topic,
    prerequisites: [],
    touches: [],
    value: 10 + random() * 40,
    known: 0.1 + random() * 0.6,
    tau: 2 + random() * 8,
  }))
  const stage = {
    name: 'Learn',
    about: '',
    share: 1,
    testEvery: 7,
    rehearsal: false,
    mixedEvery: 999,
    testShare: 0.5,
    from: first,
    to: first + days,
  }
  const at = new Set<number>()
  while (at.size < count) at.add(Math.floor(random() * days))
  const slots = [...at]
    .sort((a, b) => a - b)
    .map((day) => ({ day: first + day, from: 1080, minutes: 50 + 10 * Math.floor(random() * 2), stage }))
  const exam = first + days + 2
  return {
    input: {
      ...input,
      topics: chosen,
      shelf: [],
      sitting: { ...input.sitting, date: dateOf(exam) },
      settings: { ...input.settings, schools: undefined },
      split: (hours) => allocate(chosen, hours).hours,
    },
    slots,
    exam,
  }
}

/** Points of one topic's sessions on exam day: the objective that the planner's local search climbs, a point weighted as it weighs it. */
function worth(
  topic: PlanInput['topics'][number],
  weight: number,
  sessions: { day: number; minutes: number }[],
  exam: number,
): number {
  if (!sessions.length) return 0
  const hours = sessions.reduce((sum, { minutes }) => sum + minutes / 60, 0)
  const kept = keptAfter(
    sessions.map(({ day }) => day),
    exam,
  )
  return weight * (1 - topic.known) * (1 - Math.exp(-hours / topic.tau)) * effective(1, kept)
}

const weightsIn = ({ input, slots }: Pick<ReturnType<typeof instance>, 'input' | 'slots'>): number[] =>
  weightsOf(
    input,
    slots.reduce((sum, { minutes }) => sum + minutes / 60, 0),
  )

const highs = await highsLoader()
/** The best assignment of all, as a set packing over every subset of slots for each topic, solved to proven optimality. */
function optimum({ input, slots, exam }: ReturnType<typeof instance>): number {
  const weights = weightsIn({ input, slots })
  const musts = mustsOf(input)
  const columns: { name: string; value: number; topic: number; mask: number }[] = []
  input.topics.forEach((topic, at) => {
    for (let mask = 1; mask < 1 << slots.length; mask++) {
      if (mask & (mask << 1)) continue // never twice running
      const own = slots.filter((_, slot) => mask & (1 << slot))
      columns.push({ name: `x${at}_${mask}`, value: worth(topic, weights[at]!, own, exam), topic: at, mask })
    }
  })
  const sum = (list: typeof columns) => list.map(({ name }) => name).join(' + ')
  const lines = [
    'Maximize',
    ` obj: ${columns.map(({ name, value }) => `${value.toFixed(9)} ${name}`).join(' + ')}`,
    'Subject To',
    ...input.topics.map(
      (_, at) =>
        ` t${at}: ${sum(columns.filter(({ topic }) => topic === at))} ${musts.includes(at) ? '=' : '<='} 1`,
    ),
    ...slots.map((_, slot) => ` s${slot}: ${sum(columns.filter(({ mask }) => mask & (1 << slot)))} <= 1`),
    'Binary',
    ` ${columns.map(({ name }) => name).join(' ')}`,
    'End',
  ]
  const found = highs.solve(lines.join('\n'), { mip_rel_gap: 1e-7 })
  if (found.Status !== 'Optimal') throw new Error(found.Status)
  return found.ObjectiveValue
}

const ratios: number[] = []
for (let seed = 1; seed <= 40; seed++) {
  const own = instance(seed)
  const filled = fillSlots(own.input, own.slots)
  improve(own.input, filled, own.exam)
  const weights = weightsIn(own)
  const got = own.input.topics.reduce(
    (total, topic, at) =>
      total +
      worth(
        topic,
        weights[at]!,
        filled.filter(({ topics }) => topics[0] === at),
        own.exam,
      ),
    0,
  )
  ratios.push(got / optimum(own))
}
const sorted = [...ratios].sort((a, b) => a - b)
table(
  'Placement against a proven optimum (HiGHS): 40 instances of 3 to 5 topics in 7 to 10 slots',
  ['share of the optimum', 'per cent'],
  [
    ['median', (100 * median(ratios)).toFixed(2)],
    ['worst', (100 * sorted[0]!).toFixed(2)],
    ['tenth from below', (100 * sorted[3]!).toFixed(2)],
    ['best', (100 * sorted[sorted.length - 1]!).toFixed(2)],
  ],
)
