import { assess, compositeRange, dateOf, dayNumber, type Kind, planOdds, scoresOn } from '@climber/core'
import { prior } from '../core/src/learner/prior'
import { kindNamed } from './learners/kinds'
import { randomExam, shippedExams as exams } from './learners/exams'
import { normalOf } from './learners/normal'
import { type Life, live, passes } from './learners/life'
import { own } from './learners/own'
import { table } from './table'

/**
 * What is believed beforehand, held against lives of learners of several kinds on the four exams that ship and on as many that nobody
 * thought of: every part of the belief is made narrower and wider, lower and higher, with all others as they are. A part is where it
 * should be if neither way tells better. LIVES sets how many of each kind.
 */
const lives = Number(process.env['LIVES'] ?? 40)
const kinds: Kind[] = [
  own({ pace: () => 0.5 }),
  own({ maker: (random) => -0.35 + 0.2 * normalOf(random) }),
  kindNamed('power law'),
  kindNamed('traces, fatigue'),
]
const all: Life[] = kinds.flatMap((kind) =>
  Array.from({ length: lives }, (_, seed) =>
    seed % 2
      ? live(kind, randomExam(seed), seed + 1, 0.48)
      : live(kind, exams[(seed / 2) % exams.length]!, seed + 1),
  ).filter((life) => life !== undefined),
)

/** How far a forecast lies off what came, its width in it (continuous ranked probability score), of weighted candidates. */
function crps(values: Float64Array, weights: Float64Array, came: number): number {
  const order = [...values.keys()].sort((a, b) => values[a]! - values[b]!)
  const whole = weights.reduce((sum, weight) => sum + weight, 0)
  let [off, apart, below, seen] = [0, 0, 0, 0]
  for (const at of order) {
    const weight = weights[at]! / whole
    off += weight * Math.abs(values[at]! - came)
    apart += weight * (values[at]! * below - seen)
    below += weight
    seen += weight * values[at]!
  }
  return off - apart
}

/** Both measures over all lives and looks; every exam is made anew, so that nothing is remembered of another belief. */
function measured(): { crps: number; brier: number } {
  let [off, brier, looks] = [0, 0, 0]
  for (const life of all) {
    const { low, high } = compositeRange(life.exam)
    const passed = passes(life.exam, life.target, life.composite, life.sections)
    for (const { record, day } of life.looks.values()) {
      const assessment = assess({ ...record, exam: { ...life.exam } }, { date: dateOf(day), minute: 1200 })
      const scores = scoresOn(assessment, dayNumber(assessment.sitting!.date), 'rate')
      off += crps(scores.composite, assessment.learner.weights, life.composite) / (high - low)
      brier += ((planOdds(assessment)!.atRate?.odds ?? planOdds(assessment)!.odds!) - Number(passed)) ** 2
      looks++
    }
  }
  return { crps: (100 * off) / looks, brier: brier / looks }
}

type Part = { of: Record<string, number>; name: string; at: string; by: number; shift?: boolean }
const parts = prior as unknown as Record<string, Record<string, number>>
const wide = (name: string, at = 'sd'): Part[] =>
  [0.6, 1.6].map((by) => ({ of: parts[name]!, name: `${name}.${at} x ${by}`, at, by }))
const moved = (name: string, far: number): Part[] =>
  [-far, far].map((by) => ({
    of: parts[name]!,
    name: `${name}.mean ${by > 0 ? '+' : ''}${by}`,
    at: 'mean',
    by,
    shift: true,
  }))
const usual = measured()
const rows = [
  ...wide('general'),
  ...moved('general', 0.3),
  ...wide('section'),
  ...wide('topic'),
  ...wide('speed'),
  ...moved('speed', 0.15),
  ...wide('topicSpeed'),
  ...wide('forgetting'),
  ...moved('forgetting', 0.3),
  ...wide('blanks'),
  ...wide('pace'),
  ...moved('pace', 0.06),
  ...wide('maker'),
  ...moved('maker', 0.12),
  ...wide('day'),
  ...wide('day', 'section'),
].map(({ of, name, at, by, shift }) => {
  const before = of[at]!
  of[at] = shift ? before + by : before * by
  const now = measured()
  of[at] = before
  const change = (own: number, then: number) => `${own >= then ? '+' : ''}${(own - then).toFixed(4)}`
  return [name, before, change(now.crps, usual.crps), change(now.brier, usual.brier)]
})
table(
  `Beliefs beforehand, over ${all.length} lives: as they are, a score lies ${usual.crps.toFixed(3)}% of the scale off (CRPS), Brier ${usual.brier.toFixed(4)}; what changes with each part`,
  ['changed', 'from', 'CRPS', 'Brier'],
  rows,
)
