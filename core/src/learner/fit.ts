import { backwards, cholesky, forwards, type Square } from '../exact/cholesky'
import { logit } from '../exact/functions'
import type { Problem } from './layout'
import { dayParts, type Look, lookFrom, Slopes, Summed } from './look'
import { prior } from './prior'

/** A normal distribution about the likeliest candidate: `lower` is Cholesky's factor of the precision. */
export interface Fit {
  mode: Float64Array
  lower: Square
  /** For each of the answers, its day's parts: where they are likeliest, and how they lie about that and go with the point. */
  days: { mode: Float64Array; lower: Square; cross: Float64Array }[]
}

/** Steps of the days that go with a step of the point. */
const daySteps = ({ days, size }: Look, step: Float64Array): Float64Array[] =>
  days.map(({ lower, cross, gradient }) => {
    const parts = gradient.length
    const own = gradient.slice()
    for (let row = 0; row < parts; row++)
      for (let at = 0; at < size; at++) own[row]! -= cross[row * size + at]! * step[at]!
    return backwards(lower, parts, forwards(lower, parts, own))
  })

interface Place {
  mode: Float64Array
  days: Float64Array[]
  look: Look
}

/**
 * A step that leads upwards as far as one does: whole, or as far as the parabola through what is known has its top (Nocedal and Wright
 * 2006, 3.5), where the whole one rises by much less than it should.
 */
function furthest(along: (length: number) => Place, before: number, gain: number): Place {
  let length = 1
  let best = along(length)
  for (let tries = 0; tries < 8; tries++) {
    const risen = best.look.value - before
    if (risen > 0.3 * gain * length) return best
    const top = Math.min(0.7, Math.max(0.1, (gain * length) / (2 * (gain * length - risen)))) * length
    const next = along(top)
    if (next.look.value <= best.look.value && risen > -1e-9) return best
    best = next
    length = top
  }
  return best
}

const mostSteps = 30
const enough = 1e-5

/** A point to set out from: the level and the blanks that all answers together show. */
function guessed({ layout, answers, blanks }: Problem): Float64Array {
  const from = new Float64Array(layout.size)
  let [all, missed, left] = [0, 0, 0]
  for (const { cells } of answers)
    for (const { guess, right, wrong, blank } of cells) {
      all += right + wrong + blank
      missed += blank + wrong / (1 - guess)
      left += blank
    }
  if (!all) return from
  const inside = (share: number) => Math.min(0.95, Math.max(0.05, share))
  from[layout.general] = (logit(inside(1 - missed / all)) - prior.general.mean) / prior.general.sd
  from[layout.blanks] = (logit(inside((left + 0.5) / (missed + 1))) - blanks) / prior.blanks.sd
  return from
}

/**
 * The likeliest candidate given the answers, by Fisher's scoring with halved steps where one does not lead upwards, and the normal
 * distribution about it (Laplace's method; Rasmussen and Williams 2006, 3.4). The days' own parts are taken out exactly.
 */
export function fit(problem: Problem): Fit {
  const { size } = problem.layout
  const parts = dayParts(problem)
  const sum = new Summed(size + parts)
  const slopes = new Slopes(size + parts)
  let mode: Float64Array = guessed(problem)
  let days: Float64Array[] = problem.answers.map(() => new Float64Array(parts))
  let look = lookFrom(problem, mode, days, sum, slopes)
  for (let steps = 0; ; steps++) {
    const lower = cholesky(look.information.slice(), size)
    const step = backwards(lower, size, forwards(lower, size, look.gradient.slice()))
    const gain = step.reduce((all, by, at) => all + by * look.gradient[at]!, 0)
    if (gain < enough || steps >= mostSteps)
      return {
        mode,
        lower,
        days: look.days.map(({ lower: own, cross }, at) => ({ mode: days[at]!, lower: own, cross })),
      }
    const dayStep = daySteps(look, step)
    const along = (length: number): Place => {
      const to = mode.map((value, at) => value + length * step[at]!)
      const toDays = days.map((own, at) => {
        const by = dayStep[at]!
        return by.length ? own.map((value, part) => value + length * by[part]!) : own
      })
      return { mode: to, days: toDays, look: lookFrom(problem, to, toDays, sum, slopes) }
    }
    ;({ mode, days, look } = furthest(along, look.value, gain))
  }
}
