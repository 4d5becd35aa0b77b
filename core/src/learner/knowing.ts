import { exp, logistic } from '../exact/functions'
import { effective } from './retention'

/** Days in which what was known of old fades to 1/e of what can fade of it, where it is not met. */
export const oldStability = 350

/** Share known of a topic, and its slopes by the level, the logarithm of the speed and that of forgetting. */
export interface Knowing {
  known: number
  byLevel: number
  bySpeed: number
  byForgetting: number
}

/**
 * What can be used of a topic after work: what was known of old, faded, and what was learned, faded by itself.
 * k = o F(idle) + (1-o)(1-e^(-s h/tau)) F(fresh), with o the old share and F(x) = .3 + .7 e^(-f x).
 * `dose` is h/tau, `idle` in old stabilities and `fresh` in stabilities. Sources: docs/models.md, 2 and 3.
 */
export function knowing(
  level: number,
  speed: number,
  forgetting: number,
  { dose, idle, fresh }: { dose: number; idle: number; fresh: number },
): Knowing {
  const old = logistic(level)
  const left = exp(-speed * dose)
  const oldKept = exp(-forgetting * idle)
  const newKept = exp(-forgetting * fresh)
  const fadeOld = effective(1, oldKept)
  const fadeNew = effective(1, newKept)
  const learned = (1 - old) * (1 - left)
  return {
    known: old * fadeOld + learned * fadeNew,
    byLevel: old * (1 - old) * (fadeOld - fadeNew * (1 - left)),
    bySpeed: (1 - old) * speed * dose * left * fadeNew,
    byForgetting:
      -forgetting *
      (old * idle * (fadeOld - effective(1, 0)) + learned * fresh * (fadeNew - effective(1, 0))),
  }
}

/** Chance of a question of a topic with its odds multiplied, as on a hard paper or a good day. */
export const shifted = (known: number, factor: number): number =>
  (known * factor) / (1 - known + known * factor)
